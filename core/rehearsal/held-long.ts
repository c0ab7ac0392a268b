/** Notes of a section that are longer than any bow: where each desk changes, so that nobody hears it. */
import { sayBars, sayNote } from '../score/address';
import { barIndexAt } from '../score/score';
import { linesOf } from '../instruments/lines';
import { changesInTurn } from '../bow-arm/in-turn';
import type { CheckedPart } from './page';

export interface HeldLong {
  barIndex: number;
  bars: string;
  who: string;
  /** For desks 1 to 4 (5 as 1, and so on) bar and beat of every change. */
  desks: Array<{ desk: number; at: string[] }>;
}

/** Of parts that several play; what one bow holds is planned in one. */
export function heldLong(parts: readonly CheckedPart[]): HeldLong[] {
  return parts.flatMap(({ name, part, report }) => {
    if (!part.section || !report.bowing) return [];
    const starts = new Set(report.bowing.strokes.map(({ noteIds }) => noteIds[0]!));
    return linesOf(part)[0]!.events.flatMap((event): HeldLong[] => {
      const bows = event.ids.filter((id) => starts.has(id)).length;
      const desks = bows > 1 ? changesInTurn(part.bars, event.onset, event.end, bows) : null;
      if (!desks) return [];
      const [fromBar, toBar] = [barIndexAt(part.bars, event.onset), barIndexAt(part.bars, event.end - 1)];
      const at = (tick: number) => {
        const barIndex = barIndexAt(part.bars, tick);
        return sayNote(part, { barIndex, tick: tick - part.bars[barIndex]!.onset, grace: null });
      };
      return [
        { barIndex: fromBar, bars: sayBars(part.bars, { fromBar, toBar }), who: name, desks: desks.map((each) => ({ desk: each.desk, at: each.at.map(at) })) },
      ];
    });
  });
}
