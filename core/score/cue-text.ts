/** A cue as text: who plays it, and the notes of one bar of it ("Violin I | x/2 A4/4 B4/4"); x is time in which nothing is printed. */
import { barText, parseBarText, type BarEvent } from './bar-text';

export interface CueSaid {
  /** Whose notes they are. */
  name: string;
  events: readonly BarEvent[];
}

const LONGEST_NAME = 60;

export const cueValue = ({ name, events }: CueSaid): string => `${nameFit(name)} | ${barText([{ voice: '1', events }])}`;

/** A name that can stand in a cue. */
const nameFit = (name: string): string => name.replaceAll('|', ' ').trim().slice(0, LONGEST_NAME) || '?';

/** Null for what is no cue. */
export function parseCue(text: string): CueSaid | null {
  const [, name, said] = /^([^|]{1,60}) \| (.+)$/s.exec(text) ?? [];
  const read = said === undefined ? null : parseBarText(said);
  return read?.ok && read.value.length === 1 && read.value[0]!.voice === '1' ? { name: name!.trim(), events: read.value[0]!.events } : null;
}
