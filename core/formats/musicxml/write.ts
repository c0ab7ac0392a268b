/**
 * MusicXML out: the file as it came, with the marks added in place. Nothing else is touched: the result differs from
 * the source only inside the notes that carry a mark or an end of a changed slur, and where the print is edited.
 * What each mark becomes is listed in docs/musicxml-marks.md.
 */
import type { Note, Part } from '../../score/score';
import { markAt, type Marking } from '../../marking/mark';
import { MARKS, PLAYER_KINDS, type MarkKind } from '../../marking/kinds';
import { STRUCK } from '../../marking/values';
import type { XmlElement } from '../raw/xml';
import { applyEdits, type TextEdit } from './edits';
import { wishesOut, wordsOut } from './directions-out';
import { emptyPlan, noteEdits, signsIn, type NotePlan } from './note-plan';
import { printEditsOut } from './print-out';
import type { MusicXmlDocument } from './read';
import { withoutPlace } from './without-place';
import { planSlurs } from './slurs-out';

/** The marked document. @see withMarks for what found no place in it */
export const writeMarked = (document: MusicXmlDocument, part: Part, marking: Marking, options: WriteOptions = {}): string =>
  applyEdits(document.text, withMarks(document, part, marking, options).edits);

export interface WriteOptions {
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
  const marking = lost.size ? Object.fromEntries(Object.entries(all).filter(([key]) => !lost.has(key))) : all;
  const lose = (key: string) => void lost.add(key);
  const plans = new Map<number, NotePlan>();
  const planFor = (note: Note): NotePlan => {
    let plan = plans.get(note.source);
    if (!plan) plans.set(note.source, (plan = emptyPlan()));
    return plan;
  };
  for (const note of part.notes) {
    for (const kind of TECHNICAL_KINDS) {
      const mark = markAt(marking, note.id, kind);
      if (mark && !mark.off) planTechnical(planFor(note), elements[note.source]!, kind, mark.value);
    }
  }
  planSlurs(part, marking, elements, planFor);
  const edits = printEditsOut({ text: document.text, measures, elements, part, marking, planFor, lose });
  edits.push(...wishesOut(document.text, measures, part, marking, lose));
  if (options.words) edits.push(...wordsOut(document.text, measures, part, marking, lose));
  for (const [source, plan] of plans) edits.push(...noteEdits(document.text, elements[source]!, plan));
  return { edits, unplaced: [...lost] };
}

/** The `<note>` elements of a part in file order, as `Note.source` counts them. */
export function noteElements(document: MusicXmlDocument, partId: string): XmlElement[] {
  const source = document.parts.find((candidate) => candidate.id === partId);
  return (source?.measures ?? []).flatMap((measure) => measure.children.filter((element) => element.name === 'note'));
}

/** What stands among the technical signs of a note. */
const TECHNICAL_KINDS = PLAYER_KINDS.filter((kind) => MARKS[kind].inFile !== 'slurs');

function planTechnical(plan: NotePlan, element: XmlElement, kind: MarkKind, value: string): void {
  const { inFile } = MARKS[kind];
  if (inFile === null || inFile === 'slurs') return;
  const says = (sign: XmlElement) =>
    'words' in inFile
      ? sign.name === 'other-technical' && sign.text.trim() === inFile.words
      : inFile.replaces.includes(sign.name) && sign.attributes.substitution !== 'yes';
  for (const sign of signsIn(element, 'technical')) if (says(sign)) plan.remove.add(sign);
  if (value !== STRUCK) plan.add.technical.push('words' in inFile ? `<other-technical>${inFile.words}</other-technical>` : inFile.element(value));
}
