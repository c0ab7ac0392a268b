/** A newer question of the same kind came before this one was asked. */
export class Superseded extends Error {}

interface Waiting {
  rank: number;
  run(): Promise<void>;
  drop(): void;
}

/**
 * Questions to somebody who answers one at a time. While one is being answered, only the newest of each kind waits: an older one
 * of the same kind is not asked any more, and whoever asked it is told so. Of those that wait, the kind of the lowest rank goes first.
 */
export class LatestFirst<Kind extends string> {
  private busy = false;
  private readonly waiting = new Map<string, Waiting>();
  private count = 0;

  constructor(private readonly rankOf: (kind: Kind) => number) {}

  /** @param each every question of this kind is answered, in order */
  ask<T>(kind: Kind, question: () => Promise<T>, each = false): Promise<T> {
    return new Promise<T>((resolve, reject) => {
      const run = () => question().then(resolve, reject);
      const name = each ? `${kind} ${this.count++}` : kind;
      this.waiting.get(name)?.drop();
      this.waiting.set(name, { rank: this.rankOf(kind), run, drop: () => reject(new Superseded()) });
      void this.next();
    });
  }

  private async next(): Promise<void> {
    if (this.busy) return;
    const first = [...this.waiting].reduce<[string, Waiting] | null>((best, entry) => (!best || entry[1].rank < best[1].rank ? entry : best), null);
    if (!first) return;
    this.waiting.delete(first[0]);
    this.busy = true;
    await first[1].run();
    this.busy = false;
    void this.next();
  }
}
