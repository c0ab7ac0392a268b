/** Bars and their beats: the printed unit, and the beat that is felt. The one place that decides either. */
import type { Bar } from './score';
import { TICKS_PER_QUARTER } from './ticks';

type Metre = Pick<Bar, 'beats' | 'beatType'>;

/** Ticks of one printed beat (the denominator of the time signature). */
export const beatTicks = ({ beatType }: Pick<Metre, 'beatType'>): number => (TICKS_PER_QUARTER * 4) / beatType;

/** Ticks of a whole bar as the time signature has it. */
export const wholeBarTicks = (bar: Metre): number => bar.beats * beatTicks(bar);

/**
 * Compound time: six, nine or twelve eighths or shorter are felt in groups of three; three of them are a simple time of three
 * beats (textbook definition of simple and compound time).
 */
export const isCompound = ({ beats, beatType }: Metre): boolean => beatType >= 8 && beats > 3 && beats % 3 === 0;

/** Ticks of the beat that is felt: three printed units in compound time, else one. @example a dotted quarter in 6/8, an eighth in 3/8 */
export const feltBeat = (bar: Metre): number => (isCompound(bar) ? 3 : 1) * beatTicks(bar);

/**
 * Beat in the printed unit, counted from 1; in an upbeat, or where a bar goes on after a repeat, as it is counted in the whole
 * bar, so that a quarter before the first bar of 4/4 is beat 4 (common practice).
 * @param tick from the start of the measure
 */
export const beatOf = (bar: Pick<Bar, 'beatType' | 'into'>, tick: number): number => Math.round(((tick + bar.into) / beatTicks(bar) + 1) * 1e6) / 1e6;
