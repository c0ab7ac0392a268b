/** The scale and the arpeggio of the key that a passage is in: out of its notes, not only its key signature. */
import { isUpper } from '../instruments/instrument';
import type { Player } from '../instruments/player';
import { midiOf, spelled, transposed, type Pitch } from '../score/pitch';
import type { MadeNote, MadeStep } from '../formats/musicxml/made-part';
import type { DrillKind } from './drill';
import { writtenAs, type Passage } from './passage';

export interface Key {
  /** In the spelling of the key; the octave says nothing. */
  tonic: Pitch;
  mode: 'major' | 'minor';
}

/** How well each degree of twelve fits a key (probe-tone ratings, Krumhansl and Kessler 1982; from memory). */
const FITS: Readonly<Record<Key['mode'], readonly number[]>> = {
  major: [6.35, 2.23, 3.48, 2.33, 4.38, 4.09, 2.52, 5.19, 2.39, 3.66, 2.29, 2.88],
  minor: [6.33, 2.68, 3.52, 5.38, 2.6, 3.53, 2.54, 4.75, 3.98, 2.69, 3.34, 3.17],
};

/** What the key signature adds to its own two keys: a passage is in another one only where its notes say so (judgement). */
const SIGNATURE = 0.1;

/** @param notes written pitches with how long they sound; @param fifths of the key signature */
export function keyOf(notes: ReadonlyArray<{ pitch: Pitch; ticks: number }>, fifths: number): Key {
  const heard = Array.from({ length: 12 }, () => 0);
  for (const { pitch, ticks } of notes) heard[classOf(pitch)]! += ticks;
  const [major, minor] = [mod12(7 * fifths), mod12(7 * fifths + 9)];
  let best: { tonic: number; mode: Key['mode']; fit: number } | null = null;
  for (const mode of ['major', 'minor'] as const)
    for (let tonic = 0; tonic < 12; tonic++) {
      const own = (mode === 'major' ? major : minor) === tonic;
      const fit =
        correlation(
          FITS[mode],
          FITS[mode].map((_, degree) => heard[(tonic + degree) % 12]!),
        ) + (own ? SIGNATURE : 0);
      if (!best || fit > best.fit) best = { tonic, mode, fit };
    }
  const { tonic, mode } = best!;
  return { tonic: spelledTonic(tonic, mode, fifths), mode };
}

const mod12 = (n: number): number => ((n % 12) + 12) % 12;
const classOf = (pitch: Pitch): number => mod12(midiOf(pitch));

/** Pearson's; 0 where nothing varies. */
function correlation(a: readonly number[], b: readonly number[]): number {
  const mean = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;
  const [ma, mb] = [mean(a), mean(b)];
  let [both, aa, bb] = [0, 0, 0];
  a.forEach((value, i) => {
    both += (value - ma) * (b[i]! - mb);
    aa += (value - ma) ** 2;
    bb += (b[i]! - mb) ** 2;
  });
  return aa * bb === 0 ? 0 : both / Math.sqrt(aa * bb);
}

/** In the spelling whose signature is nearest: of D sharp and E flat the one with fewer signs away from this signature. */
function spelledTonic(tonic: number, mode: Key['mode'], fifths: number): Pitch {
  const sharp = spelled(60 + tonic, 1);
  const flat = spelled(60 + tonic, -1);
  const away = (pitch: Pitch) => Math.abs(fifthsOf(pitch) - (mode === 'minor' ? 3 : 0) - fifths);
  return away(sharp) <= away(flat) ? sharp : flat;
}

/** Fifths of the major key on a pitch. */
function fifthsOf({ step, alter }: Pitch): number {
  return ['F', 'C', 'G', 'D', 'A', 'E', 'B'].indexOf(step) - 1 + 7 * alter;
}

const UP: Readonly<Record<Key['mode'], readonly number[]>> = { major: [0, 2, 4, 5, 7, 9, 11], minor: [0, 2, 3, 5, 7, 9, 11] };
const DOWN: Readonly<Record<Key['mode'], readonly number[]>> = { major: UP.major, minor: [0, 2, 3, 5, 7, 8, 10] };
const TRIAD: Readonly<Record<Key['mode'], ReadonlyArray<readonly [letters: number, halfSteps: number]>>> = {
  major: [
    [0, 0],
    [2, 4],
    [4, 7],
  ],
  minor: [
    [0, 0],
    [2, 3],
    [4, 7],
  ],
};

