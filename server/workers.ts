/** The server's worker threads. Started by path, talked to in messages. */
import path from 'node:path';
import { Piscina } from 'piscina';
import type { EngraveTask, MarkedTask, ReadFile, TypedPassage } from '../workers/server/tasks';
import type { CarriedOver, carryOver, compareEditions, LikestPart } from '../workers/server/editions';
import type { Engraving } from '../workers/server/engraver';
import type { Told } from '../core/instruments/as-told';
import type { Marking } from '../core/marking/mark';
import type { Result } from '../core/util/result';

interface Tasks {
  warmUp: { input: null; output: void };
  readFile: { input: { bytes: Uint8Array }; output: Result<ReadFile> };
  readTyped: { input: { abc: string; widthPx: number }; output: Result<TypedPassage> };
  engravePassage: { input: EngraveTask; output: Engraving };
  likestPart: { input: { music: string; bytes: Uint8Array }; output: Result<LikestPart> };
  compareEditions: { input: { ours: string; theirs: string; marking: Marking }; output: ReturnType<typeof compareEditions> };
  carryOver: { input: Parameters<typeof carryOver>[0]; output: CarriedOver };
  midi: { input: { title: string; music: string; marking: Marking; told: Told }; output: Uint8Array };
  marksAlone: { input: { music: string; marking: Marking; told: Told }; output: string };
  markedFile: { input: MarkedTask; output: Uint8Array };
}

const holder = globalThis as unknown as { omaggioWorkers?: Piscina };

function workers(): Piscina {
  holder.omaggioWorkers ??= new Piscina({
    filename: path.join(process.cwd(), 'workers', 'server', 'entry.mjs'),
    minThreads: 1,
    maxThreads: 2,
    idleTimeout: 600_000,
  });
  return holder.omaggioWorkers;
}

export async function inWorker<T extends keyof Tasks>(task: T, input: Tasks[T]['input']): Promise<Tasks[T]['output']> {
  return workers().run({ task, input }) as Promise<Tasks[T]['output']>;
}

export async function stopWorkers(): Promise<void> {
  await holder.omaggioWorkers?.destroy();
  holder.omaggioWorkers = undefined;
}
