/**
 * Sends changes one after the other, so that a later one is never overtaken by an earlier one; what comes while one is on its
 * way is merged and sent next.
 */
export class InOrder<T extends object> {
  private waiting: T | null = null;
  private busy = false;

  constructor(
    private readonly send: (change: T) => Promise<void>,
    private readonly merge: (first: T, then: T) => T = (first, then) => ({ ...first, ...then }),
  ) {}

  put(change: T): void {
    this.waiting = this.waiting ? this.merge(this.waiting, change) : change;
    if (!this.busy) void this.flush();
  }

  /** The page is being left: what waits goes out at once. */
  leave = (): void => {
    const change = this.waiting;
    this.waiting = null;
    if (change) void this.send(change);
  };

  private async flush(): Promise<void> {
    this.busy = true;
    while (this.waiting) {
      const change = this.waiting;
      this.waiting = null;
      await this.send(change);
    }
    this.busy = false;
  }
}
