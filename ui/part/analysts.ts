/**
 * Two analysts for one part, each in a worker of its own: one checks after every mark and does nothing else, the other answers
 * what is asked aside. So the check never waits for what only fills a panel, and of that only the newest is worked out.
 */
import { releaseProxy, wrap, type Remote } from 'comlink';
import type { Analyst } from '@/workers/analyst';
import type { OpenPart } from '@/workers/questions';
import { LatestFirst } from '@/ui/kit/latest-first';

/** What an analyst can be asked, answered later. */
export type RemoteAnalyst = { [K in keyof Analyst]: (...args: Parameters<Analyst[K]>) => Promise<ReturnType<Analyst[K]>> };

type Question = Exclude<keyof Analyst, 'open' | 'join' | 'joined' | 'near' | 'report'>;

/** What is looked at next goes first. */
const RANKS: Readonly<Record<Question, number>> = {
  triedBow: 0,
  choices: 1,
  bowChoices: 1,
  tried: 1,
  suggestFingering: 2,
  suggestBowing: 2,
  remedies: 3,
  reading: 4,
  handAdvice: 5,
  bowOfPassage: 5,
  changesFor: 6,
  fit: 7,
};

/** Asked for several players at once: each answer is wanted. */
const EACH: ReadonlySet<Question> = new Set<Question>(['changesFor', 'fit']);

export interface Analysts {
  remote: RemoteAnalyst;
  open(music: string): Promise<OpenPart>;
  end(): void;
}

export function startAnalysts(onError: () => void): Analysts {
  const workers = [0, 1].map(() => new Worker(new URL('@/workers/analyst.worker.ts', import.meta.url), { type: 'module' }));
  for (const worker of workers) worker.onerror = onError;
  const [checking, aside] = workers.map((worker) => wrap<Analyst>(worker)) as [Remote<Analyst>, Remote<Analyst>];
  const questions = new LatestFirst<Question>((kind) => RANKS[kind]);
  const both: Pick<RemoteAnalyst, 'open' | 'join' | 'joined' | 'near' | 'report'> = {
    open: async (music) => (await Promise.all([checking.open(music), aside.open(music)]))[0],
    join: async (others) => void (await Promise.all([checking.join(others), aside.join(others)])),
    joined: async (partId, changes) => void (await Promise.all([checking.joined(partId, changes), aside.joined(partId, changes)])),
    near: (conditions, passages, range) => checking.near(conditions, passages, range),
    report: (conditions, passages) => checking.report(conditions, passages),
  };
  const remote = new Proxy(both, {
    get(target, name: keyof Analyst) {
      if (name in target) return target[name as keyof typeof both];
      if (!(name in RANKS)) return undefined;
      const ask = aside[name as Question] as (...args: unknown[]) => Promise<unknown>;
      return (...args: unknown[]) => questions.ask(name as Question, () => ask(...args), EACH.has(name as Question));
    },
  }) as unknown as RemoteAnalyst;
  return {
    remote,
    open: both.open,
    end() {
      for (const analyst of [checking, aside]) analyst[releaseProxy]();
      for (const worker of workers) worker.terminate();
    },
  };
}
