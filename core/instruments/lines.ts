/**
 * Lines: what one player plays. A part with several voices, or with chords that the word "div."
 * divides, has several; each is a row of events (single notes, double stops, chords) in time.
 */
import { sameWrittenPitch } from '../score/identity';
import type { Note, Part } from '../score/score';
import { oneCanPlay } from './together';
import { midiOf } from '../score/pitch';

/** One sounding event for one player; tied continuations are merged into it. */
export interface LineEvent {
  /** Sounding notes, low to high; usually one. */
  notes: Note[];
  /** All note heads that belong to it, tied ones included. */
  ids: string[];
  onset: number;
  /** Ticks to the end of the last tied head. */
  end: number;
  grace: boolean;
}

export interface Line {
  /** "1" for the main line; voices and divided lines count on. */
  name: string;
  events: LineEvent[];
}

/** Where the words say that chords are divided between players, or that they are not; null where none has said anything. */
export function dividedAt(part: Part): (tick: number) => boolean | null {
  const turns = part.words
    .map((word) => ({ tick: word.tick, divided: readDivisiWord(word.text) }))
    .filter((turn): turn is { tick: number; divided: boolean } => turn.divided !== null)
    .sort((a, b) => a.tick - b.tick);
  return (tick) => {
    let divided: boolean | null = null;
    for (const turn of turns) {
      if (turn.tick > tick) break;
      divided = turn.divided;
    }
    return divided;
  };
}

function readDivisiWord(text: string): boolean | null {
  const word = text.trim().toLowerCase();
  if (/\b(non|nicht|pas)\s+(div|get)/.test(word)) return false;
  if (/\b(unis|tutti in unis|zus\.|zusammen)/.test(word)) return false;
  if (/\bdiv(\.|isi|isés|\b)|\bget(\.|eilt)/.test(word)) return true;
  return null;
}

const kept = new WeakMap<Part, Line[]>();

/** The lines of a part; the first has everything that all players play. The same part has the very same lines. */
export function linesOf(part: Part): Line[] {
  const known = kept.get(part);
  if (known) return known;
  const lines = madeLines(part);
  kept.set(part, lines);
  return lines;
}

function madeLines(part: Part): Line[] {
  const byVoice = new Map<string, Note[]>();
  for (const note of part.notes) {
    if (note.cue) continue;
    const voice = byVoice.get(`${note.staff}/${note.voice}`);
    if (voice) voice.push(note);
    else byVoice.set(`${note.staff}/${note.voice}`, [note]);
  }
  const divided = dividedAt(part);
  const kind = part.instrument;
  const together = (event: LineEvent) => !part.section || kind === null || oneCanPlay(kind, event.notes);
  const lines: Line[] = [];
  for (const notes of byVoice.values()) {
    const events = eventsOf(notes);
    // The words decide; without any, a section divides what no single player can hold.
    const isDivided = (event: LineEvent) => event.notes.length > 1 && (divided(event.onset) ?? !together(event));
    const depth = events.reduce((most, event) => (isDivided(event) ? Math.max(most, event.notes.length) : most), 1);
    for (let player = 0; player < depth; player++) {
      lines.push({
        name: String(lines.length + 1),
        events: depth === 1 ? events : events.map((event) => (isDivided(event) ? share(event, player) : event)),
      });
    }
  }
  return lines.length ? lines : [{ name: '1', events: [] }];
}

/**
 * What one player has of a divided part: the notes of their line, and where that line is silent for a whole bar what the first line
 * plays there (a unison is written once, common practice). The part itself where it is not divided.
 * @param index from 0; beyond the last line it is the last
 */
export function partOfLine(part: Part, index: number): Part {
  const lines = linesOf(part);
  if (lines.length < 2) return part;
  const [first, own] = [lines[0]!, lines[Math.min(index, lines.length - 1)]!];
  const barOf = new Map(part.notes.map(({ id, barIndex }) => [id, barIndex]));
  const idsOf = (line: Line) => line.events.flatMap(({ ids }) => ids);
  const ids = new Set(idsOf(own));
  const played = new Set([...ids].map((id) => barOf.get(id)));
  for (const id of idsOf(first)) if (!played.has(barOf.get(id))) ids.add(id);
  return { ...part, notes: part.notes.filter(({ id, cue }) => cue || ids.has(id)) };
}

const indices = new WeakMap<Line, ReadonlyMap<string, number>>();

/** Which event of a line a note head belongs to, tied ones included. */
export function eventIndexOf(line: Line): ReadonlyMap<string, number> {
  let known = indices.get(line);
  if (!known) {
    known = new Map(line.events.flatMap((event, i) => event.ids.map((id) => [id, i] as const)));
    indices.set(line, known);
  }
  return known;
}

/** The outer player takes the highest note of a divided chord, the next one the note below, and so on. */
function share(event: LineEvent, player: number): LineEvent {
  const note = event.notes[Math.max(0, event.notes.length - 1 - player)]!;
  return { ...event, notes: [note], ids: event.ids.filter((id) => samePitchId(id, note.id)) };
}

/** Ids end in pitch and ordinal; the tied heads of a note have its pitch. */
function samePitchId(a: string, b: string): boolean {
  return sameWrittenPitch(a, b);
}

function eventsOf(notes: readonly Note[]): LineEvent[] {
  const events: LineEvent[] = [];
  const open = new Map<number, { event: LineEvent; end: number }>();
  let graceRank = -1;
  let lastKey = '';
  for (const note of notes) {
    const midi = midiOf(note.pitch);
    if (note.tiedFrom) {
      const source = open.get(midi);
      if (source && source.end === note.onset) {
        source.end = note.onset + note.duration;
        source.event.ids.push(note.id);
        source.event.end = Math.max(source.event.end, source.end);
        if (!note.tiedTo) open.delete(midi);
        continue;
      }
    }
    const grace = note.grace !== null;
    if (grace && !note.inChord) graceRank++;
    const key = `${note.onset}/${grace ? `g${graceRank}` : 'n'}`;
    const last = events[events.length - 1];
    if (last && key === lastKey) {
      last.notes.push(note);
      last.ids.push(note.id);
      last.end = Math.max(last.end, note.onset + note.duration);
    } else {
      events.push({ notes: [note], ids: [note.id], onset: note.onset, end: note.onset + note.duration, grace });
      lastKey = key;
    }
    if (note.tiedTo) open.set(midi, { event: events[events.length - 1]!, end: note.onset + note.duration });
  }
  for (const event of events) event.notes.sort((a, b) => midiOf(a.pitch) - midiOf(b.pitch));
  return events;
}
