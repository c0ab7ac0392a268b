/** What marks say: the values of kinds that are no plain words, and how they are written. */
import { fractionText, ticksOfFraction } from '../score/ticks';

/** Strikes out what the edition prints. */
export const STRUCK = 'none';

/** Parts of the bow by their names. */
export const BOW_ZONES = ['frog', 'lower half', 'balance', 'middle', 'upper half', 'tip', 'whole bow'] as const;
export type BowZone = (typeof BOW_ZONES)[number];

export const STROKE_WISHES = ['détaché', 'tenuto', 'staccato', 'martelé', 'portato', 'spiccato', 'accent'] as const;
export type StrokeWish = (typeof STROKE_WISHES)[number];

export const CHORD_WAYS = ['rolled', 'two and two', 'together'] as const;
export type ChordWay = (typeof CHORD_WAYS)[number];

export const UNEQUAL_RATIOS = ['even', '3:2', '5:3', '2:1', '3:1'] as const;

/** The words that say it in the music. */
export const DIVISI_WORDS: Readonly<Record<string, string>> = { divided: 'div.', together: 'non div.' };

/** A stretch of the bow that a place is said by, 0 frog to 1 tip; null for what is no place. @example `bowPlace('63 %')` */
export function bowPlace(value: string): { from: number; to: number } | null {
  const percent = /^(\d{1,3}) %$/.exec(value);
  if (percent) {
    const at = Number(percent[1]) / 100;
    return at <= 1 ? { from: at, to: at } : null;
  }
  return value === 'whole bow' ? null : (ZONES[value as BowZone] ?? null);
}

/** Where the parts of the bow lie, 0 frog to 1 tip (common practice; the balance point about a quarter from the frog). */
export const ZONES: Readonly<Record<BowZone, { from: number; to: number }>> = {
  frog: { from: 0, to: 0.15 },
  'lower half': { from: 0, to: 0.5 },
  balance: { from: 0.2, to: 0.36 },
  middle: { from: 0.38, to: 0.62 },
  'upper half': { from: 0.5, to: 1 },
  tip: { from: 0.85, to: 1 },
  'whole bow': { from: 0, to: 1 },
};

/** A hairpin's value: its kind and where it ends, bar index and ticks into that bar; written as a fraction of a quarter. */
export interface HairpinValue {
  kind: 'crescendo' | 'diminuendo';
  toBar: number;
  toTick: number;
}

export const hairpinValue = ({ kind, toBar, toTick }: HairpinValue): string => `${kind} ${toBar} ${fractionText(toTick)}`;

export function parseHairpin(value: string): HairpinValue | null {
  const [, kind, toBar, at] = /^(crescendo|diminuendo) (\d+) (\d+(?:_\d+)?)$/.exec(value) ?? [];
  const toTick = at === undefined ? null : ticksOfFraction(at);
  return toTick === null ? null : { kind: kind as HairpinValue['kind'], toBar: Number(toBar), toTick };
}
