/** How the minutes of a day of practice are divided. */
import { DAY } from './tables';

/** What a day's minutes are for. */
export interface DayShape {
  warmUp: number;
  /** Rests between half hours. */
  rests: number;
  playThrough: number;
  blocks: number;
}

/** How a day's minutes are divided: the scale first, a rest between half hours, at the end something that is only played through. */
export function dayShape(minutes: number): DayShape {
  const total = Math.max(0, Math.floor(minutes));
  if (total < DAY.blockLeast) return { warmUp: 0, rests: 0, playThrough: 0, blocks: 0 };
  const isShort = total < DAY.short;
  const warmUp = isShort ? Math.min(DAY.shortWarmUp, total - DAY.blockLeast) : Math.max(DAY.warmUpLeast, Math.round(total * DAY.warmUpShare));
  const playThrough = isShort ? 0 : Math.round(total * DAY.playThroughShare);
  const rests = DAY.rest * (Math.ceil(total / (DAY.halfHour + DAY.rest)) - 1);
  const left = total - warmUp - playThrough - rests;
  return { warmUp, rests, playThrough, blocks: left < DAY.blockLeast ? 0 : Math.max(1, Math.floor(left / DAY.block)) };
}
