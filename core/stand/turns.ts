/** How long the hands are free at each bar line, in the order in which the bars are played. */
import type { LineEvent } from '../instruments/lines';
import { playedOrder } from '../score/played';
import type { Bar, Part } from '../score/score';
import type { Clock } from '../score/time';

export interface Passing {
  /** Bars by index; the one after is not the next one where a repeat or a jump goes elsewhere. */
  from: number;
  to: number;
  /** Seconds of rest around the bar line. */
  restS: number;
  /** Seconds that the first note after it lasts; 0 where none follows. */
  nextS: number;
}

interface BarTimes {
  /** Seconds of silence at its beginning and end; both are the whole bar where nothing sounds. */
  lead: number;
  tail: number;
  silent: boolean;
  /** Seconds that the first note of the bar goes on in it and after it; null where nothing sounds. */
  firstS: number | null;
}

/**
 * Every bar line as it is passed.
 * @param events what is played, in order (`linesOf`); grace notes belong to the note they lead to
 */
export function passings(part: Pick<Part, 'bars'>, events: readonly Pick<LineEvent, 'onset' | 'end'>[], clock: Clock): Passing[] {
  const times = part.bars.map((bar) => barTimes(bar, events, clock));
  const { order } = playedOrder(part.bars);
  return order.slice(0, -1).map((from, k) => {
    let restS = times[from]!.tail;
    for (let i = k - 1; i >= 0 && times[order[i + 1]!]!.silent; i--) restS += times[order[i]!]!.tail;
    let [next, at] = [order[k + 1]!, k + 1];
    restS += times[next]!.lead;
    while (times[next]!.silent && at + 1 < order.length) {
      next = order[++at]!;
      restS += times[next]!.lead;
    }
    return { from, to: order[k + 1]!, restS, nextS: times[next]!.firstS ?? 0 };
  });
}

function barTimes(bar: Bar, events: readonly Pick<LineEvent, 'onset' | 'end'>[], clock: Clock): BarTimes {
  const end = bar.onset + bar.ticks;
  const seconds = (from: number, to: number) => Math.max(0, clock.secondsAt(to) - clock.secondsAt(from));
  const inside = events.filter((event) => event.onset < end && event.end > bar.onset);
  const whole = seconds(bar.onset, end);
  if (inside.length === 0) return { lead: whole, tail: whole, silent: true, firstS: null };
  const first = Math.min(...inside.map(({ onset }) => onset));
  const last = Math.max(...inside.map((event) => event.end));
  return {
    lead: seconds(bar.onset, Math.max(first, bar.onset)),
    tail: seconds(Math.min(last, end), end),
    silent: false,
    firstS: seconds(Math.max(first, bar.onset), inside.find(({ onset }) => onset === first)!.end),
  };
}
