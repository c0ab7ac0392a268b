/**
 * The analyst of one part in a worker of its own. The passage on view is checked at once and the whole part in steps, between which
 * everything else is answered; of what only fills a panel only the newest is worked out.
 */
import { releaseProxy, wrap, type Remote } from 'comlink';
import type { Analyst } from '@/workers/analyst';
import { LatestFirst } from '@/ui/kit/latest-first';

/** What an analyst can be asked, answered later. */
export type RemoteAnalyst = { [K in keyof Analyst]: (...args: Parameters<Analyst[K]>) => Promise<Awaited<ReturnType<Analyst[K]>>> };

/** Asked as they come; everything else waits its turn. */
const AT_ONCE = ['open', 'corrected', 'join', 'joined', 'near', 'report', 'reportInSteps', 'tempi'] as const satisfies ReadonlyArray<keyof Analyst>;
type Question = Exclude<keyof Analyst, (typeof AT_ONCE)[number]>;

/** What is looked at next goes first. */
const RANKS: Readonly<Record<Question, number>> = {
  triedBow: 0,
  choices: 1,
  bowChoices: 1,
  tried: 1,
  suggestFingering: 2,
  suggestBowing: 2,
  remedies: 3,
  cue: 3,
  reading: 4,
  around: 4,
  entries: 5,
  wantedTempi: 5,
  handAdvice: 5,
  bowOfPassage: 5,
  changesFor: 6,
  fit: 7,
};

/** Asked for several players at once, or by a key while a panel asks the same: each answer is wanted. */
const EACH: ReadonlySet<Question> = new Set<Question>(['changesFor', 'fit', 'entries', 'cue']);

export interface StartedAnalyst {
  remote: RemoteAnalyst;
  end(): void;
}

export function startAnalyst(onError: () => void): StartedAnalyst {
  const worker = new Worker(new URL('@/workers/analyst.worker.ts', import.meta.url), { type: 'module' });
  worker.onerror = onError;
  const analyst: Remote<Analyst> = wrap<Analyst>(worker);
  const questions = new LatestFirst<Question>((kind) => RANKS[kind]);
  const remote = new Proxy({} as RemoteAnalyst, {
    get(_target, name: keyof Analyst) {
      const ask = analyst[name] as (...args: unknown[]) => Promise<unknown>;
      if ((AT_ONCE as readonly string[]).includes(name)) return (...args: unknown[]) => ask(...args);
      if (!(name in RANKS)) return undefined;
      return (...args: unknown[]) => questions.ask(name as Question, () => ask(...args), EACH.has(name as Question));
    },
  });
  return {
    remote,
    end() {
      analyst[releaseProxy]();
      worker.terminate();
    },
  };
}
