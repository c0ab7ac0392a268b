/** Which strokes are worth trying: whole slurs and their pieces, and neighbours joined where a bar has an odd number. */
import type { Part } from '../score/score';
import { markAt, type Marking } from '../marking/mark';
import type { Atom } from './atoms';
import type { Bow } from './bow';
import { dynamicAt, preferredLengthCm, strokeSpan, type StrokeSpan } from './stroke';
import { PHRASE_FROM_BOWS, STROKES, type BowCosts } from './tables';

/** Candidate cuts inside one slur at most, so that long slurs stay cheap to plan. */
const MOST_CUTS = 7;

/** A slur that needs several bows is taken for a phrase, until the coach says that it is a bow. */
export function withPhrases(atoms: readonly Atom[], part: Pick<Part, 'slurs'>, marking: Marking, bow: Bow): Atom[] {
  const result = [...atoms];
  for (const { start, end } of slurred(atoms)) {
    if (end === start) continue;
    const slurShare = Math.round(100 * bowsLiked(atoms, start, end, bow)) / 100;
    for (let i = start; i <= end; i++) result[i] = { ...atoms[i]!, slurShare };
    const needed = bowsNeeded(atoms, start, end, bow);
    // One note, however long it is tied, is no phrase.
    if (needed < PHRASE_FROM_BOWS || atoms[start]!.event === atoms[end]!.event) continue;
    const ids = new Set(atoms.slice(start, end + 1).flatMap((atom) => atom.ids));
    const said = part.slurs.some((slur) => ids.has(slur.from) && markAt(marking, slur.from, 'slur-is')?.value === 'bow');
    if (said) continue;
    for (let i = start; i <= end; i++) result[i] = { ...result[i]!, phrase: true };
  }
  return result;
}

/** Share of the bow that a slur would take at the speed that its dynamic prefers. */
function bowsLiked(atoms: readonly Atom[], start: number, end: number, { hairCm, speed }: Bow): number {
  const seconds = atoms[end]!.onsetS + atoms[end]!.seconds - atoms[start]!.onsetS;
  const { preferred } = dynamicAt((atoms[start]!.steps + atoms[end]!.steps) / 2);
  return preferredLengthCm(preferred, STROKES.legato.speed * speed, seconds, hairCm) / hairCm;
}

/** How many bows a run of notes needs at the slowest speed that speaks. */
export function bowsNeeded(atoms: readonly Atom[], start: number, end: number, { hairCm, speed }: Bow): number {
  let cm = 0;
  for (let i = start; i <= end; i++) cm += dynamicAt(atoms[i]!.steps).slowest * speed * atoms[i]!.seconds;
  return cm / hairCm;
}

/** Runs of atoms under one slur, single notes included. */
export function slurred(atoms: readonly Atom[]): Array<{ start: number; end: number }> {
  const runs: Array<{ start: number; end: number }> = [];
  atoms.forEach((atom, i) => {
    const last = runs.at(-1);
    if (last && atom.linked) last.end = i;
    else runs.push({ start: i, end: i });
  });
  return runs;
}

/** Every stroke that may be tried, by the atom after its last. */
export function candidateSpans(atoms: readonly Atom[], bow: Bow, costs: BowCosts, asPrinted: boolean): StrokeSpan[][] {
  const ending: StrokeSpan[][] = Array.from({ length: atoms.length + 1 }, () => []);
  const add = (from: number, to: number) => ending[to + 1]!.push(strokeSpan(atoms, from, to, bow, costs));
  const runs = slurred(atoms);
  for (const { start, end } of runs) {
    const { borders, forced } = bordersOf(atoms, start, end, asPrinted);
    for (let i = 0; i < borders.length; i++) {
      for (let k = i + 1; k < borders.length; k++) {
        if (borders.slice(i + 1, k).some((border) => forced.has(border))) break;
        add(borders[i]!, borders[k]! - 1);
      }
    }
  }
  if (!asPrinted) for (const { from, to } of joins(atoms, runs)) add(from, to);
  return ending;
}

function bordersOf(atoms: readonly Atom[], start: number, end: number, asPrinted: boolean): { borders: number[]; forced: Set<number> } {
  const forced = new Set<number>();
  const optional: Array<{ at: number; cost: number }> = [];
  for (let at = start + 1; at <= end; at++) {
    const atom = atoms[at]!;
    if (atom.lock || atom.mustRetake || atom.mustHook) forced.add(at);
    else if (!asPrinted && !atom.held && atoms[at - 1]!.onset !== atom.onset)
      optional.push({ at, cost: atom.onBar ? 0 : atom.onHalfBar ? 1 : atom.onBeat ? 2 : 3 });
  }
  const most = atoms[start]!.phrase ? MOST_CUTS * 2 : MOST_CUTS;
  const cuts = optional
    .sort((a, b) => a.cost - b.cost || a.at - b.at)
    .slice(0, most)
    .map((cut) => cut.at);
  return { borders: [start, ...[...forced, ...cuts].sort((a, b) => a - b), end + 1], forced };
}

/** Neighbours inside a bar that one bow may take together: only where the bar has an odd number of strokes, and never over the bar line. */
function joins(atoms: readonly Atom[], runs: ReadonlyArray<{ start: number; end: number }>): Array<{ from: number; to: number }> {
  const found: Array<{ from: number; to: number }> = [];
  for (let first = 0; first < runs.length;) {
    const { barIndex } = atoms[runs[first]!.start]!;
    let last = first;
    while (runs[last + 1] && atoms[runs[last + 1]!.start]!.barIndex === barIndex) last++;
    const crossesBar = atoms[runs[last]!.end]!.barIndex !== barIndex;
    if ((last - first) % 2 === 0 && last > first) {
      for (let r = first; r < last - (crossesBar ? 1 : 0); r++) {
        const [a, b] = [runs[r]!, runs[r + 1]!];
        if (mayJoin(atoms, a, b)) found.push({ from: a.start, to: b.end });
      }
    }
    first = last + 1;
  }
  return found;
}

/** Nothing marked, stopped, plucked, repeated or silent stands between them, and it stays a short bow. */
function mayJoin(atoms: readonly Atom[], a: { start: number; end: number }, b: { start: number; end: number }): boolean {
  const after = atoms[b.start]!;
  const before = atoms[a.end]!;
  if (after.held || after.lock || after.mustHook || after.mustRetake || after.accent || after.silenceS > 0.02) return false;
  if (b.end - a.start > 3 || after.notes > 2 || before.notes > 2) return false;
  if (before.pitches[0] === after.pitches[0] && before.pitches[1] === after.pitches[1]) return false;
  for (let i = a.start; i <= b.end; i++) {
    const atom = atoms[i]!;
    if (atom.dots || atom.strokes !== 1 || (atom.kind !== 'détaché' && atom.kind !== 'accent')) return false;
  }
  return true;
}
