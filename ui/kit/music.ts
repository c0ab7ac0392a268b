/** Pitches and places in the words and signs that players read. */
import { sayBars, sayNote } from '@/core/score/address';
import type { Note, Part } from '@/core/score/score';
import type { Pitch } from '@/core/score/pitch';

const SIGNS: Readonly<Record<string, string>> = { '-2': '𝄫', '-1': '♭', '0': '', '1': '♯', '2': '𝄪' };

export const pitchLabel = ({ step, alter, octave }: Pitch): string => `${step}${SIGNS[String(alter)] ?? ''}${octave}`;

/** "F#4" as it is typed, in the signs that players read. */
export const pitchSigns = (name: string): string =>
  /^[A-G](#{1,2}|b{1,2})-?\d/.test(name) ? name.replace('##', '𝄪').replace('bb', '𝄫').replace('#', '♯').replace('b', '♭') : name;

/** "Bar 47/3": bar and beat, as they are understood wherever a bar can be typed. */
export function placeLabel(part: Part, note: Note): string {
  const said = sayNote(part, note);
  return note.grace ? said.charAt(0).toUpperCase() + said.slice(1) : `Bar ${said}`;
}

export const barsLabel = (part: Pick<Part, 'bars'> | null, fromBar: number, toBar: number): string =>
  part ? sayBars(part.bars, { fromBar, toBar }) : fromBar === toBar ? String(fromBar + 1) : `${fromBar + 1}–${toBar + 1}`;
