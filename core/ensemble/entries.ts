/** Entries after a silence: how long it is as printed, and what is heard before them, as a cue that can be engraved small. */
import { sayBar } from '../score/address';
import { beatOf, feltBeat } from '../score/beat';
import { ticksOfEvent, type BarEvent } from '../score/bar-text';
import { barStarts, placeOfBar } from '../score/counted';
import { cueValue } from '../score/cue-text';
import { lengthsOf } from '../score/note-length';
import { letterIndex, pitchName, transposed, type Pitch } from '../score/pitch';
import { barIndexAt, type Bar, type ClefChange, type Note, type Part } from '../score/score';
import { silenceBetween, type Silence } from '../score/silence';
import { linesOf, type LineEvent } from '../instruments/lines';
import type { Change } from '../marking/change';
import { changeTo } from '../marking/change';
import { markAt, type Marking } from '../marking/mark';
import { placeTarget } from '../marking/target';
import type { OtherPart } from './ensemble';

/** Bars before an entry in which a cue is looked for (judgement: what one still has in the ear). */
const CUE_BARS = 2;
/** A note this many times as long as the next one ends a phrase (judgement). */
const LONG_BEFORE = 3;
/** Notes, or felt beats, that make a phrase: fewer between rests are the beats of an accompaniment (judgement). */
const PHRASE = 3;
/** Whole bars of silence after which an entry is told. */
const FEWEST_BARS = 1;

export interface Cue {
  partId: string;
  name: string;
  bar: string;
  beat: number;
  pitch: string;
  /** It begins a phrase, and is no mere long note. */
  begins: boolean;
  /** Ticks: where it begins; it is heard up to the entry. */
  from: number;
}

export interface Entry {
  /** First note after the silence. */
  noteId: string;
  barIndex: number;
  silence: Silence;
  /** What can be listened for, the best first. */
  cues: Cue[];
}

type Listening = Pick<OtherPart, 'id' | 'name' | 'part'>;
/** Who has the tune at a bar: a cue of the tune goes before one of a figure. */
export type HasTune = (partId: string, barIndex: number) => boolean;
const NOBODY: HasTune = () => false;

/** Entries of a part's first line after a bar of silence or more. */
export function entriesOf(part: Part, others: readonly Listening[], hasTune: HasTune = NOBODY): Entry[] {
  const events = linesOf(part)[0]!.events.filter(({ grace }) => !grace);
  const shortest = part.bars.reduce((least, { ticks, into }) => (into > 0 ? least : Math.min(least, ticks)), Infinity);
  return events.flatMap((event, i): Entry[] => {
    // Counting bars takes its time: where there is no room for one it is not done.
    if (event.onset - (events[i - 1]?.end ?? 0) < shortest) return [];
    const silence = silenceBetween(part.bars, events[i - 1]?.end ?? 0, event.onset);
    if (silence.bars < FEWEST_BARS) return [];
    const [note] = event.notes;
    return [{ noteId: note!.id, barIndex: note!.barIndex, silence, cues: cuesBefore(note!, part, others, hasTune) }];
  });
}

/**
 * What can be listened for before an entry: in the two bars before it the latest beginnings of phrases in the other parts, the tune before
 * a figure, two at most. A phrase begins after a rest or after a long note and is more than a beat or two of an accompaniment; a tied
 * continuation or the last note of a run begins none. Where no phrase begins, the longest note that begins on a beat, or what the last bar
 * begins with.
 */
export function cuesBefore(note: Note, own: Part, others: readonly Listening[], hasTune: HasTune = NOBODY): Cue[] {
  const from = own.bars[barsBack(own.bars, note.barIndex, CUE_BARS)]!.onset;
  const cues = others.flatMap(({ id, name, part }): Array<Cue & { tune: boolean }> => {
    const heard = cueIn(part, from, note.onset);
    if (!heard) return [];
    const { bar, event, begins } = heard;
    const pitch = pitchName(event.notes.at(-1)!.pitch);
    const beat = beatOf(bar, event.onset - bar.onset);
    return [{ partId: id, name, bar: sayBar(part.bars, bar.index), beat, pitch, begins, from: event.onset, tune: hasTune(id, bar.index) }];
  });
  return cues
    .sort((a, b) => Number(b.begins) - Number(a.begins) || Number(b.tune) - Number(a.tune) || b.from - a.from)
    .slice(0, 2)
    .map(({ tune: _, ...cue }) => cue);
}

