/** The server's worker threads. Started by path, talked to in messages. */
import { availableParallelism, totalmem } from 'node:os';
import path from 'node:path';
import { Piscina } from 'piscina';
import type { CheckTask, PartVerdict } from '../workers/server/check-part';
import type { EngraveTask, MarkedOutput, MarkedTask, ReadFile, TypedPassage } from '../workers/server/tasks';
import type { CarriedOver, carryOver, compareEditions, LikestPart } from '../workers/server/editions';
import type { Engraving } from '../workers/server/engraver';
import type { Told } from '../core/instruments/as-told';
import type { Marking } from '../core/marking/mark';
import type { ChangedBar } from '../core/handout/in-words';
import type { Result } from '../core/util/result';
import type { PrintTask } from '../workers/server/paper';
import type { StripsTask } from '../workers/server/strips';
import type { HandShown, ReadAs, StandPart } from '../workers/server/stand';
import { connections } from './db';
import { FairQueue } from './fair-queue';
import { book, tellState } from './metrics';
import { watchTask } from './task-clock';

interface Tasks {
  warmUp: { input: null; output: void };
  readFile: { input: { bytes: Uint8Array }; output: Result<ReadFile> };
  readTyped: { input: { abc: string; widthPx: number }; output: Result<TypedPassage> };
  engravePassage: { input: EngraveTask; output: Engraving };
  engraveStand: { input: ReadAs & { widthPx: number; hand?: HandShown }; output: StandPart };
  printParts: { input: PrintTask; output: Uint8Array };
  printStrips: { input: StripsTask; output: Uint8Array };
  joinPdfs: { input: { title: string; pdfs: readonly Uint8Array[] }; output: Uint8Array };
  changedForReader: { input: { before: ReadAs; after: ReadAs }; output: ChangedBar[] };
  targetsOnNext: { input: { before: ReadAs; after: ReadAs; targets: readonly string[] }; output: Array<[string, string | null]> };
  likestPart: { input: { music: string; bytes: Uint8Array }; output: Result<LikestPart> };
  compareEditions: { input: { ours: string; theirs: string; marking: Marking }; output: ReturnType<typeof compareEditions> };
  carryOver: { input: Parameters<typeof carryOver>[0]; output: CarriedOver };
  checkPart: { input: CheckTask; output: PartVerdict };
  midi: { input: { title: string; music: string; marking: Marking; told: Told }; output: Uint8Array };
  marksAlone: { input: { music: string; marking: Marking; told: Told }; output: string };
  markedFile: { input: MarkedTask; output: MarkedOutput };
}

/** Who asks, and until when they want to know. */
export interface Asker {
  /** One browser; what the server does for itself has a name of its own. */
  client: string;
  signal?: AbortSignal | undefined;
  /** They want it within this many milliseconds or not at all, where that is less than the task may take. */
  withinMs?: number;
}

export const OURSELVES: Asker = { client: 'server' };

/** A task that took more time or memory than it may; its worker was ended and another one started. */
export class TaskTooMuch extends Error {
  constructor(
    readonly task: keyof Tasks,
    readonly reason: 'time' | 'memory',
    readonly limitMs: number,
  ) {
    super(`${task} was ended: it took ${reason === 'time' ? `more than ${limitMs / 1000} s` : 'too much memory'}`);
  }
}

interface Limit {
  /** Milliseconds for any input, and for each MB of it. */
  ms: number;
  msPerMb: number;
  /** From this many bytes on the task counts as long and leaves a worker free for short ones. */
  longFrom: number;
}

const KB = 1024;
const MB = 1024 * KB;

/** What each task may compute on the machine it was measured on (2 cores), about ten times what the largest real scores took. */
const LIMITS_OF: Readonly<Record<keyof Tasks, Limit>> = {
  warmUp: { ms: 60_000, msPerMb: 0, longFrom: Infinity },
  readFile: { ms: 8_000, msPerMb: 4_000, longFrom: 300 * KB },
  readTyped: { ms: 6_000, msPerMb: 0, longFrom: 4 * KB },
  engravePassage: { ms: 7_000, msPerMb: 300, longFrom: 6 * MB },
  engraveStand: { ms: 20_000, msPerMb: 20_000, longFrom: 1_500 * KB },
  printParts: { ms: 60_000, msPerMb: 20_000, longFrom: 0 },
  printStrips: { ms: 60_000, msPerMb: 20_000, longFrom: 0 },
  joinPdfs: { ms: 30_000, msPerMb: 5_000, longFrom: 0 },
  changedForReader: { ms: 8_000, msPerMb: 8_000, longFrom: 400 * KB },
  targetsOnNext: { ms: 8_000, msPerMb: 8_000, longFrom: 400 * KB },
  likestPart: { ms: 8_000, msPerMb: 8_000, longFrom: 100 * KB },
  compareEditions: { ms: 8_000, msPerMb: 8_000, longFrom: 100 * KB },
  carryOver: { ms: 8_000, msPerMb: 8_000, longFrom: 100 * KB },
  checkPart: { ms: 60_000, msPerMb: 60_000, longFrom: 0 },
  midi: { ms: 8_000, msPerMb: 4_000, longFrom: 600 * KB },
  marksAlone: { ms: 8_000, msPerMb: 4_000, longFrom: 600 * KB },
  markedFile: { ms: 8_000, msPerMb: 6_000, longFrom: 600 * KB },
};

