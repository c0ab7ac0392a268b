/**
 * The notes of one bar as text, for correcting what is printed: "A4/4 C#5/8. r/16 D5+F5/2~". A note is its written pitch, a slash and
 * its length as part of a whole note (4 is a quarter), dots behind it; "t" makes it one of a triplet, "(5:4)" one of five in the time
 * of four. "+" joins the heads of a chord, "~" ties to the next note (behind one head of a chord only that one), "{B4/8}" is a grace note, "r" a rest (alone: of the whole bar),
 * "x/4" a gap in which nothing is printed. Voices stand one after the other: "1: A4/1; 2: D4/2 E4/2". The notation is our own.
 */
import { bad, good, type Result } from '../util/result';
import { wholeBarTicks } from './beat';
import { lengthOf, lengthText, MOST_DOTS, parseLength, plain, ticksOfLength, valueNamed, type NoteLength } from './note-length';
import { parsePitch, pitchName, type Pitch } from './pitch';
import type { Bar, Note, Part } from './score';
import { quartersOf } from './ticks';

export interface BarHead {
  /** Written. */
  pitch: Pitch;
  /** To the next note. */
  tied: boolean;
}

export interface BarEvent {
  what: 'note' | 'grace' | 'rest' | 'gap';
  /** Of a note, in the order of the file; none for rests and gaps. */
  heads: readonly BarHead[];
  /** Null for a rest of the whole bar. */
  length: NoteLength | null;
}

export const WHOLE_REST: BarEvent = { what: 'rest', heads: [], length: null };

/** Names of the pitches that are tied to the next note. */
export const tiedOn = ({ heads }: BarEvent): string[] => heads.filter(({ tied }) => tied).map(({ pitch }) => pitchName(pitch));

export interface BarVoice {
  voice: string;
  events: readonly BarEvent[];
}

/** Ticks of time that an event takes; 0 for a grace note. @param bar ticks of a rest of the whole bar */
export const ticksOfEvent = ({ what, length }: BarEvent, bar: number): number => (what === 'grace' ? 0 : length === null ? bar : ticksOfLength(length));

/** Ticks that a voice fills. */
export const filled = ({ events }: Pick<BarVoice, 'events'>, bar: number): number => events.reduce((sum, event) => sum + ticksOfEvent(event, bar), 0);

const eventText = ({ what, heads, length }: BarEvent): string => {
  const all = heads.length > 0 && heads.every(({ tied }) => tied);
  const name = what === 'rest' ? 'r' : what === 'gap' ? 'x' : heads.map(({ pitch, tied }) => `${pitchName(pitch)}${tied && !all ? '~' : ''}`).join('+');
  const text = `${name}${length === null ? '' : `/${lengthText(length)}`}${all ? '~' : ''}`;
  return what === 'grace' ? `{${text}}` : text;
};

/** A single voice "1" goes without its name. */
export function barText(voices: readonly BarVoice[]): string {
  const text = ({ events }: BarVoice) => events.map(eventText).join(' ');
  if (voices.length === 1 && voices[0]!.voice === '1') return text(voices[0]!);
  return voices.map((voice) => `${voice.voice}: ${text(voice)}`).join('; ');
}

const HOW = 'Use notes such as A4/4, C#5/8. or D5+F5/2~ and rests such as r/4, with a space between them.';

/** @returns a problem that names what is not understood */
export function parseBarText(text: string): Result<BarVoice[]> {
  const voices: BarVoice[] = [];
  for (const each of text.split(';')) {
    const [, voice = '1', said = ''] = /^\s*(?:([A-Za-z0-9_.]+):\s)?(.*)$/s.exec(each) ?? [];
    if (voices.some((other) => other.voice === voice)) return bad(`voice ${voice}`, 'It is said twice.', 'Write every voice once, as in 1: A4/1; 2: D4/1.');
    const words = said.trim().split(/\s+/).filter(Boolean);
    const events: BarEvent[] = [];
    for (const word of words) {
      const event = parseEvent(word);
      if (!event) return bad(`“${word.slice(0, 24)}”`, 'This is no note and no rest.', HOW);
      events.push(event);
    }
    if (events.length === 0) return bad(voices.length || text.includes(';') ? `voice ${voice}` : null, 'There is no note and no rest.', HOW);
    const whole = events.find(({ length }) => length === null);
    if (whole && events.some((event) => event !== whole && event.what !== 'grace'))
      return bad('“r”', 'A rest of the whole bar leaves no room for more.', 'Give it a length, such as r/4.');
    voices.push({ voice, events });
  }
  return good(voices);
}

