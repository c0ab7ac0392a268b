/** One part checked as its Desk checks it, by itself: for looking over a whole shelf. */
import { findingKey, isSpot } from '../../core/checks/finding';
import type { SpotCounts } from '../../core/checks/fit';
import { Analyst } from '../analyst';
import type { Conditions } from '../questions';

export interface CheckTask {
  music: string;
  conditions: Conditions;
  /** Findings that the coach accepted as they are. */
  accepted: ReadonlyArray<{ id: string; key: string }>;
}

export interface PartVerdict {
  counts: SpotCounts;
  /** The worst spot, the first one in the part among equals. */
  worst: { bar: string; text: string } | null;
}

export function checkPart({ music, conditions, accepted }: CheckTask): PartVerdict {
  const analyst = new Analyst();
  analyst.open(music);
  const isAccepted = new Set(accepted.map(({ id, key }) => `${id} ${key}`));
  const spots = analyst.report(conditions, []).findings.filter((finding) => isSpot(finding) && !isAccepted.has(`${finding.id} ${findingKey(finding)}`));
  const of = (severity: 1 | 2 | 3) => spots.filter((spot) => spot.severity === severity).length;
  const [first] = [...spots].sort((a, b) => b.severity - a.severity || a.barIndex - b.barIndex || a.beat - b.beat);
  return { counts: [of(1), of(2), of(3)], worst: first ? { bar: first.bar, text: first.text } : null };
}
