/**
 * MusicXML out: the file as it came, with the marks added in place. Nothing else is touched: the result
 * differs from the source only inside the notes that carry a mark or an end of a changed slur.
 * What each mark becomes is listed in docs/musicxml-marks.md.
 */
import type { Note, Part } from '../../score/score';
import { linesOf } from '../../score/lines';
import { slurLinks } from '../../marking/links';
import { markAt, type MarkKind, type Marking } from '../../marking/mark';
import type { XmlElement } from '../xml';
import { applyEdits, type TextEdit } from './edits';
import type { MusicXmlDocument } from './read';

/** The marked document. Marks of notes that the part does not have are ignored. */
export function writeMarked(document: MusicXmlDocument, part: Part, marking: Marking): string {
  return applyEdits(document.text, markEdits(document, part, marking));
}

/** The edits that put the marks of one part into its document. */
export function markEdits(document: MusicXmlDocument, part: Part, marking: Marking): TextEdit[] {
  const elements = noteElements(document, part.id);
  const plans = new Map<number, NotePlan>();
  const planFor = (note: Note): NotePlan => {
    let plan = plans.get(note.source);
    if (!plan) plans.set(note.source, (plan = { add: [], addSlurs: [], remove: new Set() }));
    return plan;
  };
  for (const note of part.notes) {
    for (const kind of TECHNICAL_KINDS) {
      const mark = markAt(marking, note.id, kind);
      if (mark) planTechnical(planFor(note), elements[note.source]!, kind, mark.value);
    }
  }
  planSlurs(part, marking, elements, planFor);
  const edits: TextEdit[] = [];
  for (const [source, plan] of plans) edits.push(...noteEdits(document.text, elements[source]!, plan));
  return edits;
}

/** The `<note>` elements of a part in file order, as `Note.source` counts them. */
export function noteElements(document: MusicXmlDocument, partId: string): XmlElement[] {
  const source = document.parts.find((candidate) => candidate.id === partId);
  return (source?.measures ?? []).flatMap((measure) => measure.children.filter((element) => element.name === 'note'));
}

interface NotePlan {
  /** Elements for `<technical>`. */
  add: string[];
  addSlurs: string[];
  remove: Set<XmlElement>;
}

const TECHNICAL_KINDS: readonly MarkKind[] = ['finger', 'string', 'bow', 'retake', 'hook', 'covered'];

/** Elements that a mark of this kind replaces. */
const REPLACES: Readonly<Partial<Record<MarkKind, readonly string[]>>> = {
  finger: ['fingering', 'thumb-position', 'open-string'],
  string: ['string'],
  bow: ['down-bow', 'up-bow'],
};

/** What the format has no element for goes out as words of its own (MusicXML: `other-technical`). */
const WORDS: Readonly<Partial<Record<MarkKind, string>>> = { retake: 'retake', hook: 'hook', covered: 'covered interval' };

function planTechnical(plan: NotePlan, element: XmlElement, kind: MarkKind, value: string): void {
  for (const technical of technicalsOf(element)) {
    for (const sign of technical.children) {
      if (REPLACES[kind]?.includes(sign.name) && sign.attributes.substitution !== 'yes') plan.remove.add(sign);
      if (WORDS[kind] && sign.name === 'other-technical' && sign.text.trim() === WORDS[kind]) plan.remove.add(sign);
    }
  }
  if (value === 'none') return;
  if (kind === 'finger') plan.add.push(value === 'T' ? '<thumb-position/>' : `<fingering>${value}</fingering>`);
  else if (kind === 'string') plan.add.push(`<string>${value}</string>`);
  else if (kind === 'bow') plan.add.push(value === 'down' ? '<down-bow/>' : '<up-bow/>');
  else plan.add.push(`<other-technical>${WORDS[kind]}</other-technical>`);
}

function technicalsOf(element: XmlElement): XmlElement[] {
  return element.children.filter((c) => c.name === 'notations').flatMap((c) => c.children.filter((s) => s.name === 'technical'));
}

/** A row of events of a line under one slur; both ends are event indices. */
type Run = readonly [number, number];

