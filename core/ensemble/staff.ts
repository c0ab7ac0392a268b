/** A line of a part as it stands on a staff: heads, stems, beams, rests and signs by time, for whoever draws them one moment at one place. */
import { feltBeat } from '../score/beat';
import { letterIndex } from '../score/pitch';
import type { Clef, Part } from '../score/score';
import { TICKS_PER_QUARTER } from '../score/ticks';

export interface StaffHead {
  /** Steps above the middle line of the staff. */
  place: number;
  /** Alteration of the sign before it; null for none. */
  sign: number | null;
}

export interface StaffNote {
  id: string;
  /** Ticks. */
  onset: number;
  heads: StaffHead[];
  /** Part of a whole note by its head and flags: 1, 2, 4, 8 …; 0.5 for a breve. */
  value: number;
  dots: number;
  stem: 'up' | 'down' | null;
  /** Notes with the same number are under one beam; null for none. */
  beam: number | null;
  tiedTo: boolean;
  small: boolean;
}

export interface StaffRest {
  onset: number;
  value: number;
  dots: number;
}

export interface StaffLine {
  clefs: Array<{ tick: number; clef: Clef }>;
  notes: StaffNote[];
  rests: StaffRest[];
}

/** Letters from C0 on the middle line of a staff by its clef: B4, C4 and D3 in the usual places. */
const MIDDLE: Readonly<Record<string, number>> = { G: 34, C: 28, F: 22 };
const USUAL_LINE: Readonly<Record<string, number>> = { G: 2, C: 3, F: 4 };

/** @example the treble clef: B4 */
export const middleOf = ({ sign, line, octave }: Clef): number => (MIDDLE[sign] ?? 34) + 2 * ((USUAL_LINE[sign] ?? line) - line) + 7 * octave;

const VALUES: Readonly<Record<string, number>> = { breve: 0.5, whole: 1, half: 2, quarter: 4, eighth: 8, '16th': 16, '32nd': 32, '64th': 64, '128th': 128 };

/** Note value and dots of a length without a name, the nearest from below. */
function valueOf(ticks: number): { value: number; dots: number } {
  for (const value of [0.5, 1, 2, 4, 8, 16, 32]) {
    const plain = (TICKS_PER_QUARTER * 4) / value;
    if (ticks >= plain * 1.5 - 1) return { value, dots: 1 };
    if (ticks >= plain - 1) return { value, dots: 0 };
  }
  return { value: 32, dots: 0 };
}

/** The first voice and staff of a part as it is written. */
export function staffOf(part: Part): StaffLine {
  const clefs = part.clefs.filter(({ staff }) => staff === 1).map(({ tick, clef }) => ({ tick, clef }));
  const voice = firstVoice(part);
  let at = 0;
  const middle = (tick: number) => {
    while (at + 1 < clefs.length && clefs[at + 1]!.tick <= tick) at++;
    return middleOf(clefs[at]?.clef ?? { sign: 'G', line: 2, octave: 0 });
  };
  const notes: StaffNote[] = [];
  for (const note of part.notes) {
    if (note.voice !== voice || note.staff !== 1 || note.grace) continue;
    const last = notes.at(-1);
    const head: StaffHead = { place: letterIndex(note.written) - middle(note.onset), sign: note.accidental?.alter ?? null };
    if (last && last.onset === note.onset) {
      last.heads.push(head);
      last.tiedTo ||= note.tiedTo;
      continue;
    }
    const named = note.length.type === null ? undefined : VALUES[note.length.type];
    const { value, dots } = named === undefined ? valueOf(note.duration) : { value: named, dots: note.length.dots };
    notes.push({ id: note.id, onset: note.onset, heads: [head], value, dots, stem: null, beam: null, tiedTo: note.tiedTo, small: note.cue });
  }
  for (const note of notes) note.stem = note.value < 2 ? null : stemOf(note.heads);
  beam(notes, part);
  return { clefs, notes, rests: restsOf(part, voice) };
}

function firstVoice({ notes }: Part): string | undefined {
  return notes.find(({ staff, cue }) => staff === 1 && !cue)?.voice;
}

function restsOf({ rests, bars }: Part, voice: string | undefined): StaffRest[] {
  return rests
    .filter((rest) => voice === undefined || rest.voice === voice)
    .map(({ onset, duration, barIndex }) => {
      const bar = bars[barIndex]!;
      const whole = duration >= bar.ticks - 1;
      return { onset: whole ? bar.onset + bar.ticks / 2 : onset, ...(whole ? { value: 1, dots: 0 } : valueOf(duration)) };
    });
}

/** From the middle line on down (common practice): the head that lies furthest away decides. */
const stemOf = (heads: readonly StaffHead[]): 'up' | 'down' =>
  heads.reduce((far, { place }) => (Math.abs(place) > Math.abs(far) ? place : far), heads[0]!.place) >= 0 ? 'down' : 'up';

/** Flagged notes that follow one another within a beat share a beam and its direction. */
function beam(notes: readonly StaffNote[], part: Part): void {
  let number = 0;
  let group: StaffNote[] = [];
  let beat = -1;
  let end = -1;
  let barAt = 0;
  const close = () => {
    if (group.length > 1) {
      const stem = stemOf(group.flatMap(({ heads }) => heads));
      for (const note of group) Object.assign(note, { beam: number, stem });
      number++;
    }
    group = [];
  };
  for (const note of notes) {
    while (barAt + 1 < part.bars.length && part.bars[barAt + 1]!.onset <= note.onset) barAt++;
    const bar = part.bars[barAt]!;
    const here = barAt * 1_000 + Math.floor((note.onset - bar.onset + bar.into) / feltBeat(bar) + 1e-9);
    if (note.value < 8 || here !== beat || note.onset - end > 1) close();
    if (note.value >= 8) group.push(note);
    beat = here;
    end = note.onset + lasts(note);
  }
  close();
}

const lasts = ({ value, dots }: StaffNote): number => ((TICKS_PER_QUARTER * 4) / value) * (2 - 2 ** -dots);
