/** Divisions of a quarter note that are fine enough for what is to be written. */
import { ticksOfEvent, type BarEvent } from '../../score/bar-text';
import { TICKS_PER_QUARTER } from '../../score/ticks';

/** Finer than this part of what the file counts in is no rhythm. */
const FINEST = 960;

/**
 * By how much the divisions have to be finer for all lengths to be whole; null where they cannot be.
 * @param whole ticks of a rest of the whole bar
 */
export function finerBy(events: readonly BarEvent[], divisions: number, whole: number): number | null {
  const lengths = events.map((event) => (ticksOfEvent(event, whole) * divisions) / TICKS_PER_QUARTER);
  const isWhole = (value: number) => Math.abs(value - Math.round(value)) < 1e-6;
  for (let finer = 1; finer <= FINEST; finer++) if (lengths.every((length) => isWhole(length * finer))) return finer;
  return null;
}
