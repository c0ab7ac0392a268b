/** What the other parts of the score know: the chord that sounds with a note, what comes before an entry, and bows that differ between sections. */
import { noteById } from '../score/find';
import { linesOf, type Line } from '../instruments/lines';
import { midiOf, type Pitch } from '../score/pitch';
import type { Note, Part } from '../score/score';
import { coachChanges, type Change } from '../marking/change';
import { bowInForce, markAt, type Marking } from '../marking/mark';
import { type MarkKind, kindsWhere } from '../marking/kinds';
import { comparableBars, type BarOfLine } from '../marking/consistency';
import { TICKS_PER_QUARTER } from '../score/ticks';

export interface OtherPart {
  id: string;
  name: string;
  markingId: string;
  part: Part;
  marking: Marking;
}

/** Everything that sounds at a moment, own part included; lowest first. */
export function soundingAt(parts: readonly Part[], quarter: number): Pitch[] {
  return parts
    .flatMap((part) => {
      const tick = quarter * TICKS_PER_QUARTER;
      return part.notes.filter((note) => !note.cue && !note.grace && note.onset <= tick && note.onset + note.duration > tick).map(({ pitch }) => pitch);
    })
    .sort((a, b) => midiOf(a) - midiOf(b));
}

/** How well an interval over a candidate goes with its being the root, in half steps (judgement; thirds and fifths make a chord). */
const FITS: Readonly<Record<number, number>> = { 0: 1, 7: 3, 4: 2.5, 3: 2, 10: 1, 11: 0.5, 2: 0.2, 9: 0.2, 6: 0.5 };

/**
 * The root of what sounds together, by stacking thirds; null for fewer than two different notes. The bass counts as likelier.
 * @example G B D F: G; E G C: C
 */
export function rootOf(pitches: readonly Pitch[]): Pitch | null {
  const classes = new Map<number, Pitch>();
  for (const pitch of pitches) if (!classes.has(midiOf(pitch) % 12)) classes.set(midiOf(pitch) % 12, pitch);
  if (classes.size < 2) return null;
  let best: { pitch: Pitch; score: number } | null = null;
  for (const [own, pitch] of classes) {
    let score = own === midiOf(pitches[0]!) % 12 ? 0.75 : 0;
    for (const other of classes.keys()) score += FITS[(other - own + 12) % 12] ?? -1;
    if (!best || score > best.score) best = { pitch, score };
  }
  return best!.pitch;
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