function parseEvent(word: string): BarEvent | null {
  const [, grace] = /^\{(.*)\}$/.exec(word) ?? [];
  const [, name, lengthSaid, tie] = /^([^/]+?)(?:\/([^~]+)(~?))?$/.exec(grace ?? word) ?? [];
  if (name === undefined) return null;
  const length = lengthSaid === undefined ? null : parseLength(lengthSaid);
  if (lengthSaid === undefined ? grace !== undefined || name !== 'r' : length === null) return null;
  if (name === 'r' || name === 'x') return tie || grace !== undefined ? null : { what: name === 'r' ? 'rest' : 'gap', heads: [], length };
  const heads: BarHead[] = [];
  for (const each of name.split('+')) {
    const [, said = '', own] = /^(.*?)(~?)$/.exec(each)!;
    const pitch = parsePitch(said);
    if (!pitch || pitch.octave < 0 || pitch.octave > 9) return null;
    heads.push({ pitch, tied: own === '~' || tie === '~' });
  }
  return { what: grace === undefined ? 'note' : 'grace', heads, length };
}

/** A value that a mark may have; null when it can be said. */
export function barTextProblem(text: string): string | null {
  const read = parseBarText(text);
  if (read.ok) return null;
  const { place, what } = read.problem;
  return `${HOW} ${place ? `${place}: ` : ''}${what}`;
}

/** Which lengths a bar may have: as it is filled, or as its time signature says. */
export const barMayLast = (bar: Pick<Bar, 'ticks' | 'beats' | 'beatType'>): number[] => [...new Set([bar.ticks, wholeBarTicks(bar)])];

/** What is wrong with the voices of a bar in words; null where all of them fill it alike. */
export function fillProblem(voices: readonly BarVoice[], bar: Pick<Bar, 'ticks' | 'beats' | 'beatType'>): string | null {
  const lasts = barMayLast(bar);
  const fills = voices.map((voice) => ({ voice: voice.voice, ticks: filled(voice, bar.ticks) }));
  const close = (a: number, b: number) => Math.abs(a - b) < 1;
  for (const wanted of lasts) if (fills.every(({ ticks }) => close(ticks, wanted))) return null;
  const wanted = lasts.at(-1)!;
  const { voice, ticks } = fills.find((each) => !close(each.ticks, wanted))!;
  const off = Math.abs(ticks - wanted);
  const named = lengthOf(off);
  const size = named ? `${lengthText(named)} (${inQuarters(off)})` : inQuarters(off);
  const who = voices.length > 1 ? `Voice ${voice} has` : 'The bar has';
  return `${who} ${inQuarters(ticks)} of ${inQuarters(wanted)}: ${size} too ${ticks > wanted ? 'much' : 'little'}.`;
}

const inQuarters = (ticks: number): string => {
  const count = Math.round(quartersOf(ticks) * 1000) / 1000;
  return `${count} ${count === 1 ? 'quarter' : 'quarters'}`;
};

/** Which event of a bar a note is a head of; null where it is none. @param whole ticks of a rest of the whole bar */
export function eventOf(
  voices: readonly BarVoice[],
  note: Pick<Note, 'voice' | 'tick' | 'grace' | 'written'>,
  whole: number,
): { voice: number; event: number } | null {
  const voice = voices.findIndex((each) => each.voice === note.voice);
  let at = 0;
  for (const [event, each] of (voices[voice]?.events ?? []).entries()) {
    const isHere = Math.abs(at - note.tick) < 1 && (each.what === 'grace') === (note.grace !== null);
    if (isHere && each.heads.some(({ pitch }) => pitchName(pitch) === pitchName(note.written))) return { voice, event };
    at += ticksOfEvent(each, whole);
  }
  return null;
}

