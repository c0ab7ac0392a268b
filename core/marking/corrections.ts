/** Marks that correct notes and clefs. The score is read anew with them (`formats/musicxml/corrected.ts`). */
import { isCorrection } from './kinds';
import { splitKey, type Marking } from './mark';

const inForce = (marking: Marking): Array<[key: string, value: string]> =>
  Object.entries(marking).flatMap(([key, { value, off }]): Array<[string, string]> => (!off && isCorrection(splitKey(key).kind) ? [[key, value]] : []));

/** Whether a marking corrects notes or clefs. */
export const corrects = (marking: Marking): boolean => inForce(marking).length > 0;

/** What a marking corrects, as text: equal for markings that correct alike, empty where nothing is. */
export function correctionsOf(marking: Marking): string {
  const said = inForce(marking);
  return said.length ? JSON.stringify(said.sort()) : '';
}
