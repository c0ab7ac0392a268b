/**
 * Pencil marks: what a player writes into their own part. They are no marks of the coach's marking: nothing plans or checks with them,
 * and nobody but the player sees them unless the player shows them.
 */
import { z } from 'zod';
import { LIMITS } from '../util/limits';
import { cleanText } from '../util/text';
import { lostTarget } from '../editions/anchor';

/** `look`: a pair of glasses, to look up. */
export const PENCIL_KINDS = ['finger', 'bow', 'circle', 'look', 'words'] as const;
export type PencilKind = (typeof PENCIL_KINDS)[number];

export const PENCIL_FINGERS = ['0', '1', '2', '3', '4', 'T'] as const;
export const PENCIL_BOWS = ['down', 'up'] as const;

export interface PencilMark {
  /** The note by its id; where it stood, when it has no place any more (`lostTarget`). */
  target: string;
  kind: PencilKind;
  /** Null where it was rubbed out. */
  value: string | null;
  /** Where it stands, as people say it: "bar 12". */
  where: string;
  /** When it was written, ISO 8601. */
  at: string;
}

const isValue: Readonly<Record<PencilKind, (value: string) => boolean>> = {
  finger: (value) => (PENCIL_FINGERS as readonly string[]).includes(value),
  bow: (value) => (PENCIL_BOWS as readonly string[]).includes(value),
  circle: (value) => value === '',
  look: (value) => value === '',
  words: (value) => value !== '' && value.length <= LIMITS.pencilWords,
};

export const pencilShape = z
  .object({
    target: z.string().min(1).max(LIMITS.target),
    kind: z.enum(PENCIL_KINDS),
    value: z.string().transform(cleanText).nullable(),
    where: z
      .string()
      .transform(cleanText)
      .pipe(z.string().max(LIMITS.barLabel + 40)),
    at: z.iso.datetime({ offset: true }),
  })
  .refine(({ kind, value }) => value === null || isValue[kind](value), { path: ['value'], message: 'is nothing that a pencil writes here' });

export const pencilKey = ({ target, kind }: Pick<PencilMark, 'target' | 'kind'>): string => `${target}|${kind}`;

/** What several devices wrote, in whatever order it comes: of each sign at each note the latest; of two at the same moment the later one said. */
export function penciled(before: readonly PencilMark[], more: readonly PencilMark[]): PencilMark[] {
  const latest = new Map<string, PencilMark>();
  for (const mark of [...before, ...more]) {
    const known = latest.get(pencilKey(mark));
    if (!known || Date.parse(mark.at) >= Date.parse(known.at)) latest.set(pencilKey(mark), mark);
  }
  return [...latest.values()];
}

/**
 * The marks on the next hand-out. @param moved where each target is there; null where it is no more
 * Two that come to stand in one place are one: the later one. What finds no place is kept with where it stood.
 */
export function pencilMoved(marks: readonly PencilMark[], moved: ReadonlyMap<string, string | null>): PencilMark[] {
  const there = marks.map((mark) => {
    const target = moved.get(mark.target) ?? null;
    return { ...mark, target: target ?? (lostTarget(mark.target) ? mark.target : `lost [${mark.where}] ${mark.target}`) };
  });
  return penciled([], there);
}

/** In words, for a list: "finger 3", "up-bow", “breathe with the violas”. */
export function pencilInWords({ kind, value }: Pick<PencilMark, 'kind' | 'value'>): string {
  if (value === null) return `${kind === 'look' ? 'glasses' : kind} rubbed out`;
  switch (kind) {
    case 'finger':
      return value === 'T' ? 'thumb' : `finger ${value}`;
    case 'bow':
      return `${value}-bow`;
    case 'circle':
      return 'circled';
    case 'look':
      return 'glasses: look up';
    case 'words':
      return `“${value}”`;
  }
}
