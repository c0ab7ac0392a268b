/**
 * What went wrong with something the user gave us, in a shape that every door can show:
 * where it is, what it is, and what to do about it.
 */
export interface Problem {
  /** Where: "bar 12", "line 3, column 7", "part Viola"; null when it is the input as a whole. */
  place: string | null;
  /** What is wrong, as one sentence without the place. */
  what: string;
  /** What the user can do about it. */
  remedy: string;
}

export type Result<T> = { ok: true; value: T } | { ok: false; problem: Problem };

export const good = <T>(value: T): Result<T> => ({ ok: true, value });

export const bad = (place: string | null, what: string, remedy: string): { ok: false; problem: Problem } => ({
  ok: false,
  problem: { place, what, remedy },
});

/** One line for people: place, what, remedy. */
export function problemText(problem: Problem): string {
  const where = problem.place ? `${problem.place}: ` : '';
  return `${where}${problem.what} ${problem.remedy}`;
}
