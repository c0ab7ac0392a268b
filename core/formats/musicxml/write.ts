/**
 * MusicXML out: the file as it came, with the marks added in place. Nothing else is touched: the result differs from
 * the source only inside the notes that carry a mark or an end of a changed slur, and where the print is edited.
 * What each mark becomes is listed in docs/musicxml-marks.md.
 */
import type { Note, Part } from '../../score/score';
import { markAt, type Marking } from '../../marking/mark';
import { MARKS, PLAYER_KINDS, type MarkKind } from '../../marking/kinds';
import { STRUCK } from '../../marking/values';
import { escapeXml, type XmlElement } from '../raw/xml';
import { applyEdits, type TextEdit } from './edits';
import { wishesOut, wordsOut } from './directions-out';
import { emptyPlan, noteEdits, signsIn, type NotePlan } from './note-plan';
import { coveredEdits, eachPair, MOST_NUMBERS, planCommas, planHandSigns, withHooksSlurred } from './for-reading';
import { printEditsOut } from './print-out';
import type { MusicXmlDocument } from './read';
import { withoutPlace } from './without-place';
import { planSlurs } from './slurs-out';

/** The marked document. @see withMarks for what found no place in it */
export const writeMarked = (document: MusicXmlDocument, part: Part, marking: Marking, options: WriteOptions = {}): string =>
  applyEdits(document.text, withMarks(document, part, marking, options).edits);

export interface WriteOptions {
  /** As players read it, for the engraver, and not for the file. */
  forReading?: boolean;
  /** Notes for the player go out as words over the staff. */
  words?: boolean;
}

export interface WithMarks {
  /** What puts the marks of one part into its document. */
  edits: TextEdit[];
  /** Keys of the marks in force that stand nowhere in this document: nothing of them is in the edits. */
  unplaced: string[];
}

export function withMarks(document: MusicXmlDocument, part: Part, all: Marking, options: WriteOptions = {}): WithMarks {
  const measures = document.parts.find((candidate) => candidate.id === part.id)?.measures ?? [];
  const elements = noteElements(document, part.id);
  const lost = new Set(withoutPlace(part, all, options));
  const placed = lost.size ? Object.fromEntries(Object.entries(all).filter(([key]) => !lost.has(key))) : all;
  const marking = options.forReading ? withHooksSlurred(part, placed) : placed;
  const lose = (key: string) => void lost.add(key);
  const plans = new Map<number, NotePlan>();
  const planFor = (note: Note): NotePlan => {
    let plan = plans.get(note.source);
    if (!plan) plans.set(note.source, (plan = emptyPlan()));
    return plan;
  };
  for (const note of part.notes) {
    for (const kind of SIGN_KINDS) {
      const mark = markAt(marking, note.id, kind);
      if (mark && !mark.off && !(options.forReading && isSaidInWords(kind))) planSign(planFor(note), elements[note.source]!, kind, mark.value);
    }
  }
  planSlurs(part, marking, elements, planFor);
  planSlides(part, marking, elements, planFor);
  if (options.forReading) planHandSigns(part, marking, elements, planFor);
  const edits = printEditsOut({ text: document.text, measures, elements, part, marking, planFor, lose });
  if (options.forReading) planCommas(part, marking, planFor);
  edits.push(...wishesOut(document.text, measures, part, marking, lose));
  if (options.words) edits.push(...wordsOut(document.text, measures, part, marking, lose));
  for (const [source, plan] of plans) edits.push(...noteEdits(document.text, elements[source]!, plan));
  if (options.forReading) edits.push(...coveredEdits(part, marking, elements));
  return { edits, unplaced: [...lost] };
}

/** The `<note>` elements of a part in file order, as `Note.source` counts them. */
export function noteElements(document: MusicXmlDocument, partId: string): XmlElement[] {
  const source = document.parts.find((candidate) => candidate.id === partId);
  return (source?.measures ?? []).flatMap((measure) => measure.children.filter((element) => element.name === 'note'));
}

/** What stands among the signs of a single note. */
const SIGN_KINDS = PLAYER_KINDS.filter((kind) => typeof MARKS[kind].inFile === 'object');

/** It stands in the file for other programs, and no engraver draws it. */
const isSaidInWords = (kind: MarkKind): boolean => {
  const { inFile } = MARKS[kind];
  return kind === 'other-finger' || (typeof inFile === 'object' && inFile !== null && 'words' in inFile);
};

function planSign(plan: NotePlan, element: XmlElement, kind: MarkKind, value: string): void {
  const { inFile } = MARKS[kind];
  if (inFile === null || typeof inFile === 'string') return;
  const says = (sign: XmlElement) =>
    'words' in inFile
      ? sign.name === 'other-technical' && sign.text.trim() === inFile.words(value)
      : inFile.replaces.includes(sign.name) && sign.attributes.substitution !== 'yes' && sign.attributes.alternate !== 'yes';
  for (const sign of signsIn(element, 'technical')) if (says(sign)) plan.remove.add(sign);
  if (value !== STRUCK)
    plan.add.technical.push('words' in inFile ? `<other-technical>${escapeXml(inFile.words(value))}</other-technical>` : inFile.element(value));
}

/** A slide goes from its note to the next one of the line. */
function planSlides(part: Part, marking: Marking, elements: readonly XmlElement[], planFor: (note: Note) => NotePlan): void {
  if (!Object.keys(marking).some((key) => key.endsWith('|slide'))) return;
  const done = new Set<string>();
  eachPair(part, (from, to) => {
    const note = from.find(({ id }) => markAt(marking, id, 'slide'));
    if (!note || done.has(note.id) || hasSlide(elements[note.source]!)) return;
    const number = (done.size % MOST_NUMBERS) + 1;
    done.add(note.id);
    planFor(note).addSlurs.push(`<slide type="start" number="${number}" line-type="solid"/>`);
    planFor(to[0]!).addSlurs.push(`<slide type="stop" number="${number}" line-type="solid"/>`);
  });
}

const hasSlide = (element: XmlElement): boolean =>
  element.children.some(({ name, children }) => name === 'notations' && children.some((sign) => sign.name === 'slide' && sign.attributes.type === 'start'));
