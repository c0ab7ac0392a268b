/** Tempi as musicians say them: in the beat that is felt. */
import { inBeats, type BeatUnit } from '@/core/score/beat-unit';

/** The sign of a note value where the fonts have one, else its name. */
const SIGNS: Readonly<Partial<Record<BeatUnit['name'], string>>> = { 'dotted quarter': '♩.', quarter: '♩', 'dotted eighth': '♪.', eighth: '♪' };

export const signOf = ({ name }: BeatUnit): string => SIGNS[name] ?? name;

/** Beats per minute, to a tenth where there is one. @param quarters per minute */
export const beatsPerMinute = (quarters: number, unit: BeatUnit): number => Math.round(inBeats(quarters, unit) * 10) / 10;

/** A ceiling is never rounded up. @param quarters per minute */
export const upTo = (quarters: number, unit: BeatUnit): number => Math.floor(inBeats(quarters, unit));
