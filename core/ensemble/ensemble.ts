/** What the other parts of the score know: the chord that sounds with a note, what comes before an entry, and bows that differ between sections. */
import { noteById } from '../score/find';
import { linesOf, type Line } from '../instruments/lines';
import type { Note, Part } from '../score/score';
import { coachChanges, type Change } from '../marking/change';
import { bowInForce, markAt, type Marking } from '../marking/mark';
import { type MarkKind, kindsWhere } from '../marking/kinds';
import { comparableBars, type BarOfLine } from '../marking/consistency';

export interface OtherPart {
  id: string;
  name: string;
  markingId: string;
  part: Part;
  marking: Marking;
}

/** A bar that another part has too, bowed otherwise. */
export interface BowedOtherwise {
  other: OtherPart;
  /** The same rhythm at the same time, or the same tune elsewhere. */
  how: 'together' | 'same tune';
  here: number;
  there: number;
  differences: Array<{ kind: MarkKind; hereNote: string; thereNote: string; here: string | null; there: string | null }>;
  /** To have it here as there; and there as here. */
  copyHere: Change[];
  copyThere: Change[];
}

const BOWED = kindsWhere(({ group, bow }) => group === 'player' && bow);
const FEWEST_NOTES = 3;
const BARS_OF_TUNE = 2;

/**
 * Bars of a line that other parts have in the same rhythm at the same time, or as the same tune (two bars at least) elsewhere,
 * and that are bowed otherwise there. Only bars that say something in both places are compared: an unmarked part is no difference.
 */
export function bowedOtherwise(part: Part, line: Line, marking: Marking, others: readonly OtherPart[]): BowedOtherwise[] {
  const own = comparableBars(part, line).filter((bar) => bar.events.length >= FEWEST_NOTES && saysBows(bar, marking));
  if (own.length === 0) return [];
  return others.flatMap((other) => {
    const theirs = comparableBars(other.part, linesOf(other.part)[0]!);
    const byIndex = new Map(theirs.map((bar) => [bar.barIndex, bar]));
    const byTune = new Map<string, BarOfLine[]>();
    for (const bar of theirs) byTune.set(bar.keys['other notes'], [...(byTune.get(bar.keys['other notes']) ?? []), bar]);
    const found: BowedOtherwise[] = [];
    for (const bar of own) {
      const atOnce = byIndex.get(bar.barIndex);
      const together = atOnce && bar.rhythm === atOnce.rhythm ? atOnce : null;
      const tune = together ? null : tuneElsewhere(bar, byTune, part, line, other);
      const there = together ?? tune;
      if (!there || !saysBows(there, other.marking)) continue;
      const differences = compared(bar, there, part, marking, other);
      if (differences.length)
        found.push({
          other,
          how: together ? 'together' : 'same tune',
          here: bar.barIndex,
          there: there.barIndex,
          differences,
          ...copies(differences, marking, other),
        });
    }
    return found;
  });
}

const says = (note: Note, marking: Marking): boolean =>
  bowInForce(note, marking) !== null || BOWED.some((kind) => kind !== 'bow' && markAt(marking, note.id, kind) && !markAt(marking, note.id, kind)!.off);
const saysBows = ({ events }: BarOfLine, marking: Marking): boolean => events.some(({ notes }) => says(notes[0]!, marking));

function tuneElsewhere(bar: BarOfLine, byTune: ReadonlyMap<string, BarOfLine[]>, part: Part, line: Line, other: OtherPart): BarOfLine | null {
  const own = comparableBars(part, line);
  const theirs = comparableBars(other.part, linesOf(other.part)[0]!);
  const [i, all] = [own.indexOf(bar), byTune.get(bar.keys['other notes']) ?? []];
  return (
    all.find((there) => {
      const k = theirs.indexOf(there);
      return [1, -1].some((step) => {
        for (let n = 1; n < BARS_OF_TUNE; n++) {
          const [a, b] = [own[i + step * n], theirs[k + step * n]];
          if (!a || !b || a.events.length < FEWEST_NOTES || a.keys['other notes'] !== b.keys['other notes']) return false;
        }
        return true;
      });
    }) ?? null
  );
}

function compared(here: BarOfLine, there: BarOfLine, part: Part, marking: Marking, other: OtherPart): BowedOtherwise['differences'] {
  const value = (owner: Part, marks: Marking, id: string, kind: MarkKind) => {
    if (kind === 'bow') return bowInForce(noteById(owner, id)!, marks);
    const mark = markAt(marks, id, kind);
    return mark && !mark.off ? mark.value : null;
  };
  return here.events.flatMap((event, i) => {
    const [hereNote, thereNote] = [event.ids[0]!, there.events[i]!.ids[0]!];
    return BOWED.flatMap((kind) => {
      const [a, b] = [value(part, marking, hereNote, kind), value(other.part, other.marking, thereNote, kind)];
      // A direction that is not written is no other direction.
      const differ = kind === 'bow' ? a !== null && b !== null && a !== b : a !== b;
      return differ ? [{ kind, hereNote, thereNote, here: a, there: b }] : [];
    });
  });
}

function copies(differences: BowedOtherwise['differences'], marking: Marking, other: OtherPart): Pick<BowedOtherwise, 'copyHere' | 'copyThere'> {
  return {
    copyHere: differences.flatMap(({ kind, hereNote, there }) => coachChanges(marking, hereNote, kind, there)),
    copyThere: differences.flatMap(({ kind, thereNote, here }) => coachChanges(other.marking, thereNote, kind, here)),
  };
}
