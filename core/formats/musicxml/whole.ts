/** A whole part for the music stand: marks as players read them, one player's line of a divided part, long rests in one. */
import { partOfLine } from '../../instruments/lines';
import type { Marking } from '../../marking/mark';
import type { Part } from '../../score/score';
import { child, childText, escapeXml, type XmlElement } from '../raw/xml';
import { asDocument, idEdits, measureText } from './cut';
import type { TextEdit } from './edits';
import type { MusicXmlDocument } from './read';
import { saidOnce } from './said-once';
import { noteElements, withMarks } from './write';

/** Name of a bar in the engraver's picture. */
export const barId = (index: number): string => `bar-${index}`;
export const barOfId = (id: string): number | null => (/^bar-\d+$/.test(id) ? Number(id.slice(4)) : null);

/** @param line of a divided part, from 0; null for all that is printed */
export function wholePart(document: MusicXmlDocument, part: Part, marking: Marking, line: number | null): string {
  const source = document.parts.find((candidate) => candidate.id === part.id);
  if (!source) throw new Error(`no part ${part.id}`);
  const played = line === null ? part : partOfLine(part, line);
  const marks = withMarks(document, part, marking, { forReading: true }).edits;
  const gone = played === part ? [] : leftOut(document, part, played);
  // What is done to a note that is left out has no place any more.
  const others = [...marks, ...idEdits(document, part)].filter(({ start, end }) => !gone.some((cut) => start >= cut.start && end <= cut.end));
  const edits = [...others, ...gone];
  const said = saidOnce(source.measures, part);
  const rests = longRests(source.measures, played, [...edits, ...said.values()]);
  const bars = source.measures.map((measure, i) => {
    const here = said.get(i);
    const text = measureText(document, measure, [...edits, ...(here ? [here] : []), ...(rests.get(i) ?? [])], '').replace(
      /<print\b[^>]*?(\/>|>[\s\S]*?<\/print>)/g,
      '',
    );
    return text.replace('<measure ', `<measure id="${barId(i)}" `);
  });
  return asDocument(part.id, bars.join('\n'));
}

/** Notes of other players: those of a chord go, the others become room of the same length. */
function leftOut(document: MusicXmlDocument, part: Part, played: Part): TextEdit[] {
  const kept = new Set(played.notes.map(({ source }) => source));
  const all = new Set(part.notes.map(({ source }) => source));
  const elements = noteElements(document, part.id);
  const edits: TextEdit[] = [];
  elements.forEach((element, source) => {
    if (!all.has(source) || kept.has(source)) return;
    const chord = [...chordAt(elements, source)];
    const stays = chord.find((index) => kept.has(index));
    const { start, end } = element;
    if (child(element, 'chord') || stays !== undefined || child(element, 'grace')) edits.push({ start, end, text: '' });
    else edits.push({ start, end, text: `<forward><duration>${escapeXml(childText(element, 'duration') ?? '0')}</duration>${voiceOf(element)}</forward>` });
    // The first of its chord that stays is no further note of a chord any more.
    const sign = !child(element, 'chord') && stays !== undefined && child(elements[stays]!, 'chord');
    if (sign) edits.push({ start: sign.start, end: sign.end, text: '' });
  });
  return edits;
}

const voiceOf = (element: XmlElement): string => {
  const voice = childText(element, 'voice');
  return voice === null ? '' : `<voice>${escapeXml(voice)}</voice>`;
};

/** The notes of a chord, from its first one on. */
function* chordAt(elements: readonly XmlElement[], index: number): Generator<number> {
  let first = index;
  while (first > 0 && child(elements[first]!, 'chord')) first--;
  yield first;
  for (let next = first + 1; elements[next] && child(elements[next]!, 'chord'); next++) yield next;
}

/** What may stand in a bar of rest that is counted with others. */
const PLAIN = new Set(['note', 'print', 'backup', 'forward']);
const isPlain = (elements: readonly XmlElement[]): boolean => elements.every(({ name }) => PLAIN.has(name));

/** Bars of rest in a row, with nothing in them to be read, are one sign with their number. Its first bar may have signs before its rest. */
function longRests(measures: readonly XmlElement[], part: Part, edits: readonly TextEdit[]): Map<number, TextEdit[]> {
  const sounding = new Set(part.notes.map(({ barIndex }) => barIndex));
  // A tempo that another part carries is one for this part, too: it is counted from there.
  const tempi = new Set(part.tempi.map(({ tick }) => tick));
  const isRest = (i: number): boolean => !sounding.has(i) && !part.bars[i]?.pickup && firstNote(measures[i]!) !== undefined;
  const isTouched = ({ start, end }: XmlElement): boolean => edits.some((edit) => edit.start >= start && edit.end <= end);
  const goesOn = (i: number): boolean =>
    measures[i] !== undefined && isRest(i) && isPlain(measures[i].children) && !isTouched(measures[i]) && !tempi.has(part.bars[i]?.onset ?? -1);
  const found = new Map<number, TextEdit[]>();
  for (let from = 0; from < measures.length; from++) {
    const { children } = measures[from]!;
    const note = firstNote(measures[from]!);
    if (!note || !isRest(from) || !isPlain(children.slice(children.indexOf(note)))) continue;
    let to = from;
    while (goesOn(to + 1)) to++;
    const sign = `<attributes><measure-style><multiple-rest>${to - from + 1}</multiple-rest></measure-style></attributes>`;
    if (to > from) found.set(from, [{ start: note.start, end: note.start, text: sign }]);
    from = to;
  }
  return found;
}

const firstNote = (measure: XmlElement): XmlElement | undefined => measure.children.find(({ name }) => name === 'note');
