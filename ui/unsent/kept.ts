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
  /** They are stored: no longer sent, but remembered for a while, since a view that is on its way may have been made before. */
  stored(ids: readonly string[], at: number): Promise<void>;
  /** What waits and what was stored lately, as at one moment; what was stored before `since` is forgotten. */
  found(since: number): Promise<Found>;
  /** Puts others in the place of a lane's entries in one step, worked out from those that are there now. @returns what is there now */
  rewrite(lane: string, change: (entries: Entry[]) => Entry[]): Promise<Entry[]>;
}

/** `at`: when it was known to be stored, in ms. */
export interface Stored {
  entry: Entry;
  at: number;
}

export interface Found {
  waiting: Entry[];
  stored: Stored[];
}

const DATABASE = 'omaggio-unsent';
const STORE = 'changes';
const STORED = 'stored';

export function inIndexedDb(): Kept {
  let opened: Promise<IDBPDatabase> | null = null;
  const database = (): Promise<IDBPDatabase> => {
    opened ??= openDB(DATABASE, 2, {
      upgrade: (db, before) => {
        if (before < 1) db.createObjectStore(STORE, { keyPath: 'seq', autoIncrement: true });
        db.createObjectStore(STORED, { keyPath: 'seq' });
      },
      blocking: (_now, _next, event) => (event.target as IDBDatabase).close(),
      terminated: () => (opened = null),
    }).catch((error: unknown) => {
      opened = null;
      throw error;
    });
    return opened;
  };
  const writing = async () => {
    const transaction = (await database()).transaction([STORE, STORED], 'readwrite', { durability: 'strict' });
    return { transaction, store: transaction.objectStore(STORE), memory: transaction.objectStore(STORED) };
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
    async stored(ids, at) {
      const done = new Set(ids);
      const { transaction, store, memory } = await writing();
      const entries = readable(await store.getAll()).filter(({ id }) => done.has(id));
      await Promise.all([...entries.flatMap((entry) => [store.delete(entry.seq!), memory.put({ ...entry, storedAt: at })]), transaction.done]);
    },
    async found(since) {
      const { transaction, store, memory } = await writing();
      const [waiting, remembered] = await Promise.all([store.getAll(), memory.getAll() as Promise<Array<{ seq: number; storedAt: number }>>]);
      const isOld = ({ storedAt }: { storedAt: number }) => storedAt < since;
      await Promise.all([...remembered.filter(isOld).map(({ seq }) => memory.delete(seq)), transaction.done]);
      const lately = remembered.filter((record) => !isOld(record));
      return { waiting: readable(waiting), stored: lately.flatMap((record) => readable([record]).map((entry) => ({ entry, at: record.storedAt }))) };
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