function runsOf(links: readonly boolean[]): Run[] {
  const runs: Run[] = [];
  for (let i = 0; i < links.length; i++) {
    let end = i;
    while (links[end + 1]) end++;
    if (end > i) runs.push([i, end]);
    i = end;
  }
  return runs;
}

/** Slurs that the coach changed: the printed ones inside are taken out, the wanted ones are put in. */
function planSlurs(part: Part, marking: Marking, elements: readonly XmlElement[], planFor: (note: Note) => NotePlan): void {
  if (!Object.keys(marking).some((key) => key.endsWith('|slur'))) return;
  const byId = new Map(part.notes.map((note) => [note.id, note]));
  const done = new Set<string>();
  const key = ([from, to]: Run) => `${from}-${to}`;
  for (const line of linesOf(part)) {
    const printed = runsOf(slurLinks(part, line));
    const wanted = runsOf(slurLinks(part, line, marking));
    const printedKeys = new Set(printed.map(key));
    const wantedKeys = new Set(wanted.map(key));
    const head = (event: number, side: 'first' | 'last'): Note => {
      const notes = line.events[event]!.ids.map((id) => byId.get(id)!);
      const onset = notes.reduce((best, note) => (side === 'first' ? Math.min(best, note.onset) : Math.max(best, note.onset)), notes[0]!.onset);
      return notes.filter((note) => note.onset === onset).reduce((a, b) => (b.source < a.source ? b : a));
    };
    for (const run of printed) {
      if (wantedKeys.has(key(run))) continue;
      const ids = new Set(line.events.slice(run[0], run[1] + 1).flatMap((event) => event.ids));
      for (const slur of part.slurs) {
        if (!ids.has(slur.from) || !ids.has(slur.to)) continue;
        removeSlurEnd(planFor, byId.get(slur.from)!, elements, 'start');
        removeSlurEnd(planFor, byId.get(slur.to)!, elements, 'stop');
      }
    }
    for (const run of wanted) {
      if (printedKeys.has(key(run))) continue;
      const from = head(run[0], 'first');
      const to = head(run[1], 'last');
      if (done.has(`${from.id} ${to.id}`)) continue;
      done.add(`${from.id} ${to.id}`);
      const number = freeSlurNumber(part, from, to, elements, planFor);
      planFor(from).addSlurs.push(`<slur number="${number}" type="start"/>`);
      planFor(to).addSlurs.push(`<slur number="${number}" type="stop"/>`);
    }
  }
}

function slurElements(element: XmlElement, type: 'start' | 'stop'): XmlElement[] {
  return element.children.filter((c) => c.name === 'notations').flatMap((c) => c.children.filter((s) => s.name === 'slur' && s.attributes.type === type));
}

function removeSlurEnd(planFor: (note: Note) => NotePlan, note: Note, elements: readonly XmlElement[], type: 'start' | 'stop'): void {
  const plan = planFor(note);
  const end = slurElements(elements[note.source]!, type).find((slur) => !plan.remove.has(slur));
  if (end) plan.remove.add(end);
}

/** MusicXML 3.0 allows the numbers 1 to 6 for slurs that overlap. */
const SLUR_NUMBERS = ['1', '2', '3', '4', '5', '6'];

function freeSlurNumber(part: Part, from: Note, to: Note, elements: readonly XmlElement[], planFor: (note: Note) => NotePlan): string {
  const taken = new Set<string>();
  for (const note of part.notes) {
    if (note.onset < from.onset || note.onset > to.onset) continue;
    for (const type of ['start', 'stop'] as const) {
      for (const slur of slurElements(elements[note.source]!, type)) if (!planFor(note).remove.has(slur)) taken.add(slur.attributes.number ?? '1');
    }
    for (const added of planFor(note).addSlurs) taken.add(/number="(\d)"/.exec(added)![1]!);
  }
  for (const slur of part.slurs) {
    if (slur.onset >= from.onset || slur.endOnset <= to.onset) continue;
    const start = part.notes.find((note) => note.id === slur.from);
    if (start) slurElements(elements[start.source]!, 'start').forEach((element) => taken.add(element.attributes.number ?? '1'));
  }
  return SLUR_NUMBERS.find((number) => !taken.has(number)) ?? '6';
}

