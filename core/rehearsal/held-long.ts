/** Notes of a section that are longer than any bow: where each desk changes, so that nobody hears it. */
import { sayBars } from '../score/address';
import { barIndexAt } from '../score/score';
import { linesOf } from '../instruments/lines';
import { changesInTurn, inTurnInWords } from '../bow-arm/in-turn';
import type { CheckedPart } from './page';

export interface HeldLong {
  barIndex: number;
  bars: string;
  who: string;
  /** "desk 1 at 3/2.5; desk 2 …"; the fifth does as the first, and so on. */
  desks: string;
  noteIds: readonly string[];
}

/** Of parts that several play: what the plan splits, and what it holds in one bow that does not last. */
export function heldLong(parts: readonly CheckedPart[]): HeldLong[] {
  return parts.flatMap(({ name, part, report }) => {
    if (!part.section || !report.bowing) return [];
    const starts = new Set(report.bowing.strokes.map(({ noteIds }) => noteIds[0]!));
    const needed = new Map(
      report.findings.flatMap((finding) =>
        finding.kind === 'bow runs out' ? [[finding.noteIds[0]!, Math.ceil(finding.numbers.neededCm / finding.numbers.hairCm)] as const] : [],
      ),
    );
    return linesOf(part)[0]!.events.flatMap((event): HeldLong[] => {
      const bows = Math.max(event.ids.filter((id) => starts.has(id)).length, needed.get(event.ids[0]!) ?? 0);
      const desks = bows > 1 ? changesInTurn(part.bars, event.onset, event.end, bows) : null;
      if (!desks) return [];
      const [fromBar, toBar] = [barIndexAt(part.bars, event.onset), barIndexAt(part.bars, event.end - 1)];
      return [{ barIndex: fromBar, bars: sayBars(part.bars, { fromBar, toBar }), who: name, desks: inTurnInWords(desks, part), noteIds: event.ids }];
    });
  });
}
