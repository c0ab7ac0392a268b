/** What a fingering comes to for its player, to choose among several. */
import type { Fingering } from '../left-hand/fingering';
import { FASTEST_TEMPO } from '../score/time';
import type { LineContext, NoteRisk } from './context';
import { isSpot, type Finding, type TempoLimit } from './finding';
import { handFindings } from './hand';

/** What a fingering comes to for its player: the fastest tempo its shifts allow, the note that is most at risk, and what is found in it. */
export interface HandOutlook {
  ceiling: TempoLimit | null;
  worst: NoteRisk | null;
  spots: Finding[];
}

export function handOutlook(fingering: Fingering, context: LineContext): HandOutlook {
  const { limits, risks, findings } = handFindings(fingering, context);
  return {
    spots: findings.filter(isSpot),
    ceiling: limits
      .filter(({ tempo }) => tempo < FASTEST_TEMPO)
      .reduce<TempoLimit | null>((best, limit) => (!best || limit.tempo < best.tempo ? limit : best), null),
    worst: risks.reduce<NoteRisk | null>((worst, risk) => (!worst || risk.chance > worst.chance ? risk : worst), null),
  };
}
