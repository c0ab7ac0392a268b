/**
 * A variant of a marking for one player: it holds only what differs. A mark in it stands in place of the one for everybody; a
 * mark in it that is set aside takes the one for everybody out of force. What is not in it is as for everybody, also later.
 */
import { applyChanges, sameMark, type Change } from './change';
import { markKey, splitKey, type Mark, type Marking } from './mark';

/** The marking as one player has it. */
export function withVariant(base: Marking, variant: Marking): Marking {
  const keys = Object.keys(variant);
  if (keys.length === 0) return base;
  const result: Record<string, Mark> = { ...base };
  for (const key of keys) {
    const mark = variant[key]!;
    if (mark.off) delete result[key];
    else result[key] = mark;
  }
  return result;
}

/** What a variant has to say so that the player's marking changes so: `changes` are about the marking as the player has it. */
export function variantChanges(base: Marking, variant: Marking, changes: readonly Change[]): Change[] {
  return changes.flatMap((change): Change[] => {
    const key = markKey(change.target, change.kind);
    const [everybody, own] = [base[key] ?? null, variant[key] ?? null];
    const wanted = variantMark(everybody, change.to);
    return sameMark(own, wanted) ? [] : [{ ...change, from: own, to: wanted }];
  });
}

/** The mark that a variant needs for a mark to be in force; null where everybody's is the same. */
function variantMark(everybody: Mark | null, wanted: Mark | null): Mark | null {
  if (sameMark(everybody, wanted)) return null;
  if (wanted) return wanted;
  return everybody && { value: everybody.value, origin: 'coach', off: true };
}

/** Changes that give everybody what a variant has; the variant can be emptied after them. */
export function variantForAll(base: Marking, variant: Marking): Change[] {
  return Object.keys(variant).flatMap((key): Change[] => {
    const change = { ...splitKey(key), from: base[key] ?? null };
    const mark = variant[key]!;
    const to = mark.off ? null : mark;
    return sameMark(change.from, to) ? [] : [{ ...change, to }];
  });
}

/** The marking as one player has it, after changes to it. */
export const changedVariant = (base: Marking, variant: Marking, changes: readonly Change[]): Marking =>
  applyChanges(variant, variantChanges(base, variant, changes)).marking;
