/**
 * Trills, turns and mordents in time: how many notes fit, which fingers play them, and whose time they take. Counting after
 * common practice: begun on the main note a trill has an odd number of notes (main, upper, main, … ; its two-note ending
 * counts), begun on the upper note an even one, and it runs into the next note without a gap.
 */
import type { Level } from '../instruments/player';
import { THUMB } from '../instruments/player';

/** Trill notes per second (from memory). */
export const TRILL_NOTES_PER_S: Readonly<Record<Level, number>> = { beginner: 4, intermediate: 7, advanced: 10, professional: 13 };

export interface TrillQuestion {
  /** Sounding seconds of the note. */
  seconds: number;
  /** Notes per second that the player manages. */
  notesPerS: number;
  begins: 'main' | 'upper';
  /** It ends with the note below and the main note. */
  ending: boolean;
}

export interface TrillPlan {
  /** Notes that are played, the ending among them; the least that makes it a trill where not even that fits. */
  notes: number;
  fits: boolean;
  /** Notes per second that this number comes to. */
  perS: number;
  /** Fewest notes of such a trill. */
  least: number;
  /** As written out: m the main note, u the upper, l the lower. */
  written: string;
  /** Beginnings for practice, from the end forwards (common practice): the last two notes first. */
  backwards: string[];
}

/**
 * The most notes of the right parity that the time holds.
 * @example a quarter at 60 for an advanced player (10 a second), from the main note with ending: 9 notes, `mumumumlm`
 */
export function trillPlan({ seconds, notesPerS, begins, ending }: TrillQuestion): TrillPlan {
  const odd = begins === 'main';
  const least = ending ? (odd ? 5 : 4) : odd ? 3 : 4;
  const most = Math.floor(seconds * notesPerS + 1e-9);
  const right = most - ((most % 2 === 1) === odd ? 0 : 1);
  const fits = right >= least;
  const notes = Math.max(least, right);
  const written = writtenOut(notes, begins, ending);
  return { notes, fits, perS: notes / seconds, least, written, backwards: endingsOf(written) };
}

function writtenOut(notes: number, begins: 'main' | 'upper', ending: boolean): string {
  const body = notes - (ending ? 2 : 0);
  const pair = begins === 'main' ? ['m', 'u'] : ['u', 'm'];
  const row = Array.from({ length: body }, (_, i) => pair[i % 2]!).join('');
  return ending ? `${row}lm` : row;
}

/** The last two notes, the last three, … up to the whole, at most so many steps. */
function endingsOf(written: string): string[] {
  const steps: string[] = [];
  for (let length = 2; length <= written.length && steps.length < MOST_STEPS; length++) steps.push(written.slice(-length));
  return steps;
}

const MOST_STEPS = 8;

/** Fastest quarters per minute at which a trill of this kind still fits. @param tempo the tempo at which it has these seconds */
export function trillCeiling(tempo: number, question: TrillQuestion): number {
  const { least } = trillPlan(question);
  return (tempo * question.seconds * question.notesPerS) / least;
}

export type HalfStepSchool = 'neighbours' | '1-3';

/**
 * Fingers of main and upper note; null where the finger has none above it that can trill.
 * @param halfSteps distance of the upper note, 1 or 2
 */
export function trillFingers(finger: number, halfSteps: number, school: HalfStepSchool): { main: number; upper: number } | null {
  if (finger === 0) return { main: 0, upper: 1 };
  if (finger === THUMB) return { main: THUMB, upper: 1 };
  if (finger === 1 && halfSteps === 1 && school === '1-3') return { main: 1, upper: 3 };
  return finger < 4 ? { main: finger, upper: finger + 1 } : null;
}

export type OrnamentFigure = 'turn' | 'mordent';

/** Notes of a turn (above, main, below, main) and of a mordent before the main note goes on (main, its neighbour). */
const FIGURE_NOTES: Readonly<Record<OrnamentFigure, number>> = { turn: 4, mordent: 2 };

export interface FigurePlan {
  /** Seconds that are left to the main note itself. */
  main: number;
  /** Seconds of the figure. */
  figure: number;
  /** Seconds that the figure needs at this level. */
  needed: number;
  fits: boolean;
}

/** The main note keeps at least this share of its time (judgement). */
const KEPT_SHARE = 1 / 3;

/**
 * A turn takes its time from the end of its note, a mordent from the beginning; the note itself stays as long as it can.
 * @example a turn on a half note at 60, 10 notes a second: the note for 1.6 s, the turn for .4 s
 */
export function figurePlan(figure: OrnamentFigure, seconds: number, notesPerS: number): FigurePlan {
  const needed = FIGURE_NOTES[figure] / notesPerS;
  const most = seconds * (1 - KEPT_SHARE);
  const taken = Math.min(needed, most);
  return { main: seconds - taken, figure: taken, needed, fits: needed <= most + 1e-9 };
}

/** Fastest quarters per minute at which a turn or mordent still leaves its note. @param tempo the tempo at which the note has these seconds */
export const figureCeiling = (figure: OrnamentFigure, tempo: number, seconds: number, notesPerS: number): number =>
  (tempo * seconds * (1 - KEPT_SHARE) * notesPerS) / FIGURE_NOTES[figure];
