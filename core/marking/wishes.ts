/** Wishes for the bow: looked up from the note, else the bar, else the shortest run of bars around it. */
import type { BarRange } from '../score/bars';
import { markAt, splitKey, type Marking } from './mark';
import { BOW_WISH_KINDS, isBowWishKind, type BowWishKind } from './kinds';
import { barTarget, targetOf } from './target';

export type Wished = Readonly<Partial<Record<BowWishKind, string>>>;

const NOWHERE: Wished = {};

/** What is wished at a note; the same empty value wherever nothing is. */
export function wishesFor(marking: Marking): (noteIds: readonly string[], barIndex: number) => Wished {
  const runs: Array<{ range: BarRange; kind: BowWishKind; value: string }> = [];
  let any = false;
  for (const [key, mark] of Object.entries(marking)) {
    const { target, kind } = splitKey(key);
    if (!isBowWishKind(kind) || mark.off) continue;
    any = true;
    const at = targetOf(target);
    if (at.on === 'bars') runs.push({ range: at, kind, value: mark.value });
  }
  if (!any) return () => NOWHERE;
  runs.sort((a, b) => length(a.range) - length(b.range));
  return (noteIds, barIndex) => {
    const wished: Partial<Record<BowWishKind, string>> = {};
    for (const kind of BOW_WISH_KINDS) {
      const own = noteIds.map((id) => markAt(marking, id, kind)).find((mark) => mark && !mark.off)?.value;
      const ofBar = MOMENTS.has(kind) ? undefined : markAt(marking, barTarget(barIndex), kind)?.value;
      const ofRun = MOMENTS.has(kind)
        ? undefined
        : runs.find((run) => run.kind === kind && barIndex >= run.range.fromBar && barIndex <= run.range.toBar)?.value;
      const value = own ?? ofBar ?? ofRun;
      if (value !== undefined) wished[kind] = value;
    }
    return Object.keys(wished).length ? wished : NOWHERE;
  };
}

/** Kinds that only make sense at a note. */
const MOMENTS: ReadonlySet<BowWishKind> = new Set<BowWishKind>(['bow-from', 'bow-to', 'slur-is']);

const length = ({ fromBar, toBar }: BarRange): number => toBar - fromBar;

/** How a wish stands in the part, in the words that players write; null for what is only for the plan. */
export function wishInWords(kind: BowWishKind, value: string): string | null {
  switch (kind) {
    case 'bow-zone':
      return value === 'frog' || value === 'tip' ? `at the ${value}` : value;
    case 'bow-amount':
      return value === 'whole' ? 'whole bow' : value === 'half' ? 'half bow' : `${value} bow`.replace(' cm bow', ' cm of bow');
    case 'bow-from':
      return `from ${theZone(value)}`;
    case 'bow-to':
      return `to ${theZone(value)}`;
    case 'stroke':
      return value;
    case 'sound-school':
      return value === 'held' ? 'held tone' : 'flowing bow';
    case 'chord-way':
      return value;
    case 'unequal':
      return value === 'even' ? 'even' : `unequal ${value}`;
    case 'slur-is':
      return null;
  }
}

const theZone = (value: string): string => (value.endsWith('%') ? `${value} of the bow` : `the ${value}`);
