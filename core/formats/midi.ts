/**
 * Standard MIDI files, for listening elsewhere: the bars in the order of playing, ties joined, tempo and loudness as
 * printed. Written by the package `@tonejs/midi` (MIDI 1.0, format 1).
 */
import { Midi } from './midi-package';
import { levelOf } from '../score/dynamics';
import { midiOf } from '../score/pitch';
import { playedOrder } from '../score/played';
import type { DynamicLevel, Note, Part } from '../score/score';

/** Velocity by level, as a share of the greatest (common practice). */
const VELOCITY: Readonly<Record<DynamicLevel, number>> = { ppp: 0.15, pp: 0.25, p: 0.38, mp: 0.5, mf: 0.62, f: 0.75, ff: 0.88, fff: 1 };
const STRESS = 0.12;

/** Programs of the bowed instruments (General MIDI, counted from 0). */
const PROGRAMS = { violin: 40, viola: 41, cello: 42, bass: 43 } as const;
const STRINGS = 48;

/** Quarters that a grace note takes from the time before its note. */
const GRACE_QUARTERS = 0.125;

/** @param parts of one score, with the edits in force */
export function midiFile(title: string, parts: readonly Part[]): Uint8Array {
  const midi = new Midi();
  midi.header.name = title;
  const ppq = midi.header.ppq;
  const [lead] = parts;
  if (lead) {
    const order = playedOrder(lead.bars).order;
    const scale = ppq / lead.ticksPerQuarter;
    for (const { from, start } of stretches(lead, order)) {
      const bar = lead.bars[from]!;
      const inBar = lead.tempi.filter((tempo) => tempo.tick >= bar.onset && tempo.tick < bar.onset + bar.ticks);
      for (const tempo of inBar) midi.header.tempos.push({ ticks: Math.round((start + tempo.tick - bar.onset) * scale), bpm: tempo.quartersPerMinute });
      const before = lead.bars[from - 1];
      if (!before || before.beats !== bar.beats || before.beatType !== bar.beatType || start === 0) {
        midi.header.timeSignatures.push({ ticks: Math.round(start * scale), timeSignature: [Math.max(1, Math.round(bar.beats)), bar.beatType], measures: 0 });
      }
    }
    midi.header.update();
  }
  for (const part of parts) {
    const track = midi.addTrack();
    track.name = part.name;
    track.instrument.number = part.instrument ? PROGRAMS[part.instrument] : STRINGS;
    const scale = ppq / part.ticksPerQuarter;
    for (const { note, onset, duration } of sounding(part)) {
      const velocity = Math.min(
        1,
        VELOCITY[levelAt(part, note.onset)] + (note.articulations.some((name) => name === 'accent' || name === 'strong-accent') ? STRESS : 0),
      );
      track.addNote({
        midi: Math.round(midiOf(note.pitch)),
        ticks: Math.round(onset * scale),
        durationTicks: Math.max(1, Math.round(duration * scale)),
        velocity,
      });
    }
  }
  return midi.toArray();
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
  for (const { from, start } of stretches(part, playedOrder(part.bars).order)) {
    const notes = byBar.get(from) ?? [];
    for (const note of notes) {
      const key = `${note.staff}/${note.voice}/${midiOf(note.pitch)}`;
      const onset = start + note.tick;
      const held = note.tiedFrom ? open.get(key) : undefined;
      if (held && held.onset + held.duration === onset) held.duration += note.duration;
      else result.push(note.grace ? graceNote(part, notes, note, onset) : { note, onset, duration: note.duration });
      if (note.tiedTo) open.set(key, held ?? result.at(-1)!);
      else open.delete(key);
    }
  }
  return result.sort((a, b) => a.onset - b.onset || midiOf(a.note.pitch) - midiOf(b.note.pitch));
}

/** Grace notes come before their note, one after the other. */
function graceNote(part: Part, notes: readonly Note[], note: Note, onset: number): SoundingNote {
  const group = notes.filter((other) => other.grace && other.tick === note.tick && other.voice === note.voice && other.staff === note.staff);
  const length = part.ticksPerQuarter * GRACE_QUARTERS;
  return { note, onset: Math.max(0, onset - (group.length - group.indexOf(note)) * length), duration: length };
}

function levelAt(part: Part, tick: number): DynamicLevel {
  let level: DynamicLevel = 'mf';
  for (const dynamic of part.dynamics) {
    if (dynamic.tick > tick) break;
    level = levelOf(dynamic.text) ?? level;
  }
  return level;
}
