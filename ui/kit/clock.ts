let last = 0;

/** Now as ISO 8601, and later than whatever it said before: two things that are done in one moment keep their order. */
export function laterThanBefore(): string {
  last = Math.max(Date.now(), last + 1);
  return new Date(last).toISOString();
}
