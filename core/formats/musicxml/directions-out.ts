/** New directions, put where they are read at the wanted tick; and the words for the player as directions. */
import type { Part } from '../../score/score';
import { markKey, splitKey, type Marking } from '../../marking/mark';
import { BOW_WISH_KINDS } from '../../marking/kinds';
import { NOTE_LABELS, placeOfTarget, playerNotes } from '../../marking/notes';
import { wishInWords } from '../../marking/wishes';
import { escapeXml, type XmlElement } from '../raw/xml';
import type { TextEdit } from './edits';
import { layoutOf } from './layout';
import { spotAt } from './spot';

/** @returns false where the bar holds nothing to stand at */
export type Put = (barIndex: number, tick: number, types: string, sound?: string, placement?: 'above' | 'below') => boolean;

/** Told the keys of marks that find no place. */
export type Lose = (key: string) => void;

/** Digits of an offset between two divisions of the file: enough that it is read at the very tick. */
const OFFSET_DIGITS = 9;

export const type = (sign: string): string => `<direction-type>${sign}</direction-type>`;

/** A function that adds the edit for one direction to the result. */
export function directions(text: string, measures: readonly XmlElement[], part: Part, result: TextEdit[]): Put {
  return (barIndex, tick, types, sound = '', placement = 'above') => {
    const spot = spotAt(measures, part, barIndex, tick);
    if (!spot) return false;
    const { line } = layoutOf(text, spot.element);
    const offset = spot.offset ? `${line(1)}<offset>${Number(spot.offset.toFixed(OFFSET_DIGITS))}</offset>` : '';
    const staff = spot.staff === null ? '' : `${line(1)}<staff>${spot.staff}</staff>`;
    const block = `<direction placement="${placement}">${line(1)}${types}${offset}${staff}${sound && line(1) + sound}${line(0)}</direction>`;
    if (spot.where === 'before') result.push({ start: spot.element.start, end: spot.element.start, text: block + line(0) });
    else result.push({ start: spot.element.end, end: spot.element.end, text: line(0) + block });
    return true;
  };
}

/** Notes for the player as words over the staff. */
export function wordsOut(text: string, measures: readonly XmlElement[], part: Part, marking: Marking, lose: Lose): TextEdit[] {
  const result: TextEdit[] = [];
  const put = directions(text, measures, part, result);
  for (const note of playerNotes(part, marking)) {
    const label = NOTE_LABELS[note.kind];
    const words = `${label && `${label}: `}${note.text.replace(/\s*\n\s*/g, ' / ')}`;
    const there = put(note.barIndex, note.onset - part.bars[note.barIndex]!.onset, type(`<words font-style="italic">${escapeXml(words)}</words>`));
    if (!there) lose(markKey(note.target, note.kind));
  }
  return result;
}

/** Wishes for the bow as players write them: words over the staff, where they stand or where their bars begin. */
export function wishesOut(text: string, measures: readonly XmlElement[], part: Part, marking: Marking, lose: Lose): TextEdit[] {
  const result: TextEdit[] = [];
  const put = directions(text, measures, part, result);
  const byPlace = new Map<string, { barIndex: number; onset: number; words: string[]; keys: string[] }>();
  for (const kind of BOW_WISH_KINDS) {
    for (const [key, mark] of Object.entries(marking)) {
      if (mark.off || splitKey(key).kind !== kind) continue;
      const place = placeOfTarget(part, splitKey(key).target);
      const words = wishInWords(kind, mark.value);
      if (!place || words === null) continue;
      const at = byPlace.get(`${place.barIndex} ${place.onset}`) ?? { barIndex: place.barIndex, onset: place.onset, words: [], keys: [] };
      at.words.push(words);
      at.keys.push(key);
      byPlace.set(`${place.barIndex} ${place.onset}`, at);
    }
  }
  for (const { barIndex, onset, words, keys } of byPlace.values())
    if (!put(barIndex, onset - part.bars[barIndex]!.onset, type(`<words>${escapeXml(words.join(', '))}</words>`))) keys.forEach(lose);
  return result;
}
