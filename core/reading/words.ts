/** Pitches in the words of the reading aids. */
import type { Pitch } from '../score/pitch';

const ALTERS: Readonly<Record<number, string>> = { [-2]: ' double flat', [-1]: ' flat', 0: ' natural', 1: ' sharp', 2: ' double sharp' };
const SIGNS: Readonly<Record<number, string>> = { [-2]: 'double flat', [-1]: 'flat', 0: 'natural', 1: 'sharp', 2: 'double sharp' };

export const signName = (alter: number): string => SIGNS[alter] ?? 'sign';

/** "F sharp", and plain "F" where nothing is altered. */
export const noteName = ({ step, alter }: Pick<Pitch, 'step' | 'alter'>): string => step + (alter === 0 ? '' : (ALTERS[alter] ?? ''));

/** "F sharp", and "F natural" where that has to be said. */
export const fullName = ({ step, alter }: Pick<Pitch, 'step' | 'alter'>): string => step + (ALTERS[alter] ?? '');
