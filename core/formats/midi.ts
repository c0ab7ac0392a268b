/**
 * Standard MIDI files, for listening elsewhere: the bars in the order of playing, ties joined, tempo and loudness as
 * printed. Written by the package `midi-file` (MIDI 1.0, format 1).
 */
import { writeMidi, type MidiEvent } from 'midi-file';
import { levelOf } from '../score/dynamics';
import { midiOf } from '../score/pitch';
import { playedOrder } from '../score/played';
import type { DynamicLevel, Note, Part } from '../score/score';
import { TICKS_PER_QUARTER } from '../score/ticks';

/** Velocity by level, as a share of the greatest (common practice). */
const VELOCITY: Readonly<Record<DynamicLevel, number>> = { ppp: 0.15, pp: 0.25, p: 0.38, mp: 0.5, mf: 0.62, f: 0.75, ff: 0.88, fff: 1 };
const STRESS = 0.12;

/** Programs of the bowed instruments (General MIDI, counted from 0). */
const PROGRAMS = { violin: 40, viola: 41, cello: 42, bass: 43 } as const;
const STRINGS = 48;

/** Quarters that a grace note takes from the time before its note. */
const GRACE_QUARTERS = 0.125;

/** Ticks of the file to a quarter note. */
const PPQ = 480;

/** One event at its tick; of those at the same tick the lower order comes first, so that a note ends before it begins again. */
interface Timed {
  tick: number;
  order: number;
  event: MidiEvent;
}

const OFF = 0;
const ON = 1;

/** @param parts of one score, with the edits in force. Time is linear in their notes. */
export function midiFile(title: string, parts: readonly Part[]): Uint8Array {
  const [lead] = parts;
  const head: Timed[] = [{ tick: 0, order: OFF, event: { deltaTime: 0, meta: true, type: 'trackName', text: midiText(title) } }];
  if (lead) head.push(...timeEvents(lead));
  const tracks = [head, ...parts.map(trackOf)];
  return written(tracks.map(inDeltas));
}

/** Events that the package writes in one go: its time grows with the square of their number. */
const AT_A_TIME = 400;
const HEADER_BYTES = 14;
const TRACK_HEAD_BYTES = 8;

/** The file: its header, then each track, whose bytes are written a few hundred events at a time and laid end to end. */
function written(tracks: readonly MidiEvent[][]): Uint8Array {
  const header = { format: 1, numTracks: tracks.length, ticksPerBeat: PPQ } as const;
  const write = (events: MidiEvent[]) => Uint8Array.from(writeMidi({ header, tracks: [events] }));
  const head = write([]).slice(0, HEADER_BYTES);
  new DataView(head.buffer).setUint16(10, tracks.length);
  const out: Uint8Array[] = [head];
  for (const events of tracks) {
    const pieces: Uint8Array[] = [];
    for (let from = 0; from < events.length; from += AT_A_TIME)
      pieces.push(write(events.slice(from, from + AT_A_TIME)).subarray(HEADER_BYTES + TRACK_HEAD_BYTES));
    const trackHead = new Uint8Array([0x4d, 0x54, 0x72, 0x6b, 0, 0, 0, 0]);
    new DataView(trackHead.buffer).setUint32(
      4,
      pieces.reduce((sum, piece) => sum + piece.length, 0),
    );
    out.push(trackHead, ...pieces);
  }
  return concatenated(out);
}

function concatenated(pieces: readonly Uint8Array[]): Uint8Array {
  const all = new Uint8Array(pieces.reduce((sum, piece) => sum + piece.length, 0));
  let at = 0;
  for (const piece of pieces) {
    all.set(piece, at);
    at += piece.length;
  }
  return all;
}

/** The package writes one byte for each unit of a text: names go out as UTF-8, as players of MIDI files read them. */
const midiText = (text: string): string => String.fromCharCode(...new TextEncoder().encode(text));

function timeEvents(part: Part): Timed[] {
  const events: Timed[] = [];
  const scale = PPQ / TICKS_PER_QUARTER;
  const tempi = byBar(part, part.tempi, ({ tick }) => tick);
  for (const { from, start } of stretches(part, playedOrder(part.bars).order)) {
    const bar = part.bars[from]!;
    for (const tempo of tempi.get(from) ?? []) {
      const microsecondsPerBeat = Math.round(60_000_000 / tempo.quartersPerMinute);
      events.push({
        tick: Math.round((start + tempo.tick - bar.onset) * scale),
        order: ON,
        event: { deltaTime: 0, meta: true, type: 'setTempo', microsecondsPerBeat },
      });
    }
    const before = part.bars[from - 1];
    if (before && before.beats === bar.beats && before.beatType === bar.beatType && start !== 0) continue;
    const numerator = Math.min(255, Math.max(1, Math.round(bar.beats)));
    events.push({
      tick: Math.round(start * scale),
      order: OFF,
      event: { deltaTime: 0, meta: true, type: 'timeSignature', numerator, denominator: bar.beatType, metronome: 24, thirtyseconds: 8 },
    });
  }
  return events;
}