/** The measure that begins so many bars before another one, as bars are counted. */
function barsBack(bars: readonly Bar[], index: number, count: number): number {
  const starts = barStarts(bars);
  return starts[Math.max(0, placeOfBar(bars, starts, index, -count) - count)] ?? 0;
}

/** Whether what begins at an event goes on long enough until the next rest of a beat, or until the entry. */
function isPhrase(events: readonly LineEvent[], from: number, entry: number, beat: number): boolean {
  let last = from;
  while (events[last + 1] && events[last + 1]!.onset < entry && events[last + 1]!.onset - events[last]!.end < beat) last++;
  return last - from + 1 >= PHRASE || events[last]!.end - events[from]!.onset >= PHRASE * beat;
}

function cueIn(part: Part, from: number, to: number): { bar: Bar; event: LineEvent; begins: boolean } | null {
  const events = linesOf(part)[0]?.events.filter(({ grace }) => !grace) ?? [];
  const barOf = (event: LineEvent) => part.bars[barIndexAt(part.bars, event.onset)]!;
  const lastBar = part.bars[barIndexAt(part.bars, to - 1)]!;
  let longest: LineEvent | null = null;
  for (let i = events.length - 1; i >= 0 && events[i]!.onset >= from; i--) {
    const event = events[i]!;
    const before = events[i - 1];
    if (event.onset >= to) continue;
    const bar = barOf(event);
    const length = (each: LineEvent) => each.end - each.onset;
    const apart = !before || before.end < event.onset || (length(before) >= feltBeat(bar) && length(before) >= LONG_BEFORE * length(event));
    if (apart && isPhrase(events, i, to, feltBeat(bar))) return { bar, event, begins: true };
    const onBeat = (event.onset - bar.onset + bar.into) % feltBeat(bar) === 0;
    // Of equal ones the first in the last bar, so that there is something to hear.
    const isLonger = !longest || length(event) > length(longest) || (length(event) === length(longest) && event.onset >= lastBar.onset);
    if (onBeat && isLonger) longest = event;
  }
  return longest && { bar: barOf(longest), event: longest, begins: false };
}

/**
 * What a cue writes into the part: for each bar from where it begins to the entry the small notes, as they are written there. Nothing
 * where note values cannot say its rhythm.
 */
export function cueChanges(
  cue: Pick<Cue, 'partId' | 'name' | 'from'>,
  entry: Pick<Entry, 'noteId' | 'barIndex'>,
  own: Part,
  marking: Marking,
  from: Part,
): Change[] {
  const note = own.notes.find(({ id }) => id === entry.noteId);
  if (!note) return [];
  const first = barIndexAt(own.bars, cue.from);
  const heard = linesOf(from)[0]!.events.filter(({ grace, onset, end }) => !grace && end > cue.from && onset < note.onset && onset >= cue.from);
  const octaves = octavesTo(own, heard, cue.from);
  const changes: Change[] = [];
  for (let barIndex = first; barIndex <= note.barIndex; barIndex++) {
    const bar = own.bars[barIndex]!;
    const [begin, end] = [bar.onset, Math.min(bar.onset + bar.ticks, note.onset)];
    if (end <= begin) continue;
    const events = barOfCue(heard, begin, end, bar.ticks, (pitch) => written(own, pitch, octaves));
    if (!events) return [];
    if (events.every(({ what }) => what === 'gap')) continue;
    const value = cueValue({ name: barIndex === first ? named(cue.name, octaves) : cue.name, events });
    const change = changeTo(marking, placeTarget(barIndex, 0), 'cue', { value, origin: 'coach' });
    if (change) changes.push(change);
  }
  return changes;
}

