/** The log of one lane: what the server knew of it, what is made here or in another tab, without what was dropped or refused. */
import { noStacks, stacksOf, type Logged, type Stacks } from '@/core/marking/history';
import type { Body } from './entry';
import type { LaneEvent } from './around';

export class Log<T extends Logged> {
  private rows: readonly T[];
  private stacks: Stacks<T> = noStacks<T>();
  /** Rows that are not stored yet, by the id of the entry that waits. */
  private readonly waiting = new Map<string, string>();
  private readonly listeners = new Set<() => void>();

  /** @param rowOf what an entry of the lane says of itself; null where it is no row of this log */
  constructor(
    history: readonly T[],
    private readonly rowOf: (body: Body) => T | null,
  ) {
    this.rows = history;
    this.stacks = stacksOf(history);
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  readonly snapshot = (): Stacks<T> => this.stacks;

  /** The stacks of some of its rows. */
  of(isOf: (row: T) => boolean): Stacks<T> {
    return stacksOf(this.rows.filter(isOf));
  }

  knows(id: string | null): boolean {
    return this.rows.some((row) => row.id === id);
  }

  /** One more row; a row that is known is passed over. @param entryId of the entry that waits to be stored */
  add(row: T | null, entryId: string): void {
    if (!row || this.knows(row.id)) return;
    this.waiting.set(entryId, row.id);
    this.set([...this.rows, row]);
  }

  /** A row that is stored already. */
  private stored(row: T | null): void {
    if (row && !this.knows(row.id)) this.set([...this.rows, row]);
  }

  hear(event: LaneEvent): void {
    if (event.is === 'made elsewhere') this.add(this.rowOf(event.entry.body), event.entry.id);
    if (event.is === 'stored elsewhere') this.stored(this.rowOf(event.body));
    if (event.is === 'stored') event.ids.forEach((id) => this.waiting.delete(id));
    if (event.is === 'rewritten') {
      const gone = new Set(this.waiting.values());
      this.waiting.clear();
      this.set(this.rows.filter(({ id }) => !gone.has(id)));
      event.entries.forEach(({ id, body }) => this.add(this.rowOf(body), id));
    }
  }

  private set(rows: readonly T[]): void {
    this.rows = rows;
    this.stacks = stacksOf(rows);
    this.listeners.forEach((listener) => listener());
  }
}