function trackOf(part: Part, index: number): Timed[] {
  // The tenth channel is for percussion (General MIDI).
  const channel = [0, 1, 2, 3, 4, 5, 6, 7, 8, 10, 11, 12, 13, 14, 15][index % 15]!;
  const events: Timed[] = [
    { tick: 0, order: OFF, event: { deltaTime: 0, meta: true, type: 'trackName', text: midiText(part.name) } },
    { tick: 0, order: OFF, event: { deltaTime: 0, type: 'programChange', channel, programNumber: part.instrument ? PROGRAMS[part.instrument] : STRINGS } },
  ];
  const scale = PPQ / TICKS_PER_QUARTER;
  const level = levels(part);
  for (const { note, onset, duration } of sounding(part)) {
    const stressed = note.articulations.some((name) => name === 'accent' || name === 'strong-accent');
    const velocity = Math.max(1, Math.round(127 * Math.min(1, VELOCITY[level(note.onset)] + (stressed ? STRESS : 0))));
    const noteNumber = Math.min(127, Math.max(0, Math.round(midiOf(note.pitch))));
    const tick = Math.round(onset * scale);
    events.push({ tick, order: ON, event: { deltaTime: 0, type: 'noteOn', channel, noteNumber, velocity } });
    events.push({
      tick: tick + Math.max(1, Math.round(duration * scale)),
      order: OFF,
      event: { deltaTime: 0, type: 'noteOff', channel, noteNumber, velocity: 0 },
    });
  }
  return events;
}

/** In order of time, each with the ticks since the one before it. */
function inDeltas(events: Timed[]): MidiEvent[] {
  let last = 0;
  const track = events
    .sort((a, b) => a.tick - b.tick || a.order - b.order)
    .map(({ tick, event }) => {
      const deltaTime = tick - last;
      last = tick;
      return { ...event, deltaTime };
    });
  return [...track, { deltaTime: 0, meta: true, type: 'endOfTrack' }];
}

/** Things by the bar that they stand in; both in order of time. */
function byBar<T>(part: Part, things: readonly T[], tickOf: (thing: T) => number): Map<number, T[]> {
  const found = new Map<number, T[]>();
  let bar = 0;
  for (const thing of [...things].sort((a, b) => tickOf(a) - tickOf(b))) {
    while (bar + 1 < part.bars.length && tickOf(thing) >= part.bars[bar]!.onset + part.bars[bar]!.ticks) bar++;
    found.set(bar, [...(found.get(bar) ?? []), thing]);
  }
  return found;
}

/** Each played bar: which one it is, and the tick at which it begins when all bars are played through. */
function stretches(part: Part, order: readonly number[]): Array<{ from: number; start: number }> {
  let start = 0;
  return order.map((from) => {
    const stretch = { from, start };
    start += part.bars[from]!.ticks;
    return stretch;
  });
}

export interface SoundingNote {
  note: Note;
  /** Ticks of the part from the beginning of playing. */
  onset: number;
  duration: number;
}

/** Every note that is struck, in the order of playing, with what is tied to it. */
export function sounding(part: Part): SoundingNote[] {
  const byBar = new Map<number, Note[]>();
  for (const note of part.notes) {
    if (note.cue) continue;
    const bar = byBar.get(note.barIndex);
    if (bar) bar.push(note);
    else byBar.set(note.barIndex, [note]);
  }
  const result: SoundingNote[] = [];
  const open = new Map<string, SoundingNote>();
  const graces = graceNotesToCome(part);
  const graceTicks = TICKS_PER_QUARTER * GRACE_QUARTERS;
  for (const { from, start } of stretches(part, playedOrder(part.bars).order)) {
    const notes = byBar.get(from) ?? [];
    for (const note of notes) {
      const key = `${note.staff}/${note.voice}/${midiOf(note.pitch)}`;
      const onset = start + note.tick;
      const held = note.tiedFrom ? open.get(key) : undefined;
      if (held && held.onset + held.duration === onset) held.duration += note.duration;
      else
        result.push(
          note.grace ? { note, onset: Math.max(0, onset - graces.get(note.id)! * graceTicks), duration: graceTicks } : { note, onset, duration: note.duration },
        );
      if (note.tiedTo) open.set(key, held ?? result.at(-1)!);
      else open.delete(key);
    }
  }
  return result.sort((a, b) => a.onset - b.onset || midiOf(a.note.pitch) - midiOf(b.note.pitch));
}

/** For each grace note how many of its group begin with it or later: they come before their note, one after the other. */
function graceNotesToCome(part: Part): Map<string, number> {
  const count = new Map<string, number>();
  const result = new Map<string, number>();
  for (const note of [...part.notes].reverse()) {
    if (!note.grace || note.cue) continue;
    const group = `${note.barIndex} ${note.tick} ${note.voice} ${note.staff}`;
    const later = (count.get(group) ?? 0) + 1;
    count.set(group, later);
    result.set(note.id, later);
  }
  return result;
}

/** The level in force at a tick, by halving the list. */
function levels(part: Part): (tick: number) => DynamicLevel {
  const marks = part.dynamics.flatMap(({ tick, text }) => {
    const level = levelOf(text);
    return level ? [{ tick, level }] : [];
  });
  return (tick) => {
    let [from, to] = [0, marks.length];
    while (from < to) {
      const middle = (from + to) >> 1;
      if (marks[middle]!.tick <= tick) from = middle + 1;
      else to = middle;
    }
    return marks[from - 1]?.level ?? 'mf';
  };
}