/** What takes the printed cue before an entry away. */
export function withoutCue(entry: Pick<Entry, 'barIndex'>, own: Part, marking: Marking): Change[] {
  return Array.from({ length: CUE_BARS + 1 }, (_, i) => entry.barIndex - i)
    .filter((barIndex) => barIndex >= 0 && own.bars[barIndex])
    .flatMap((barIndex) => changeTo(marking, placeTarget(barIndex, 0), 'cue', null) ?? []);
}

/** Whether a cue is printed before an entry. */
export const hasCue = (entry: Pick<Entry, 'barIndex'>, marking: Marking): boolean =>
  Array.from({ length: CUE_BARS + 1 }, (_, i) => entry.barIndex - i).some((barIndex) => {
    const mark = markAt(marking, placeTarget(barIndex, 0), 'cue');
    return mark !== undefined && !mark.off;
  });

function barOfCue(heard: readonly LineEvent[], begin: number, end: number, whole: number, pitchOf: (pitch: Pitch) => Pitch): BarEvent[] | null {
  const events: BarEvent[] = [];
  let at = begin;
  const put = (to: number, what: 'note' | 'gap' | 'rest', event: LineEvent | null): boolean => {
    const lengths = lengthsOf(to - at);
    if (!lengths) return false;
    lengths.forEach((length, i) => {
      const tied = i < lengths.length - 1 || (event !== null && event.end > to && to === begin + whole);
      // Of a chord the upper note is what one hears.
      const heads = event ? [{ pitch: pitchOf(event.notes.at(-1)!.pitch), tied }] : [];
      events.push({ what, heads, length });
    });
    at = to;
    return true;
  };
  for (const event of heard) {
    if (event.end <= begin || event.onset >= end) continue;
    const from = Math.max(begin, event.onset);
    const before = heard[0]!.onset >= from ? 'gap' : 'rest';
    if (from > at && !put(from, before, null)) return null;
    if (!put(Math.min(end, event.end), 'note', event)) return null;
  }
  if (at < begin + whole && !put(begin + whole, 'gap', null)) return null;
  return events.reduce((sum, event) => sum + ticksOfEvent(event, whole), 0) > 0 ? events : null;
}

/** The middle of the staff by its clef, in letters from C0. */
const MIDDLES: Readonly<Record<string, number>> = { G: 34, C: 28, F: 22 };
/** Up to so many letters from the middle a cue is read easily: two ledger lines. */
const READABLE = 9;

function octavesTo(own: Part, heard: readonly LineEvent[], tick: number): number {
  const clef = clefAt(own.clefs, tick);
  const middle = (MIDDLES[clef?.sign ?? 'G'] ?? 34) + ((clef?.sign === 'C' ? (3 - clef.line) * 2 : 0) + 7 * (clef?.octave ?? 0));
  const letters = heard.map(({ notes }) => letterIndex(written(own, notes.at(-1)!.pitch, 0))).sort((a, b) => a - b);
  const median = letters[letters.length >> 1] ?? middle;
  const away = median - middle;
  return Math.abs(away) <= READABLE ? 0 : -Math.sign(away) * Math.ceil((Math.abs(away) - READABLE) / 7);
}

const clefAt = (clefs: readonly ClefChange[], tick: number) => clefs.filter((each) => each.staff === 1 && each.tick <= tick).at(-1)?.clef;

/** Sounding pitch as the part writes it, in letters as near as its half steps allow. */
function written({ soundsHalfSteps }: Part, pitch: Pitch, octaves: number): Pitch {
  const up = -soundsHalfSteps;
  return transposed(pitch, Math.round((up * 7) / 12) + 7 * octaves, up + 12 * octaves);
}

/** @example "Violin I, an octave lower" */
function named(name: string, octaves: number): string {
  if (octaves === 0) return name;
  const count = Math.abs(octaves) === 1 ? 'an octave' : `${Math.abs(octaves)} octaves`;
  return `${name}, ${count} ${octaves > 0 ? 'higher' : 'lower'}`;
}
