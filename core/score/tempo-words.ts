/** The tempo that a word at the beginning stands for, where no figure is printed. */
import { feltBeat } from './beat';
import type { Part } from './score';
import { quartersOf } from './ticks';

/**
 * Felt beats per minute: about the middle of the ranges that metronomes print beside the words (common practice, from memory). Diminutives
 * and longer words first: the first that is found decides.
 */
const TEMPO_WORDS: ReadonlyArray<readonly [word: string, beats: number]> = [
  ['prestissimo', 190],
  ['presto', 176],
  ['vivacissimo', 176],
  ['vivace', 152],
  ['allegretto', 112],
  ['allegro', 132],
  ['moderato', 100],
  ['andantino', 88],
  ['andante', 80],
  ['adagietto', 70],
  ['adagio', 62],
  ['larghetto', 62],
  ['largo', 50],
  ['lento', 54],
  ['grave', 42],
  ['alla marcia', 112],
  ['maestoso', 84],
  ['con moto', 108],
  ['very fast', 160],
  ['fast', 140],
  ['quick', 140],
  ['lively', 132],
  ['moderately', 100],
  ['moderate', 100],
  ['walking', 80],
  ['slowly', 58],
  ['slow', 58],
  ['sehr schnell', 160],
  ['schnell', 140],
  ['lebhaft', 132],
  ['mäßig', 96],
  ['massig', 96],
  ['gehend', 80],
  ['langsam', 58],
  ['vif', 140],
  ['modéré', 96],
  ['lent', 54],
];

/** Bars after the beginning in which a word still is the tempo of the piece. */
const AT_THE_BEGINNING = 1;

const isWord = (text: string, word: string): boolean => new RegExp(`(^|[^\\p{L}])${word}([^\\p{L}]|$)`, 'iu').test(text);

/** @returns the words as they are printed, and what they come to in quarters per minute; null where none is known */
export function tempoByWords({ words, bars }: Pick<Part, 'words' | 'bars'>): { quartersPerMinute: number; words: string } | null {
  const first = bars.find(({ pickup }) => !pickup) ?? bars[0];
  if (!first) return null;
  const until = first.onset + first.ticks * AT_THE_BEGINNING;
  for (const { tick, text } of words) {
    if (tick >= until) continue;
    const known = TEMPO_WORDS.find(([word]) => isWord(text, word));
    if (known) return { quartersPerMinute: known[1] * quartersOf(feltBeat(first)), words: text };
  }
  return null;
}
