/** Kept results, the latest used, up to a number of bytes; what is larger than a quarter of it is not kept at all. */
export class ByteCache<T> {
  private readonly kept = new Map<string, { value: T; bytes: number }>();
  private total = 0;

  constructor(private readonly mostBytes: number) {}

  get bytes(): number {
    return this.total;
  }

  get(key: string): T | undefined {
    const found = this.kept.get(key);
    if (!found) return undefined;
    this.kept.delete(key);
    this.kept.set(key, found);
    return found.value;
  }

  set(key: string, value: T, bytes: number): void {
    this.delete(key);
    if (bytes > this.mostBytes / 4) return;
    this.kept.set(key, { value, bytes });
    this.total += bytes;
    while (this.total > this.mostBytes) this.delete(this.kept.keys().next().value!);
  }

  delete(key: string): void {
    const found = this.kept.get(key);
    if (!found) return;
    this.kept.delete(key);
    this.total -= found.bytes;
  }
}
