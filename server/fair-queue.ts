/**
 * Who is served next: a fixed number of places, short work before long work, and among askers the one who has least under way and
 * has waited longest since being served. One asker never holds all places, nor does long work: somebody else's eight bars need
 * not wait for a symphony.
 */
export interface Work<T> {
  /** Who asks: a browser, or a part of the server itself. */
  asker: string;
  long: boolean;
  /** Ends the waiting; what has begun ends itself. */
  signal?: AbortSignal | undefined;
  run(): Promise<T>;
}

interface Waiting {
  asker: string;
  long: boolean;
  number: number;
  begin(): void;
}

export class FairQueue {
  private readonly waiting = new Set<Waiting>();
  private readonly underWay = new Map<string, number>();
  /** When each asker was served last, as a running number. */
  private readonly served = new Map<string, number>();
  private running = 0;
  private runningLong = 0;
  private count = 0;

  /** @param places work done at the same time, at least 2 */
  constructor(private readonly places: number) {}

  /** How much waits. */
  get length(): number {
    return this.waiting.size;
  }

  async run<T>({ asker, long, signal, run }: Work<T>): Promise<T> {
    signal?.throwIfAborted();
    await new Promise<void>((resolve, reject) => {
      const gone = () => {
        this.waiting.delete(entry);
        reject(signal!.reason as Error);
      };
      const begin = () => {
        signal?.removeEventListener('abort', gone);
        this.began(asker, long);
        resolve();
      };
      const entry: Waiting = { asker, long, number: this.count++, begin };
      signal?.addEventListener('abort', gone, { once: true });
      this.waiting.add(entry);
      this.next();
    });
    try {
      return await run();
    } finally {
      this.ended(asker, long);
    }
  }

  private began(asker: string, long: boolean): void {
    this.running++;
    if (long) this.runningLong++;
    this.underWay.set(asker, (this.underWay.get(asker) ?? 0) + 1);
    this.served.delete(asker);
    this.served.set(asker, this.count++);
    if (this.served.size > MOST_REMEMBERED) this.served.delete(this.served.keys().next().value!);
  }

  private ended(asker: string, long: boolean): void {
    this.running--;
    if (long) this.runningLong--;
    const left = this.underWay.get(asker)! - 1;
    if (left) this.underWay.set(asker, left);
    else this.underWay.delete(asker);
    this.next();
  }

  private next(): void {
    while (this.running < this.places) {
      let best: Waiting | null = null;
      for (const entry of this.waiting) if (this.mayBegin(entry) && (!best || this.isBefore(entry, best))) best = entry;
      if (!best) return;
      this.waiting.delete(best);
      best.begin();
    }
  }

  private mayBegin({ asker, long }: Waiting): boolean {
    if (long && this.runningLong >= this.places - 1) return false;
    return (this.underWay.get(asker) ?? 0) < this.places - 1;
  }

  private isBefore(a: Waiting, b: Waiting): boolean {
    if (a.long !== b.long) return !a.long;
    const [mine, theirs] = [this.underWay.get(a.asker) ?? 0, this.underWay.get(b.asker) ?? 0];
    if (mine !== theirs) return mine < theirs;
    const [last, other] = [this.served.get(a.asker) ?? -1, this.served.get(b.asker) ?? -1];
    return last !== other ? last < other : a.number < b.number;
  }
}

const MOST_REMEMBERED = 1_000;
