/**
 * The shorthand in which the demo music is written. A part is a row of bars divided by "|"; tokens are
 *   notes    F#5q. — pitch (joined by "+" in a chord), length (w h q e s, "." dotted, "3" triplet; kept until changed),
 *            then signs: > accent, ' staccato, - tenuto, ~ tie to the next note, ! trill, @ fermata, * natural harmonic;
 *   rests    rq
 *   slurs    "(" before the first and ")" after the last note
 *   words    {p} dynamics, {<} {>} hairpins up to {.}, {w:text}, {clef:tenor}
 */
import { parsePitch, type Pitch } from '../../core/score/pitch';

/** Twelve ticks to the quarter: enough for triplets and sixteenths. */
export const DIVISIONS = 12;

export type LengthName = 'whole' | 'half' | 'quarter' | 'eighth' | '16th';

export interface Sound {
  pitches: Pitch[];
  ticks: number;
  length: LengthName;
  dotted: boolean;
  triplet: boolean;
  signs: string;
  slurStarts: number;
  slurStops: number;
}

export interface Sign {
  before: 'dynamic' | 'hairpin' | 'words' | 'clef';
  value: string;
}

export interface WrittenBar {
  items: Array<Sound | Sign>;
  ticks: number;
}

const LENGTHS: Readonly<Record<string, [LengthName, number]>> = { w: ['whole', 48], h: ['half', 24], q: ['quarter', 12], e: ['eighth', 6], s: ['16th', 3] };

export const isSound = (item: Sound | Sign): item is Sound => 'ticks' in item;

/** Reads the shorthand; throws at the first token that it does not understand. */
export function readBars(text: string): WrittenBar[] {
  let length = 'q';
  return text.split('|').map((bar) => {
    const items: WrittenBar['items'] = [];
    let ticks = 0;
    for (const token of bar.match(/\{[^}]*\}|\S+/g) ?? []) {
      if (token.startsWith('{')) {
        items.push(readSign(token.slice(1, -1)));
        continue;
      }
      const match = /^(\(*)(r|[A-G][#b]*\d(?:\+[A-G][#b]*\d)*)([whqes]\.?3?)?([>'\-~!@*]*)(\)*)$/.exec(token);
      if (!match) throw new Error(`"${token}" is no note`);
      length = match[3] ?? length;
      const [name, base] = LENGTHS[length[0]!]!;
      const dotted = length.includes('.');
      const triplet = length.includes('3');
      const sound: Sound = {
        pitches: match[2] === 'r' ? [] : match[2]!.split('+').map((pitch) => parsePitch(pitch)!),
        ticks: (dotted ? base * 1.5 : base) * (triplet ? 2 / 3 : 1),
        length: name,
        dotted,
        triplet,
        signs: match[4]!,
        slurStarts: match[1]!.length,
        slurStops: match[5]!.length,
      };
      ticks += sound.ticks;
      items.push(sound);
    }
    return { items, ticks };
  });
}

function readSign(text: string): Sign {
  if (text.startsWith('w:')) return { before: 'words', value: text.slice(2) };
  if (text.startsWith('clef:')) return { before: 'clef', value: text.slice(5) };
  if (text === '<' || text === '>' || text === '.') return { before: 'hairpin', value: text };
  return { before: 'dynamic', value: text };
}
