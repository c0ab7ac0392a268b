/**
 * What the players of a part get, frozen: the part's document, the marks that are for players, each player's own, who has which line of a
 * divided part, the wanted tempo. Everything that is the coach's alone stays out: what is set aside, where a mark came from and
 * why, who made it.
 */
import { NOTHING_TOLD, toldOf, type Told } from '../instruments/as-told';
import { withVariant } from '../marking/variant';
import type { Mark, Marking } from '../marking/mark';

/** `${target}|${kind}` → what the mark says. */
export type Said = Readonly<Record<string, string>>;
/** The same of one player; `false`: the mark for everybody does not hold for them. */
export type SaidAlone = Readonly<Record<string, string | false>>;

export interface Frozen {
  title: string;
  composer: string | null;
  /** Name of the part. */
  part: string;
  /** SHA-256 of the part's document, in hex. */
  music: string;
  marks: Said;
  /** By player: what differs from the marks for everybody. Who has nothing of their own is not in it. */
  own: Readonly<Record<string, SaidAlone>>;
  /** By player: which line of a divided part, from 0. */
  lines: Readonly<Record<string, number>>;
  /** Wanted at the beginning, quarters per minute; null: as printed. */
  tempo: number | null;
  told: Told;
}

export interface ToFreeze extends Pick<Frozen, 'title' | 'composer' | 'part' | 'music' | 'tempo' | 'lines'> {
  marking: Marking;
  /** Markings of single players, as `withVariant` takes them. */
  variants: Readonly<Record<string, Marking>>;
  told: Told;
}

/** The frozen state of a part as it stands. */
export function frozenOf({ marking, variants, told, lines, title, composer, part, music, tempo }: ToFreeze): Frozen {
  const marks: Record<string, string> = {};
  for (const [key, mark] of inOrder(marking)) if (!mark.off) marks[key] = mark.value;
  const own: Record<string, SaidAlone> = {};
  for (const [player, variant] of inOrder(variants)) {
    const said: Record<string, string | false> = {};
    for (const [key, mark] of inOrder(variant)) {
      const wanted = mark.off ? false : mark.value;
      if (wanted !== (marks[key] ?? false)) said[key] = wanted;
    }
    if (Object.keys(said).length) own[player] = said;
  }
  return { title, composer, part, music, marks, own, lines: Object.fromEntries(inOrder(lines)), tempo, told: toldOf({ ...NOTHING_TOLD, ...told }) };
}

/** The marking as one player reads it; as everybody does for null. */
export function markingOf({ marks, own }: Pick<Frozen, 'marks' | 'own'>, player: string | null): Marking {
  const base = Object.fromEntries(Object.entries(marks).map(([key, value]) => [key, asMark(value)]));
  const alone = player === null ? undefined : own[player];
  if (!alone) return base;
  return withVariant(
    base,
    Object.fromEntries(Object.entries(alone).map(([key, value]) => [key, value === false ? { ...asMark(''), off: true as const } : asMark(value)])),
  );
}

const asMark = (value: string): Mark => ({ value, origin: 'coach' });

/** The same content is the same text, in whatever order it was made. */
export const frozenText = (frozen: Frozen): string => JSON.stringify(sorted(frozen));

function sorted(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(sorted);
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(inOrder(value).map(([key, each]) => [key, sorted(each)]));
}

const inOrder = <T>(record: Readonly<Record<string, T>> | object): Array<[string, T]> =>
  Object.entries(record as Record<string, T>).sort(([a], [b]) => (a < b ? -1 : 1));

/** What one player is sent of it, and nobody else's own marks and lines. */
export interface FrozenForPlayer extends Pick<Frozen, 'title' | 'composer' | 'part' | 'music' | 'tempo' | 'told'> {
  marking: Marking;
  line: number | null;
}

export const forPlayer = (frozen: Frozen, player: string): FrozenForPlayer => {
  const { title, composer, part, music, tempo, told } = frozen;
  return { title, composer, part, music, tempo, told, marking: markingOf(frozen, player), line: frozen.lines[player] ?? null };
};
