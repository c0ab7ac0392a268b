/** Long work in steps, so that whoever does it can look after something else in between, or give it up. */

/** Yields between steps, nothing in particular; returns what came of it. */
export type Steps<T> = Generator<void, T>;

/** All steps at once. */
export function finished<T>(steps: Steps<T>): T {
  for (;;) {
    const { done, value } = steps.next();
    if (done) return value;
  }
}