/** The voices of a bar as they are printed; a problem where its notes cannot be said as text. */
export function barVoices(part: Part, barIndex: number): Result<BarVoice[]> {
  const bar = part.bars[barIndex];
  if (!bar) return bad(null, 'There is no such bar.', 'Choose a note of the part.');
  const notes = part.notes.filter((note) => note.barIndex === barIndex);
  const rests = part.rests.filter((rest) => rest.barIndex === barIndex);
  const odd = notes.find((note) => note.cue || note.tremoloWith !== null);
  if (odd)
    return bad(
      null,
      odd.cue ? 'Small notes of another part stand in it.' : 'A tremolo between two notes stands in it.',
      'Correct this bar in the file it came from.',
    );
  const voices = [...new Set([...notes, ...rests].map(({ voice }) => voice))].sort();
  const result: BarVoice[] = [];
  for (const voice of voices) {
    const read = voiceOf(
      bar,
      voice,
      notes.filter((note) => note.voice === voice),
      rests.filter((rest) => rest.voice === voice),
    );
    if (!read) return bad(null, `Voice ${voice} has lengths that no note value says.`, 'Correct this bar in the file it came from.');
    result.push(read);
  }
  return good(result.length ? result : [{ voice: '1', events: [WHOLE_REST] }]);
}

function voiceOf(bar: Bar, voice: string, notes: readonly Note[], rests: Part['rests']): BarVoice | null {
  const events: BarEvent[] = [];
  let at = 0;
  const gapTo = (tick: number): boolean => {
    if (tick - at < 0.5) return tick - at > -0.5;
    const length = lengthOf(tick - at);
    if (length) events.push({ what: 'gap', heads: [], length });
    at = tick;
    return length !== null;
  };
  const groups = [...chordsOf(notes), ...rests.map(({ onset, duration }) => ({ tick: onset - bar.onset, duration, heads: [] as Note[] }))].sort(
    (a, b) => a.tick - b.tick || graceFirst(a) - graceFirst(b),
  );
  for (const { tick, duration, heads } of groups) {
    const first = heads[0];
    const written = first ? lengthWritten(first) : null;
    if (first?.grace) {
      events.push({ what: 'grace', heads: heads.map(headOf), length: written ?? plain(8) });
      continue;
    }
    if (!gapTo(tick)) return null;
    const isWhole = !first && tick === 0 && duration === bar.ticks && groups.length === 1;
    const length = isWhole ? null : written && Math.abs(ticksOfLength(written) - duration) < 1 ? written : lengthOf(duration);
    if (length === null && !isWhole) return null;
    events.push({ what: first ? 'note' : 'rest', heads: heads.map(headOf), length });
    at = tick + duration;
  }
  return gapTo(bar.ticks) ? { voice, events } : null;
}

const headOf = ({ written, tiedTo }: Note): BarHead => ({ pitch: written, tied: tiedTo });
const graceFirst = ({ heads }: { heads: readonly Note[] }): number => (heads[0]?.grace ? 0 : 1);

/** Heads that are one chord, in the order of the score. */
function chordsOf(notes: readonly Note[]): Array<{ tick: number; duration: number; heads: Note[] }> {
  const chords: Array<{ tick: number; duration: number; heads: Note[] }> = [];
  for (const note of [...notes].sort((a, b) => a.source - b.source)) {
    const last = chords.at(-1);
    if (note.inChord && last) last.heads.push(note);
    else chords.push({ tick: note.tick, duration: note.duration, heads: [note] });
  }
  return chords;
}

/** Null where the file names no note value. */
function lengthWritten({ length: { type, dots, actual, normal } }: Note): NoteLength | null {
  const of = type === null ? null : valueNamed(type);
  return of === null || dots > MOST_DOTS ? null : { of, dots, actual, normal };
}
