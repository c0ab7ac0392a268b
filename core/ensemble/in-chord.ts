/** What each note is in the chord that sounds: which member of it, or how it is foreign to it. Kinds of foreign notes: textbook common practice. */
import { feltBeat } from '../score/beat';
import { midiOf, type Pitch } from '../score/pitch';
import { barIndexAt, type Bar, type Note } from '../score/score';
import type { Line, LineEvent } from '../instruments/lines';
import { classOf, degreeOf, type Chord, type Degree } from './chord';
import { chordAt, type Harmony } from './harmony';
import { motionOf, type Motion } from './melodic';

export const FOREIGN = ['leaning', 'suspended', 'passing', 'neighbour', 'escaping', 'anticipated', 'pedal', 'foreign'] as const;
export type Foreign = (typeof FOREIGN)[number];

export interface InChord {
  noteId: string;
  /** Where it becomes what it is: its beginning, or where the chord changes under it. */
  tick: number;
  chord: Chord;
  /** Null where it is foreign. */
  degree: Degree | null;
  foreign: Foreign | null;
  /** Where a foreign note goes by step: the note that it leans on. */
  resolvesTo: Pitch | null;
}

/** Every note of a line, in order, under every chord that sounds with it; nothing where no chord is sure. */
export function notesInChord(line: Line, bars: readonly Bar[], harmony: readonly Harmony[]): InChord[] {
  const { events } = line;
  return events.flatMap((event, i) =>
    event.grace ? [] : event.notes.flatMap((note) => changesUnder(event, harmony).flatMap((tick): InChord[] => at(events, i, note, tick, bars, harmony))),
  );
}

/** The beginning of an event, and the changes of chord while it sounds. */
function changesUnder({ onset, end }: LineEvent, harmony: readonly Harmony[]): number[] {
  return [onset, ...harmony.filter(({ from, chord }) => chord && from > onset && from < end).map(({ from }) => from)];
}

function at(events: readonly LineEvent[], i: number, note: Note, tick: number, bars: readonly Bar[], harmony: readonly Harmony[]): InChord[] {
  const chord = chordAt(harmony, tick);
  if (!chord) return [];
  const degree = degreeOf(chord, classOf(note.pitch));
  const motion = motionOf(events, i, note);
  const foreign = degree === null ? foreignAs(events[i]!, note, tick, motion, bars, harmony) : null;
  const resolves = foreign && motion.to && (motion.after === 1 || motion.after === -1) ? nearest(note, motion.to) : null;
  return [{ noteId: note.id, tick, chord, degree, foreign, resolvesTo: resolves?.pitch ?? null }];
}

const nearest = (note: Note, { notes }: LineEvent): Note =>
  notes.reduce((near, other) => (Math.abs(midiOf(other.pitch) - midiOf(note.pitch)) < Math.abs(midiOf(near.pitch) - midiOf(note.pitch)) ? other : near));

function foreignAs(event: LineEvent, note: Note, tick: number, motion: Motion, bars: readonly Bar[], harmony: readonly Harmony[]): Foreign {
  const { before, after, from, to } = motion;
  const belongs = (when: number) => {
    const chord = chordAt(harmony, when);
    return chord !== null && degreeOf(chord, classOf(note.pitch)) !== null;
  };
  const stepsOn = after === 1 || after === -1;
  const cameBefore = tick > event.onset || (before === 0 && from !== null);
  // It was there while the chord came: it waits, or it stays.
  if (cameBefore && belongs(tick > event.onset ? event.onset : from!.onset)) return stepsOn ? 'suspended' : 'pedal';
  if (after === 0 && to && belongs(to.onset) && chordAt(harmony, to.onset) !== chordAt(harmony, tick)) return 'anticipated';
  if (stepsOn) {
    if (isHeavy(event, to!, tick, bars)) return 'leaning';
    if (before === after) return 'neighbour';
    if (before !== null && before !== 0) return 'passing';
    return 'leaning';
  }
  if (before === 1 || before === -1) return after === null && to ? 'escaping' : after === 0 ? 'pedal' : 'foreign';
  return after === 0 || cameBefore ? 'pedal' : 'foreign';
}

/** On a beat, while what it goes to is not on a heavier one. */
function isHeavy(event: LineEvent, to: LineEvent, tick: number, bars: readonly Bar[]): boolean {
  return event.onset === tick && weightAt(bars, tick) > weightAt(bars, to.onset);
}

/** 3 where a bar begins, 2 in its middle, 1 on a beat, and half of it for each halving below. */
function weightAt(bars: readonly Bar[], tick: number): number {
  const bar = bars[barIndexAt(bars, tick)]!;
  const place = tick - bar.onset + bar.into;
  if (place === 0) return 3;
  const beat = feltBeat(bar);
  if (place * 2 === bar.ticks && (bar.ticks / beat) % 2 === 0) return 2;
  for (let unit = beat, weight = 1; weight > 0.05; unit /= 2, weight /= 2) if (place % unit === 0) return weight;
  return 0;
}
