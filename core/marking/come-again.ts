/** Where the music of a passage comes again, and its marks copied there in one step; what had to stay different is named. */
import type { BarRange } from '../score/bars';
import type { Part } from '../score/score';
import type { Line } from '../instruments/lines';
import { changeTo, type Change } from './change';
import { comparableBars, KINDS_ALIKE, type BarOfLine } from './consistency';
import { markAt, type Marking } from './mark';

export interface Again {
  /** Bars of the other place, both included. */
  bars: BarRange;
  changes: Change[];
  /** Bars there (indices) that go with other notes but as far up and down: bows were copied, fingers were not. */
  otherNotes: number[];
  /** Bars there that are other music: left as they are. */
  otherMusic: number[];
}

/** Of the bars with notes so many have to be the same music, so that the place is the passage again (judgement). */
const SHARE = 0.6;
/** A bar of fewer notes is no tune: alone it does not say that the music comes again. */
const FEWEST_NOTES = 3;

type Likeness = 'same notes' | 'other notes' | null;

/** @param range the passage, bars as indices, both included @returns other places in bar order, none reaching into another or into the passage */
export function placesAgain(part: Part, line: Line, marking: Marking, { fromBar, toBar }: BarRange): Again[] {
  const bars = comparableBars(part, line);
  const byIndex = new Map(bars.map((bar) => [bar.barIndex, bar]));
  const own = bars.filter(({ barIndex }) => barIndex >= fromBar && barIndex <= toBar);
  if (own.length === 0) return [];
  const length = toBar - fromBar + 1;
  const found: Array<Again & { like: number }> = [];
  for (let start = 0; start + length <= part.bars.length; start++) {
    if (start <= toBar && start + length - 1 >= fromBar) continue;
    const pairs = own.map((bar) => ({ bar, there: byIndex.get(bar.barIndex - fromBar + start) }));
    const likeness = pairs.map(({ bar, there }) => likenessOf(bar, there));
    const tunes = pairs.filter(({ bar }, i) => likeness[i] !== null && bar.events.length >= FEWEST_NOTES).length;
    const alike = likeness.filter((like) => like !== null).length;
    if (tunes === 0 || alike < own.length * SHARE) continue;
    found.push({ ...copied(pairs, likeness, marking), bars: { fromBar: start, toBar: start + length - 1 }, like: sameness(likeness) });
  }
  return withoutOverlap(found);
}

/** The same notes weigh more than the same tune on others. */
const sameness = (likeness: readonly Likeness[]): number =>
  likeness.reduce((sum, like) => sum + (like === 'same notes' ? 1 : like === 'other notes' ? 0.5 : 0), 0);

function likenessOf(bar: BarOfLine, there: BarOfLine | undefined): Likeness {
  if (!there) return null;
  if (bar.keys['same notes'] === there.keys['same notes']) return 'same notes';
  return bar.keys['other notes'] === there.keys['other notes'] ? 'other notes' : null;
}

function copied(pairs: ReadonlyArray<{ bar: BarOfLine; there: BarOfLine | undefined }>, likeness: readonly Likeness[], marking: Marking): Omit<Again, 'bars'> {
  const result: Omit<Again, 'bars'> = { changes: [], otherNotes: [], otherMusic: [] };
  pairs.forEach(({ bar, there }, i) => {
    const like = likeness[i]!;
    if (like === null || !there) {
      if (there) result.otherMusic.push(there.barIndex);
      return;
    }
    if (like === 'other notes') result.otherNotes.push(there.barIndex);
    bar.events.forEach((event, k) => {
      event.ids.forEach((source, n) => {
        const target = there.events[k]!.ids[n];
        if (target === undefined) return;
        for (const kind of KINDS_ALIKE[like]) {
          const mark = markAt(marking, source, kind);
          const change = changeTo(marking, target, kind, mark && !mark.off ? { value: mark.value, origin: 'coach' } : null);
          if (change) result.changes.push(change);
        }
      });
    });
  });
  return result;
}

/** Of places that reach into one another the one that is most like it, then the first. */
function withoutOverlap(found: ReadonlyArray<Again & { like: number }>): Again[] {
  const kept: Again[] = [];
  for (const { like: _like, ...place } of [...found].sort((a, b) => b.like - a.like || a.bars.fromBar - b.bars.fromBar)) {
    const free = kept.every(({ bars }) => bars.toBar < place.bars.fromBar || bars.fromBar > place.bars.toBar);
    if (free) kept.push(place);
  }
  return kept.sort((a, b) => a.bars.fromBar - b.bars.fromBar);
}
