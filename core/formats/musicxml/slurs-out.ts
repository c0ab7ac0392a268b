/** Slurs that the coach changed: the printed ones inside are taken out, the wanted ones are put in. */
import { linesOf } from '../../instruments/lines';
import type { Note, Part } from '../../score/score';
import { slurLinks } from '../../marking/links';
import type { Marking } from '../../marking/mark';
import type { XmlElement } from '../raw/xml';
import type { NotePlan } from './note-plan';

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

/** Plans the ends of slurs into the notes that they begin and end at. */
export function planSlurs(part: Part, marking: Marking, elements: readonly XmlElement[], planFor: (note: Note) => NotePlan): void {
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
