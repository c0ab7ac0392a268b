/** Why one fingering costs more than another, in the words of the trade, and its numbers for a table. */
import type { Line, LineEvent } from '../instruments/lines';
import type { Fingering, FingeredNote } from './fingering';
import { DEFAULT_COSTS, type Term } from './costs';

const MORE: Readonly<Record<Term, string>> = {
  shift: 'more or harder shifts',
  'long shift': 'a long or hurried shift',
  landing: 'a shift that lands on a weaker finger',
  slide: 'a finger that slides',
  crossing: 'more string changes',
  leap: 'a leap over a string',
  hop: 'a finger that hops across to the next string',
  'weak finger': 'more work for the fourth finger',
  'long fourth finger': 'the fourth finger on a long note',
  'open string': 'an open string where a stopped one sings',
  height: 'higher on a lower string',
  extension: 'an extension',
  frame: 'fingers out of their usual place',
  thumb: 'the thumb',
  harmonic: 'a harmonic',
  reach: 'a stretch',
  start: 'a cold start higher up',
  position: 'notes out of the usual position',
  unlike: 'the same music fingered in two ways',
};

const LESS: Readonly<Record<Term, string>> = {
  shift: 'fewer or easier shifts',
  'long shift': 'shorter or calmer shifts',
  landing: 'better landings',
  slide: 'no slide',
  crossing: 'fewer string changes',
  leap: 'no leap over a string',
  hop: 'no hop',
  'weak finger': 'spares the fourth finger',
  'long fourth finger': 'a stronger finger on the long notes',
  'open string': 'open strings where they ring',
  height: 'stays lower',
  extension: 'no extension',
  frame: 'fingers in their usual place',
  thumb: 'no thumb',
  harmonic: 'no harmonic',
  reach: 'less stretch',
  start: 'an easier start',
  position: 'stays in the usual position',
  unlike: 'the same music fingered alike',
};

/** Differences below this are not worth a word. */
const WORTH_SAYING = 0.15;

/** "Costs more: …" against the best way, and what it gains; at most two of each. */
export function costsMore(terms: Partial<Record<Term, number>>, best: Partial<Record<Term, number>>): { more: string[]; less: string[] } {
  const all = new Set([...Object.keys(terms), ...Object.keys(best)] as Term[]);
  const differences = [...all].map((term) => ({ term, by: (terms[term] ?? 0) - (best[term] ?? 0) })).sort((a, b) => Math.abs(b.by) - Math.abs(a.by));
  // Of two ways that cost nearly the same the greatest difference is still what one chooses by.
  const worthSaying = Math.max(1e-6, Math.min(WORTH_SAYING, Math.abs(differences[0]?.by ?? 0) - 1e-6));
  return {
    more: differences
      .filter(({ by }) => by > worthSaying)
      .slice(0, 2)
      .map(({ term }) => MORE[term]),
    less: differences
      .filter(({ by }) => by < -worthSaying)
      .slice(0, 2)
      .map(({ term }) => LESS[term]),
  };
}

export interface FingeringNumbers {
  shifts: number;
  shiftMm: number;
  hardest: { bitsPerS: number; mm: number; gapMs: number; noteId: string } | null;
  stringChangesInSlurs: number;
  fourthFingers: number;
  /** Those on notes that last (longSeconds of the cost table). */
  longFourths: number;
  openStrings: number;
  highestPosition: string;
}

/** @param lastsS seconds of an event */
export function fingeringNumbers(fingering: Fingering, line: Line, links: readonly boolean[], lastsS: (event: LineEvent) => number): FingeringNumbers {
  const numbers: FingeringNumbers = {
    shifts: 0,
    shiftMm: 0,
    hardest: null,
    stringChangesInSlurs: 0,
    fourthFingers: 0,
    longFourths: 0,
    openStrings: 0,
    highestPosition: '–',
  };
  let highest = -1;
  let last: FingeredNote | null = null;
  for (const note of fingering.notes) {
    const head = line.events[note.event]?.ids[0] === note.id;
    if (note.shift) {
      numbers.shifts++;
      numbers.shiftMm += note.shift.mm;
      if (!numbers.hardest || note.shift.bitsPerS > numbers.hardest.bitsPerS)
        numbers.hardest = { bitsPerS: note.shift.bitsPerS, mm: note.shift.mm, gapMs: note.shift.gapMs, noteId: note.id };
    }
    if (head && last && links[note.event] && last.event === note.event - 1 && last.place.string !== note.place.string) numbers.stringChangesInSlurs++;
    if (head && note.place.finger === 4) {
      numbers.fourthFingers++;
      if (lastsS(line.events[note.event]!) >= DEFAULT_COSTS.longSeconds) numbers.longFourths++;
    }
    if (head && note.place.finger === 0) numbers.openStrings++;
    if (note.place.hand !== null && note.place.hand > highest) {
      highest = note.place.hand;
      numbers.highestPosition = note.place.position ?? '–';
    }
    last = note;
  }
  return numbers;
}