/** Children that come after `<notations>` in a note (MusicXML note content model). */
const AFTER_NOTATIONS = new Set(['lyric', 'play', 'listen']);

function noteEdits(text: string, element: XmlElement, plan: NotePlan): TextEdit[] {
  const layout = layoutOf(text, element);
  const edits: TextEdit[] = [];
  const notations = element.children.find((c) => c.name === 'notations');
  const technical = notations?.children.find((c) => c.name === 'technical');
  const added = plan.add.length + plan.addSlurs.length;
  if (notations && added === 0 && emptied(notations, plan)) return [{ ...withSpace(text, notations), text: '' }];
  for (const sign of plan.remove) edits.push({ ...withSpace(text, sign), text: '' });
  const slurs = plan.addSlurs.map((slur) => layout.line(2) + slur).join('');
  const signs = plan.add.map((sign) => layout.line(3) + sign).join('');
  if (!notations) {
    if (added === 0) return edits;
    const before = element.children.find((c) => AFTER_NOTATIONS.has(c.name));
    const inner = slurs + (signs && `${layout.line(2)}<technical>${signs}${layout.line(2)}</technical>`);
    const block = `${layout.line(1)}<notations>${inner}${layout.line(1)}</notations>`;
    const at = before ? withSpace(text, before).start : trimmedEnd(text, element);
    edits.push({ start: at, end: at, text: block });
    return edits;
  }
  let block = slurs;
  if (technical && emptied(technical, plan) && plan.add.length === 0) {
    for (const sign of plan.remove)
      if (technical.children.includes(sign))
        edits.splice(
          edits.findIndex((edit) => edit.end === sign.end),
          1,
        );
    edits.push({ ...withSpace(text, technical), text: '' });
  } else if (technical && plan.add.length) {
    edits.push(...insertion(text, technical, signs, layout.line(2)));
  } else if (plan.add.length) {
    block += `${layout.line(2)}<technical>${signs}${layout.line(2)}</technical>`;
  }
  if (block) edits.push(...insertion(text, notations, block, layout.line(1)));
  return edits;
}

/** True when every child goes, so that the element itself may go. */
function emptied(element: XmlElement, plan: NotePlan): boolean {
  return element.children.length > 0 && element.children.every((c) => plan.remove.has(c) || (c.name === 'technical' && emptied(c, plan)));
}

/** Inserts before the end tag; an empty-element tag is opened for it. */
function insertion(text: string, element: XmlElement, block: string, closing: string): TextEdit[] {
  if (element.closeStart === element.openEnd && text[element.openEnd - 2] === '/') {
    return [{ start: element.openEnd - 2, end: element.openEnd, text: `>${block}${closing}</${element.name}>` }];
  }
  const at = trimmedEnd(text, element);
  return [{ start: at, end: at, text: block }];
}

/** Offset of the end of an element's content, without the white space before its end tag. */
function trimmedEnd(text: string, element: XmlElement): number {
  let at = element.closeStart;
  while (at > element.openEnd && /\s/.test(text[at - 1]!)) at--;
  return at;
}

/** An element together with the white space in front of it. */
function withSpace(text: string, element: XmlElement): { start: number; end: number } {
  let start = element.start;
  while (start > 0 && /[ \t\r\n]/.test(text[start - 1]!)) start--;
  return { start, end: element.end };
}

/** Line breaks and indents as the file has them; none where it has none. */
function layoutOf(text: string, element: XmlElement): { line: (depth: number) => string } {
  const before = /(\r?\n)([ \t]*)$/.exec(text.slice(Math.max(0, element.start - 200), element.start));
  const first = element.children[0];
  const inner = first ? /(\r?\n)([ \t]*)$/.exec(text.slice(element.openEnd, first.start)) : null;
  if (!before || !inner) return { line: () => '' };
  const unit = inner[2]!.startsWith(before[2]!) ? inner[2]!.slice(before[2]!.length) : '  ';
  return { line: (depth) => before[1]! + before[2]! + unit.repeat(depth) };
}
