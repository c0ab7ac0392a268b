/**
 * Signs as players read them, for the engraver. What stands in the file for other programs (`<other-technical>`) no engraver draws: a retake
 * becomes a comma before the note, a hook a slur with a dash under it, a covered interval a bracket, the rest small letters at the finger
 * (common practice). None of it reaches the file.
 */
import { linesOf, type Line } from '../../instruments/lines';
import { positionSign } from '../../instruments/positions';
import { changeTo } from '../../marking/change';
import { articulationKind } from '../../marking/kinds';
import { fingerInForce, markAt, markKey, type Mark, type Marking } from '../../marking/mark';
import { paceSign } from '../../score/pace';
import type { Note, Part } from '../../score/score';
import { escapeXml, type XmlElement } from '../raw/xml';
import type { TextEdit } from './edits';
import { signsIn, type NotePlan } from './note-plan';

/** Numbers that tell lines apart which overlap (MusicXML: number-level). */
export const MOST_NUMBERS = 6;

const DASH = articulationKind('tenuto');

/** A hook is read as a slur over both notes and a dash at the second. */
export function withHooksSlurred(part: Part, marking: Marking): Marking {
  const hooked = part.notes.filter(({ id }) => markAt(marking, id, 'hook'));
  if (hooked.length === 0) return marking;
  const result: Record<string, Mark> = { ...marking };
  for (const { id, articulations } of hooked) {
    result[markKey(id, 'slur')] = { value: 'join', origin: 'coach' };
    const isShort = articulations.some((name) => name === 'staccato' || name === 'staccatissimo');
    if (!isShort && changeTo(marking, id, DASH, { value: 'yes', origin: 'coach' })) result[markKey(id, DASH)] = { value: 'yes', origin: 'coach' };
  }
  return result;
}

const letters = (text: string): string => `<fingering>${escapeXml(text)}</fingering>`;

/** Finger, its extension and staying, and the other finger stand together: "x4", "2—", "1 (3)". */
export function planHandSigns(part: Part, marking: Marking, elements: readonly XmlElement[], planFor: (note: Note) => NotePlan): void {
  for (const note of part.notes) {
    const value = (kind: 'other-finger' | 'extension' | 'stay' | 'position' | 'pace' | 'look-up' | 'sign') => markAt(marking, note.id, kind)?.value ?? null;
    const [other, stretched, stays] = [value('other-finger'), value('extension'), value('stay')];
    const texts: string[] = [];
    if (other !== null || stretched !== null || stays !== null) {
      const finger = fingerInForce(note, marking);
      const sign = [`${stretched ? 'x' : ''}${finger ?? ''}${stays ? '—' : ''}`, other === null ? '' : `(${other})`].filter(Boolean).join(' ');
      const plan = planFor(note);
      plan.add.technical = plan.add.technical.filter((text) => !isFinger(text));
      for (const printed of signsIn(elements[note.source]!, 'technical'))
        if (printed.name === 'fingering' && printed.attributes.substitution !== 'yes') plan.remove.add(printed);
      texts.push(sign);
    }
    const position = value('position');
    if (position !== null) texts.push(positionSign(position));
    const pace = value('pace');
    if (pace !== null) texts.push(paceSign(pace));
    if (value('look-up') !== null) texts.push('\u0298\u0298');
    const own = value('sign');
    if (own !== null) texts.push(own);
    if (texts.length) planFor(note).add.technical.push(...texts.map(letters));
  }
}

const isFinger = (text: string): boolean => /^<(fingering|thumb-position)\b/.test(text);

/** A comma after the note before each retake. */
export function planCommas(part: Part, marking: Marking, planFor: (note: Note) => NotePlan): void {
  const lifted = new Set<string>();
  for (const { id } of part.notes) if (markAt(marking, id, 'retake')) lifted.add(id);
  if (lifted.size === 0) return;
  const done = new Set<string>();
  eachPair(part, (from, to) => {
    if (!to.some(({ id }) => lifted.has(id)) || done.has(from[0]!.id)) return;
    done.add(from[0]!.id);
    const plan = planFor(from[0]!);
    if (!plan.add.articulations.some((sign) => sign.startsWith('<breath-mark'))) plan.add.articulations.push('<breath-mark>comma</breath-mark>');
  });
}

/** A bracket over the note from which a finger covers two strings and the next one. */
export function coveredEdits(part: Part, marking: Marking, elements: readonly XmlElement[]): TextEdit[] {
  const edits: TextEdit[] = [];
  const done = new Set<string>();
  const direction = (type: 'start' | 'stop', number: number) =>
    `<direction placement="above"><direction-type><bracket type="${type}" number="${number}" line-end="down" line-type="solid"/></direction-type></direction>`;
  eachPair(part, (from, to) => {
    const note = from.find(({ id }) => markAt(marking, id, 'covered'));
    if (!note || done.has(note.id)) return;
    const number = (done.size % MOST_NUMBERS) + 1;
    done.add(note.id);
    const start = elements[Math.min(...from.map(({ source }) => source))]!.start;
    const end = elements[Math.max(...to.map(({ source }) => source))]!.end;
    edits.push({ start, end: start, text: direction('start', number) }, { start: end, end, text: direction('stop', number) });
  });
  return edits;
}

/** Every two events of a line that follow one another, as their notes. */
export function eachPair(part: Part, see: (from: readonly Note[], to: readonly Note[], line: Line) => void): void {
  const byId = new Map(part.notes.map((note) => [note.id, note]));
  const notesOf = (ids: readonly string[]) => ids.map((id) => byId.get(id)!);
  for (const line of linesOf(part)) line.events.slice(1).forEach((event, i) => see(notesOf(line.events[i]!.ids), notesOf(event.ids), line));
}
