/** What is to be put into a `<note>` and taken out of it, and the edits of the text that do so. */
import type { XmlElement } from '../raw/xml';
import type { TextEdit } from './edits';
import { insertion, layoutOf, trimmedEnd, withSpace } from './layout';

/** Groups inside `<notations>` that marks go into. */
export type Group = 'technical' | 'articulations';
const GROUPS: readonly Group[] = ['technical', 'articulations'];

export interface NotePlan {
  /** Elements for the groups, as text. */
  add: Record<Group, string[]>;
  addSlurs: string[];
  remove: Set<XmlElement>;
}

export const emptyPlan = (): NotePlan => ({ add: { technical: [], articulations: [] }, addSlurs: [], remove: new Set() });

/** The signs of one group, whichever `<notations>` of the note they stand in. */
export function signsIn(element: XmlElement, group: Group): XmlElement[] {
  return element.children.filter((c) => c.name === 'notations').flatMap((c) => c.children.filter((s) => s.name === group).flatMap((s) => s.children));
}

/** Children that come after `<notations>` in a note (MusicXML note content model). */
const AFTER_NOTATIONS = new Set(['lyric', 'play', 'listen']);

/** Edits of one note; nothing outside it is touched. */
export function noteEdits(text: string, element: XmlElement, plan: NotePlan): TextEdit[] {
  const { line } = layoutOf(text, element);
  const all = element.children.filter((c) => c.name === 'notations');
  const notations = all.at(-1);
  const added = plan.addSlurs.length + GROUPS.reduce((sum, group) => sum + plan.add[group].length, 0);
  const signs = (group: Group) => plan.add[group].map((sign) => line(3) + sign).join('');
  const block = (group: Group) => (plan.add[group].length ? `${line(2)}<${group}>${signs(group)}${line(2)}</${group}>` : '');
  const slurs = plan.addSlurs.map((slur) => line(2) + slur).join('');
  const edits: TextEdit[] = [];
  for (const each of all) {
    if (emptied(each, plan) && (added === 0 || each !== notations)) edits.push({ ...withSpace(text, each), text: '' });
    else edits.push(...removals(text, each, plan));
  }
  if (added === 0) return edits;
  if (!notations) {
    const before = element.children.find((c) => AFTER_NOTATIONS.has(c.name));
    const at = before ? withSpace(text, before).start : trimmedEnd(text, element);
    const inner = slurs + GROUPS.map(block).join('');
    edits.push({ start: at, end: at, text: `${line(1)}<notations>${inner}${line(1)}</notations>` });
    return edits;
  }
  let more = slurs;
  for (const group of GROUPS) {
    if (plan.add[group].length === 0) continue;
    const there = notations.children.find((c) => c.name === group);
    if (there) edits.push(...insertion(text, there, signs(group), line(2)));
    else more += block(group);
  }
  if (more) edits.push(...insertion(text, notations, more, line(1)));
  return edits;
}

/** What goes out of one `<notations>`: single signs, or a group that would be left empty. */
function removals(text: string, notations: XmlElement, plan: NotePlan): TextEdit[] {
  const gone = (sign: XmlElement): TextEdit => ({ ...withSpace(text, sign), text: '' });
  return notations.children.flatMap((child) => {
    if (plan.remove.has(child)) return [gone(child)];
    const group = GROUPS.find((name) => name === child.name);
    if (group && emptied(child, plan) && (plan.add[group].length === 0 || notations.children.find((c) => c.name === group) !== child)) return [gone(child)];
    return child.children.filter((sign) => plan.remove.has(sign)).map(gone);
  });
}

/** True when every child goes, so that the element itself may go. */
function emptied(element: XmlElement, plan: NotePlan): boolean {
  const isGroup = (name: string) => (GROUPS as readonly string[]).includes(name);
  return element.children.length > 0 && element.children.every((c) => plan.remove.has(c) || (isGroup(c.name) && emptied(c, plan)));
}
