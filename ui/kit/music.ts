/** Pitches and places in the words and signs that players read. */
import type { Part, Note } from '@/core/score/score';
import { beatOf } from '@/core/score/score';
import type { Pitch } from '@/core/score/pitch';

const SIGNS: Readonly<Record<string, string>> = { '-2': '𝄫', '-1': '♭', '0': '', '1': '♯', '2': '𝄪' };

export const pitchLabel = ({ step, alter, octave }: Pitch): string => `${step}${SIGNS[String(alter)] ?? ''}${octave}`;

export function placeLabel(part: Part, note: Note, ticksPerQuarter: number): string {
  const bar = part.bars[note.barIndex]!;
  const beat = beatOf(bar, note.tick, ticksPerQuarter);
  return `Bar ${bar.label}, beat ${Math.round(beat * 100) / 100}`;
}

export const barsLabel = (part: Pick<Part, 'bars'> | null, fromBar: number, toBar: number): string => {
  const from = part?.bars[fromBar]?.label ?? String(fromBar + 1);
  const to = part?.bars[toBar]?.label ?? String(toBar + 1);
  return from === to ? from : `${from}–${to}`;
};
