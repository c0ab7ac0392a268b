/** Where unsent changes lie in the browser: IndexedDB, a record each, on the disk before anybody says that they are kept. */
import { openDB, type IDBPDatabase } from 'idb';
import { entryShape, laneOf, type Entry } from './entry';

/** What the outbox needs of the place; tests have one in memory. */
export interface Kept {
  /** Resolves with its number when it is on the disk. */
  put(entry: Entry): Promise<number>;
  /** In the order in which they were kept. */
  all(): Promise<Entry[]>;
  remove(ids: readonly string[]): Promise<void>;
  /** Puts others in the place of a lane's entries in one step, worked out from those that are there now. @returns what is there now */
  rewrite(lane: string, change: (entries: Entry[]) => Entry[]): Promise<Entry[]>;
}

const DATABASE = 'omaggio-unsent';
const STORE = 'changes';

export function inIndexedDb(): Kept {
  let opened: Promise<IDBPDatabase> | null = null;
  const database = (): Promise<IDBPDatabase> => {
    opened ??= openDB(DATABASE, 1, {
      upgrade: (db) => void db.createObjectStore(STORE, { keyPath: 'seq', autoIncrement: true }),
      blocking: (_now, _next, event) => (event.target as IDBDatabase).close(),
      terminated: () => (opened = null),
    }).catch((error: unknown) => {
      opened = null;
      throw error;
    });
    return opened;
  };
  const writing = async () => {
    const transaction = (await database()).transaction(STORE, 'readwrite', { durability: 'strict' });
    return { transaction, store: transaction.objectStore(STORE) };
  };
  return {
    async put(entry) {
      const { transaction, store } = await writing();
      const { seq: _, ...record } = entry;
      const [seq] = await Promise.all([store.put(record), transaction.done]);
      return seq as number;
    },
    async all() {
      return readable(await (await database()).getAll(STORE));
    },
    async remove(ids) {
      const gone = new Set(ids);
      const { transaction, store } = await writing();
      const there = readable(await store.getAll());
      await Promise.all([...there.filter(({ id }) => gone.has(id)).map(({ seq }) => store.delete(seq!)), transaction.done]);
    },
    async rewrite(lane, change) {
      const { transaction, store } = await writing();
      const before = readable(await store.getAll()).filter(({ body }) => laneOf(body) === lane);
      const after = change(before);
      for (const { seq } of before) void store.delete(seq!);
      const numbers = await Promise.all(
        after.map((entry) => {
          const { seq: _, ...record } = entry;
          return store.put(record);
        }),
      );
      await transaction.done;
      return after.map((entry, i) => ({ ...entry, seq: numbers[i] as number }));
    },
  };
}

/** Records of ours; what cannot be understood stays where it is. */
const readable = (records: unknown[]): Entry[] =>
  records.flatMap((record) => {
    const parsed = entryShape.safeParse(record);
    return parsed.success ? [parsed.data as Entry] : [];
  });