/** Up and down again from a tonic; in minor melodic: the sixth and seventh degree raised upwards alone (common practice). */
export function scaleOf(mode: Key['mode'], from: Pitch, octaves: number): Pitch[] {
  const rise = (steps: readonly number[]) => Array.from({ length: 7 * octaves }, (_, i) => transposed(from, i, 12 * Math.floor(i / 7) + steps[i % 7]!));
  const top = transposed(from, 7 * octaves, 12 * octaves);
  return [...rise(UP[mode]), top, ...rise(DOWN[mode]).reverse()];
}

/** The triad up and down again. */
export function arpeggioOf(mode: Key['mode'], from: Pitch, octaves: number): Pitch[] {
  const up = Array.from({ length: octaves }, (_, octave) =>
    TRIAD[mode].map(([letters, half]) => transposed(from, letters + 7 * octave, half + 12 * octave)),
  ).flat();
  return [...up, transposed(from, 7 * octaves, 12 * octaves), ...[...up].reverse()];
}

/** Half steps over the highest open string that a level's scales go up to; violin and viola, cello and bass (judgement). */
const TOP: Readonly<Record<Player['level'], readonly [upper: number, lower: number]>> = {
  beginner: [7, 5],
  intermediate: [12, 9],
  advanced: [19, 15],
  professional: [24, 19],
};
const MOST_OCTAVES = 3;

/** The lowest tonic that the instrument has, and how many octaves from there; null where not even one fits. */
export function rangeFor({ tonic }: Key, { player, part }: Pick<Passage, 'player' | 'part'>): { from: Pitch; octaves: number } | null {
  const { strings, kind } = player.instrument;
  const written = strings.map((open) => midiOf(writtenAs(open, part)));
  const [low, high] = [Math.min(...written), Math.max(...written) + TOP[player.level][isUpper(kind) ? 0 : 1]];
  let from = { ...tonic, octave: -1 };
  while (midiOf(from) < low) from = { ...from, octave: from.octave + 1 };
  const octaves = Math.min(MOST_OCTAVES, Math.floor((high - midiOf(from)) / 12));
  return octaves < 1 ? null : { from, octaves };
}

/** Notes on a bow, one after the other. */
const BOWS = [1, 2, 4];

function scale(passage: Passage): MadeStep[] | null {
  const notes = passage.notes.flatMap(({ heads, ticks }) => heads.map(({ pitch }) => ({ pitch, ticks })));
  const key = keyOf(notes, passage.fifths);
  const range = rangeFor(key, passage);
  if (!range) return null;
  const { from, octaves } = range;
  const row = (pitches: readonly Pitch[], bow: number): MadeNote[] =>
    pitches.map((pitch, i) => ({
      heads: [{ pitch, finger: null, string: null }],
      ticks: i === pitches.length - 1 ? 2 * passage.beat : passage.beat,
      slurred: (i + 1) % bow !== 0 && i < pitches.length - 1,
    }));
  const name = `${from.step}${from.alter > 0 ? ' sharp' : from.alter < 0 ? ' flat' : ''} ${key.mode}`;
  return [
    ...BOWS.map((bow) => ({ words: `${name}, ${bow === 1 ? 'separate' : `${bow} on a bow`}`, notes: row(scaleOf(key.mode, from, octaves), bow) })),
    { words: `${name}, the arpeggio`, notes: row(arpeggioOf(key.mode, from, octaves), 3) },
  ];
}

/** Fifths of a key's signature. */
export const signatureOf = ({ tonic, mode }: Key): number => fifthsOf(tonic) - (mode === 'minor' ? 3 : 0);

export const ofTheScale = {
  scale: {
    name: 'Scale in the key',
    listenFor: 'Every whole and half step against a drone on the tonic; the slur changes nothing.',
    caution: null,
    steps: scale,
  },
} satisfies Record<string, DrillKind>;
