/**
 * Counts and times, where somebody keeps them: the server in front (`tools/serve.ts`) puts its book here, and what runs without one,
 * as tests and preparations do, counts nothing.
 */
export interface Book {
  /** A task of the worker threads. @param seconds with the time that it waited for its turn */
  task(name: string, outcome: 'done' | 'failed', seconds: number): void;
  query(seconds: number): void;
  /** Pages that follow their part. */
  follows(change: 1 | -1): void;
}

const holder = globalThis as unknown as { omaggioBook?: Book; omaggioState?: () => Promise<State> };

export const book = (): Book | undefined => holder.omaggioBook;

export function keepBook(made: Book): void {
  holder.omaggioBook = made;
}

/** What can be asked at any moment. */
export interface State {
  /** Tasks that wait for a worker thread. */
  waitingTasks: number;
  connections: { open: number; idle: number; waiting: number };
}

export const stateNow = (): Promise<State> | undefined => holder.omaggioState?.();

export function tellState(state: () => Promise<State>): void {
  holder.omaggioState = state;
}

/** A question to the database that takes longer is named in the log (judgement). */
const SLOW_MS = 500;

/** Times a question; a slow one is named, without what it was asked with. */
export async function timed<T>(text: string, work: () => Promise<T>): Promise<T> {
  const begun = performance.now();
  try {
    return await work();
  } finally {
    const ms = performance.now() - begun;
    book()?.query(ms / 1000);
    if (ms > SLOW_MS) console.warn(JSON.stringify({ slow: text.replace(/\s+/g, ' ').trim().slice(0, 200), ms: Math.round(ms) }));
  }
}
