/** Line events in seconds, as both hands need them. */
import { GRACE_S } from '../score/time';
import type { Clock } from '../score/time';
import type { Line } from '../instruments/lines';
import type { Part } from '../score/score';
import type { Moment } from './transition';
import { isTrilled, upperStep } from './trill';

export function momentsOf({ bars }: Pick<Part, 'bars'>, line: Line, clock: Clock, links: readonly boolean[]): Moment[] {
  const moments: Moment[] = [];
  line.events.forEach((event, i) => {
    let onsetS = clock.secondsAt(event.onset);
    let endS = clock.secondsAt(event.end);
    if (event.grace) {
      let rank = 1;
      while (line.events[i + rank]?.grace && line.events[i + rank]!.onset === event.onset) rank++;
      onsetS -= GRACE_S * rank;
      endS = onsetS + GRACE_S;
    }
    const last = moments[i - 1];
    if (last && last.endS > onsetS) last.endS = Math.max(last.onsetS + 0.01, onsetS);
    const restBeforeS = last ? Math.max(0, onsetS - last.endS) : 0;
    const trilled = event.notes.find(isTrilled);
    moments.push({
      onsetS,
      endS,
      slurredFromLast: links[i] ?? false,
      restBeforeS: restBeforeS < 1e-6 ? 0 : restBeforeS,
      grace: event.grace,
      trillStep: trilled ? upperStep(trilled, bars[trilled.barIndex]!) : 0,
      leftPlucked: event.notes.some((note) => note.leftPlucked),
    });
  });
  return moments;
}
