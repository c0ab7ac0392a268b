/** Work that several ask for at once is done once; it is given up when the last of them has gone. */
export class SharedWork<T> {
  private readonly underWay = new Map<string, { result: Promise<T>; askers: number; abort: AbortController }>();

  get size(): number {
    return this.underWay.size;
  }

  async get(key: string, signal: AbortSignal | undefined, work: (signal: AbortSignal) => Promise<T>): Promise<T> {
    signal?.throwIfAborted();
    let shared = this.underWay.get(key);
    if (!shared) {
      const abort = new AbortController();
      const begun = { result: work(abort.signal), askers: 0, abort };
      this.underWay.set(key, begun);
      const done = () => {
        if (this.underWay.get(key) === begun) this.underWay.delete(key);
      };
      begun.result.then(done, done);
      shared = begun;
    }
    const { result, abort } = shared;
    const mine = shared;
    mine.askers++;
    if (!signal) return result;
    return new Promise<T>((resolve, reject) => {
      const gone = () => {
        mine.askers--;
        if (mine.askers === 0) {
          // A newcomer begins anew instead of joining what is being given up.
          if (this.underWay.get(key) === mine) this.underWay.delete(key);
          abort.abort(signal.reason);
        }
        reject(signal.reason as Error);
      };
      signal.addEventListener('abort', gone, { once: true });
      const settled = () => signal.removeEventListener('abort', gone);
      result.then(
        (value) => (settled(), resolve(value)),
        (error: unknown) => (settled(), reject(error as Error)),
      );
    });
  }
}
