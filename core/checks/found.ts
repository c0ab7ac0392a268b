/** What is found in a plan of one line: both hands, ornaments, and what cannot be played at all. */
import type { Plan, PlannedLine } from '../plan/plan';
import type { Note } from '../score/score';
import type { Steps } from '../util/steps';
import { bowFindings } from './bow';
import { placeOf, unplayableFinding, type LineContext, type NoteRisk } from './context';
import type { Finding, TempoLimit } from './finding';
import { handFindings } from './hand';
import { ornamentFindings } from './ornaments';

export interface Found {
  findings: Finding[];
  limits: TempoLimit[];
  risks: NoteRisk[];
}

type Planned = Pick<Plan, 'fingering' | 'stringOf' | 'bowing'> & { hand?: Pick<Plan['hand'], 'unplayable'> };

/** @param around only findings of the bow near this bar are wanted */
export function foundIn({ hand, fingering, stringOf, bowing }: Planned, context: LineContext, around?: { barIndex: number; bars: number }): Found {
  const unplayable = (hand?.unplayable ?? []).filter(({ event }) => context.isNew(event.ids[0]!)).map((trouble) => unplayableFinding(trouble, context));
  const ofHand = fingering ? handFindings(fingering, context) : { findings: [], limits: [], risks: [] };
  const ornaments = ornamentFindings(fingering, context);
  const ofBow = bowing ? bowFindings(bowing, { ...context, stringOf }, around) : { findings: [], limits: [] };
  return {
    findings: [...unplayable, ...ofHand.findings, ...ornaments.findings, ...ofBow.findings],
    limits: [...ofHand.limits, ...ornaments.limits, ...ofBow.limits],
    risks: ofHand.risks,
  };
}

/** What is found in the plans of all lines of a part; of a note that several have, what is found in the first of them. */
export function* foundInLines(lines: readonly PlannedLine[], context: Omit<LineContext, 'line' | 'place' | 'isNew'>): Steps<Found> {
  const all: Found = { findings: [], limits: [], risks: [] };
  const seen = new Set<string>();
  const place = (note: Note) => placeOf(context.part, note);
  for (const { line, plan } of lines) {
    yield;
    const found = foundIn(plan, { ...context, line, place, isNew: (noteId) => !seen.has(noteId) });
    all.findings.push(...found.findings);
    all.limits.push(...found.limits);
    all.risks.push(...found.risks);
    for (const event of line.events) for (const id of event.ids) seen.add(id);
  }
  return all;
}