/** Somebody who went away does not end a worker that is about to be done: starting another one takes longer. */
const PATIENCE_MS = 1_500;

/** How many times as slow as the one that was measured this machine is said to be; tests say so, since they share theirs with others. */
const slowness = (): number => Math.max(1, Number(process.env.OMAGGIO_SLOWNESS) || 1);

/** Workers: one more than the cores, so that long work and one asker leave room (`fair-queue.ts`). */
const PLACES = Math.min(4, Math.max(2, availableParallelism() + 1));

/** Heap of one worker. The engraver's own memory is bounded in `workers/server/entry.mjs`. */
const HEAP_MB = Math.max(256, Math.min(1_536, Math.floor(totalmem() / MB / (PLACES + 2))));

const holder = globalThis as unknown as { omaggioWorkers?: { pool: Piscina; queue: FairQueue } };

function workers(): { pool: Piscina; queue: FairQueue } {
  holder.omaggioWorkers ??= {
    pool: new Piscina({
      filename: path.join(process.cwd(), 'workers', 'server', 'entry.mjs'),
      minThreads: 1,
      maxThreads: PLACES,
      concurrentTasksPerWorker: 1,
      idleTimeout: 600_000,
      resourceLimits: { maxOldGenerationSizeMb: HEAP_MB },
    }),
    queue: new FairQueue(PLACES),
  };
  const { queue } = holder.omaggioWorkers;
  tellState(async () => ({ waitingTasks: queue.length, connections: connections() }));
  return holder.omaggioWorkers;
}

/**
 * Does a task off the main thread, in its turn and within its limits.
 * @throws TaskTooMuch where it takes too much; the asker's own reason where the asker goes away
 */
export async function inWorker<T extends keyof Tasks>(task: T, input: Tasks[T]['input'], asker: Asker): Promise<Tasks[T]['output']> {
  const begun = performance.now();
  let outcome: 'done' | 'failed' = 'failed';
  try {
    const output = await inItsTurn(task, input, asker);
    outcome = 'done';
    return output;
  } finally {
    book()?.task(task, outcome, (performance.now() - begun) / 1000);
  }
}

async function inItsTurn<T extends keyof Tasks>(task: T, input: Tasks[T]['input'], asker: Asker): Promise<Tasks[T]['output']> {
  const { pool, queue } = workers();
  const bytes = bytesOf(input);
  const limit = LIMITS_OF[task];
  const cpuMs = Math.round(slowness() * (limit.ms + (limit.msPerMb * bytes) / MB));
  const wallMs = asker.withinMs ?? Infinity;
  return queue.run({
    asker: asker.client,
    long: bytes >= limit.longFrom,
    signal: asker.signal,
    run: async () => {
      const end = new AbortController();
      const shared = new Int32Array(new SharedArrayBuffer(8));
      const timer = watchTask(shared, { cpuMs, wallMs }, () => end.abort());
      let patience: NodeJS.Timeout | undefined;
      const begun = performance.now();
      const gone = () => {
        patience = setTimeout(() => end.abort(asker.signal!.reason), Math.max(0, PATIENCE_MS - (performance.now() - begun)));
      };
      asker.signal?.addEventListener('abort', gone, { once: true });
      try {
        return (await pool.run({ task, input, shared }, { signal: end.signal })) as Tasks[T]['output'];
      } catch (error) {
        if (end.signal.aborted && !asker.signal?.aborted) throw new TaskTooMuch(task, 'time', Math.min(cpuMs, wallMs));
        if ((error as { code?: string }).code === 'ERR_WORKER_OUT_OF_MEMORY') throw new TaskTooMuch(task, 'memory', cpuMs);
        throw error;
      } finally {
        clearInterval(timer);
        clearTimeout(patience);
        asker.signal?.removeEventListener('abort', gone);
      }
    },
  });
}

/** Bytes and letters of an input, as far as they lie at its top. */
function bytesOf(input: unknown): number {
  if (input === null || typeof input !== 'object') return 0;
  return Object.values(input).reduce<number>(
    (sum, value) => sum + (typeof value === 'string' ? value.length : value instanceof Uint8Array ? value.byteLength : 0),
    0,
  );
}

export async function stopWorkers(): Promise<void> {
  await holder.omaggioWorkers?.pool.destroy();
  delete holder.omaggioWorkers;
}
