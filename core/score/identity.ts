/**
 * What a note is called: bar, voice, place in the bar, written pitch, and which of several such it is. All of it is read off the
 * music, so that a note has the same name alone in its part, in the whole score, and in the same music written by another program.
 */
import { pitchName, type Pitch } from './pitch';
import { fractionText, ticksOfFraction } from './ticks';

export interface NoteNamed {
  barIndex: number;
  voice: string;
  /** Ticks from the start of the bar. */
  tick: number;
  /** Written pitch, as it stands in a name. */
  pitch: string;
  /** Counted from 0 among notes of the same bar, voice, place and pitch, in the order of the file. */
  ordinal: number;
}

/** Names are XML ids; "-" separates their fields and stands in none. */
const NAME = /^n-(\d+)-([A-Za-z0-9_.]+)-(\d+(?:_\d+)?)-([A-G][A-Za-z0-9]*)-(\d+)$/;

/** @example the first note of a first bar: `n-0-1-0-Fs4-0` */
export const noteId = ({ barIndex, voice, tick, pitch, ordinal }: NoteNamed): string =>
  `n-${barIndex}-${voiceInId(voice)}-${fractionText(tick)}-${pitch}-${ordinal}`;

/** The fields of a note's name; null for what is none. */
export function noteNamed(id: string): NoteNamed | null {
  const [, bar, voice, at, pitch, ordinal] = NAME.exec(id) ?? [];
  const tick = at === undefined ? null : ticksOfFraction(at);
  return tick === null ? null : { barIndex: Number(bar), voice: voice!, tick, pitch: pitch!, ordinal: Number(ordinal) };
}

/** Two heads of one written pitch, wherever they stand. */
export const sameWrittenPitch = (a: string, b: string): boolean => a === b || noteNamed(a)?.pitch === noteNamed(b)?.pitch;

/** A pitch as it may stand in an id: "Fs4" is F sharp. */
export function pitchInId(pitch: Pitch): string {
  const name = pitchName(pitch);
  return /[#+-]/.test(name) ? name.replace(/#/g, 's').replace(/\+/g, 'p').replace(/-/g, 'm') : name;
}

const PLAIN = /^[A-Za-z0-9_.]+$/;
export const voiceInId = (voice: string): string => (PLAIN.test(voice) ? voice : voice.replace(/[^A-Za-z0-9_.]/g, '_') || '_');
