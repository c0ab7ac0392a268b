/** All reading aids of a part, in order. A pure function of the part (with the coach's edits) and the player. */
import type { Part } from '../score/score';
import type { Player } from '../instruments/player';
import { accidentalAids } from './accidentals';
import type { ReadingAid } from './aid';
import { clefAids } from './clefs';
import { countingAids } from './counting';
import { spellingAids } from './spelling';

export function readingAids(part: Part, player: Player): ReadingAid[] {
  return [...accidentalAids(part), ...spellingAids(part), ...clefAids(part, player), ...countingAids(part)].sort((a, b) => a.onset - b.onset);
}
