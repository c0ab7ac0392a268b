/** New directions, put where they are read at the wanted tick; and the words for the player as directions. */
import type { Part } from '../../score/score';
import { BOW_WISH_KINDS, splitKey, type Marking } from '../../marking/mark';
import { NOTE_LABELS, placeOfTarget, playerNotes } from '../../marking/notes';
import { wishInWords } from '../../marking/wishes';
import { escapeXml, type XmlElement } from '../xml';
import type { TextEdit } from './edits';
import { layoutOf } from './layout';
import { spotAt } from './spot';

export type Put = (barIndex: number, tick: number, types: string, sound?: string, placement?: 'above' | 'below') => void;

export const type = (sign: string): string => `<direction-type>${sign}</direction-type>`;

/** A function that adds the edit for one direction to the result; bars that hold nothing are passed over. */
export function directions(text: string, measures: readonly XmlElement[], part: Part, result: TextEdit[]): Put {
  return (barIndex, tick, types, sound = '', placement = 'above') => {
    const spot = spotAt(measures, part, barIndex, tick);
    if (!spot) return;
    const { line } = layoutOf(text, spot.element);
    const offset = spot.offset ? `${line(1)}<offset>${spot.offset}</offset>` : '';
    const staff = spot.staff === null ? '' : `${line(1)}<staff>${spot.staff}</staff>`;
    const block = `<direction placement="${placement}">${line(1)}${types}${offset}${staff}${sound && line(1) + sound}${line(0)}</direction>`;
    if (spot.where === 'before') result.push({ start: spot.element.start, end: spot.element.start, text: block + line(0) });
    else result.push({ start: spot.element.end, end: spot.element.end, text: line(0) + block });
  };
}

/** Notes for the player as words over the staff. */
export function wordsOut(text: string, measures: readonly XmlElement[], part: Part, marking: Marking): TextEdit[] {
  const result: TextEdit[] = [];
  const put = directions(text, measures, part, result);
  for (const note of playerNotes(part, marking)) {
    const label = NOTE_LABELS[note.kind];
    const words = `${label && `${label}: `}${note.text.replace(/\s*\n\s*/g, ' / ')}`;
    put(note.barIndex, note.onset - part.bars[note.barIndex]!.onset, type(`<words font-style="italic">${escapeXml(words)}</words>`));
  }
  return result;
}

/** Wishes for the bow as players write them: words over the staff, where they stand or where their bars begin. */
export function wishesOut(text: string, measures: readonly XmlElement[], part: Part, marking: Marking): TextEdit[] {
  const result: TextEdit[] = [];
  const put = directions(text, measures, part, result);
  const byPlace = new Map<string, { barIndex: number; onset: number; words: string[] }>();
  for (const kind of BOW_WISH_KINDS) {
    for (const [key, mark] of Object.entries(marking)) {
      if (mark.off || splitKey(key).kind !== kind) continue;
      const place = placeOfTarget(part, splitKey(key).target);
      const words = wishInWords(kind, mark.value);
      if (!place || words === null) continue;
      const at = byPlace.get(`${place.barIndex} ${place.onset}`) ?? { barIndex: place.barIndex, onset: place.onset, words: [] };
      at.words.push(words);
      byPlace.set(`${place.barIndex} ${place.onset}`, at);
    }
  }
  for (const { barIndex, onset, words } of byPlace.values())
    put(barIndex, onset - part.bars[barIndex]!.onset, type(`<words>${escapeXml(words.join(', '))}</words>`));
  return result;
}
