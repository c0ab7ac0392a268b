/** What is found in a plan of one line: both hands, ornaments, and what cannot be played at all. */
import type { Plan } from '../plan/plan';
import { bowFindings } from './bow';
import { unplayableFinding, type LineContext, type NoteRisk } from './context';
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
