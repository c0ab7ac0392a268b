/** The same music, wherever it comes back, up to transposition: how it is bowed there, and where that differs. */
import { feltBeat } from '../score/beat';
import type { Bar } from '../score/score';
import type { Atom } from './atoms';
import type { PlannedSpan } from './search';
import type { Direction } from './stroke';
import { REST_SECONDS } from './tables';

/** Bars that hold the same rhythm, intervals, slurs and signs, and go on in the same way. */
export interface Group {
  bars: BarAtoms[];
}

interface BarAtoms {
  barIndex: number;
  /** Atoms of the bar, both included. */
  from: number;
  to: number;
}

/** What a stroke does at each atom of a bar: a direction where one begins, null where it goes on. */
type Pattern = ReadonlyArray<Direction | null>;

/** Fewer notes make no tune. */
const FEWEST_NOTES = 2;

/**
 * A bar comes back where the bar after it does too: the last bar of what comes back is free to prepare what follows. A bar
 * that is only repeated at once, over and over, is no tune that returns.
 */
export function groupsOf(atoms: readonly Atom[], bars: readonly Bar[]): Group[] {
  const rows: Array<BarAtoms & { key: string }> = [];
  for (let from = 0; from < atoms.length;) {
    const { barIndex } = atoms[from]!;
    let to = from;
    while (atoms[to + 1]?.barIndex === barIndex) to++;
    rows.push({ barIndex, from, to, key: barKey(atoms, from, to, bars[barIndex]!) });
    from = to + 1;
  }
  const groups = new Map<string, Group>();
  rows.forEach((row, i) => {
    const next = rows[i + 1];
    if (!next || next.barIndex !== row.barIndex + 1 || next.key === row.key || row.to - row.from + 1 < FEWEST_NOTES) return;
    const key = `${row.key} then ${next.key}`;
    const group = groups.get(key);
    if (group) group.bars.push(row);
    else groups.set(key, { bars: [row] });
  });
  return [...groups.values()].filter((group) => group.bars.length > 1);
}

/** Bars beside each other that are equal, two at least; and beats, three at least, where the bars are not. */
export function runsOf(atoms: readonly Atom[], bars: readonly Bar[]): Group[] {
  const equalBars = equalBeside(atoms, bars, () => 0).filter(({ bars: run }) => run.length > 1);
  const inBars = new Set(equalBars.flatMap(({ bars: run }) => run.map(({ barIndex }) => barIndex)));
  const beatAt = (atom: Atom) => {
    const bar = bars[atom.barIndex]!;
    return Math.floor((atom.onset - bar.onset + bar.into) / feltBeat(bar));
  };
  const equalBeats = equalBeside(atoms, bars, beatAt).filter(({ bars: run }) => run.length > 2 && !run.some(({ barIndex }) => inBars.has(barIndex)));
  return [...equalBars, ...equalBeats];
}

/** Stretches that follow one another and are equal: bars, or beats of them. */
function equalBeside(atoms: readonly Atom[], bars: readonly Bar[], partOf: (atom: Atom) => number): Group[] {
  const runs: Group[] = [];
  let lastKey = '';
  for (let from = 0; from < atoms.length;) {
    const { barIndex } = atoms[from]!;
    let to = from;
    const at = partOf(atoms[from]!);
    while (atoms[to + 1]?.barIndex === barIndex && partOf(atoms[to + 1]!) === at) to++;
    const bar = bars[barIndex]!;
    const start = at ? bar.onset - bar.into + at * feltBeat(bar) : bar.onset;
    const key = to - from + 1 < FEWEST_NOTES ? '' : `${rhythmKey(atoms, from, to, bar, start)} ${atoms[from]!.silenceS >= REST_SECONDS}`;
    const run = runs.at(-1);
    const last = run?.bars.at(-1);
    if (run && last && key && key === lastKey && barIndex - last.barIndex <= 1) run.bars.push({ barIndex, from, to });
    else runs.push({ bars: [{ barIndex, from, to }] });
    lastKey = key;
    from = to + 1;
  }
  return runs;
}

type Structure = ReadonlyArray<NonNullable<Atom['beside']>>;

/** How strokes begin in a bar, whichever way round; of a line's first bar the first one counts as a change. */
function structureOf(planned: ReadonlyMap<number, PlannedSpan>, { from, to }: BarAtoms): Structure {
  const structure: Array<NonNullable<Atom['beside']>> = [];
  for (let i = from; i <= to; i++) {
    const start = planned.get(i)?.start;
    structure.push(start === undefined ? 'none' : start === 'first' ? 'change' : start);
  }
  return structure;
}

/** Runs of equal bars whose strokes do not begin alike. */
export function unevenRuns(runs: readonly Group[], strokes: readonly PlannedSpan[]): Group[] {
  const planned = byStart(strokes);
  return runs.filter(({ bars }) => new Set(bars.map((bar) => structureOf(planned, bar).join())).size > 1);
}

/** Atoms that know how the equal bars beside them are bowed: as most of them are, the first where it is even. */
export function wishedBeside(atoms: readonly Atom[], runs: readonly Group[], strokes: readonly PlannedSpan[]): Atom[] {
  const planned = byStart(strokes);
  const result = [...atoms];
  for (const { bars } of runs) {
    const rows = bars.map((bar) => structureOf(planned, bar));
    const times = (row: Structure): number => rows.filter((other) => other.join() === row.join()).length;
    const most = rows.reduce((best, row) => (times(row) > times(best) ? row : best));
    for (const { from, to } of bars) for (let i = from; i <= to; i++) result[i] = { ...result[i]!, beside: most[i - from]! };
  }
  return result;
}

/** What the bow does in a bar, whatever the notes are. */
function rhythmKey(atoms: readonly Atom[], from: number, to: number, bar: Bar, start: number): string {
  const row = atoms
    .slice(from, to + 1)
    .map(({ onset, ticks, notes, kind, accent, linked, strokes, hairpin }) => [onset - start, ticks, notes > 2, kind, accent, linked, strokes, hairpin]);
  return `${bar.beats}/${bar.beatType} ${JSON.stringify(row)}`;
}

/** Steps of a scale in so many half steps: a sequence in the key is the same music for the bow. */
const degrees = (halfSteps: number): number => Math.round((halfSteps * 7) / 12);

function barKey(atoms: readonly Atom[], from: number, to: number, bar: Bar): string {
  const first = atoms[from]!;
  let key = `${bar.beats}/${bar.beatType} ${bar.pickup} ${atoms[to + 1]?.linked ?? false}`;
  for (let i = from; i <= to; i++) {
    const { onset, ticks, pitches, kind, accent, linked, strokes, hairpin } = atoms[i]!;
    key += `|${onset - bar.onset} ${ticks} ${degrees(pitches[0] - first.pitches[0])} ${degrees(pitches[1] - pitches[0])} ${kind} ${accent} ${linked} ${strokes} ${hairpin}`;
  }
  return key;
}

function patternOf(planned: ReadonlyMap<number, PlannedSpan>, { from, to }: { from: number; to: number }): Pattern {
  const pattern: Array<Direction | null> = [];
  for (let i = from; i <= to; i++) {
    const stroke = planned.get(i);
    pattern.push(stroke ? (stroke.to > stroke.from ? 'down' : 'up') : null);
  }
  return pattern;
}

/** What the coach marked counts this many times as much as what was planned (judgement). */
const MARKED_WEIGHT = 3;

/** The bowing that most bars of a group have; the coach's marks count more, the first bar where it is even. */
function templateOf(group: Group, atoms: readonly Atom[], planned: ReadonlyMap<number, PlannedSpan>): Pattern {
  const votes = new Map<string, { pattern: Pattern; weight: number }>();
  for (const bar of group.bars) {
    const pattern = patternOf(planned, bar);
    const key = pattern.join();
    const marked = atoms.slice(bar.from, bar.to + 1).some((atom) => atom.lock !== null || atom.mustHook || atom.mustRetake);
    const vote = votes.get(key) ?? { pattern, weight: 0 };
    vote.weight += marked ? MARKED_WEIGHT : 1;
    votes.set(key, vote);
  }
  return [...votes.values()].reduce((best, vote) => (vote.weight > best.weight ? vote : best)).pattern;
}

/** Groups whose bars are not all bowed the same way. */
export function disagreeing(groups: readonly Group[], strokes: readonly PlannedSpan[]): Group[] {
  const planned = byStart(strokes);
  return groups.filter(({ bars }) => {
    const first = patternOf(planned, bars[0]!).join();
    return bars.some((bar) => patternOf(planned, bar).join() !== first);
  });
}

/** Atoms that know how the same music is bowed elsewhere. */
export function wishedAlike(atoms: readonly Atom[], groups: readonly Group[], strokes: readonly PlannedSpan[]): Atom[] {
  const planned = byStart(strokes);
  const result = [...atoms];
  for (const group of groups) {
    const template = templateOf(group, atoms, planned);
    const begins = template.filter((direction) => direction !== null).length;
    for (const { from, to } of group.bars)
      for (let i = from; i <= to; i++) result[i] = { ...result[i]!, alike: { direction: template[i - from]!, weight: 1 / Math.max(2, begins) } };
  }
  return result;
}

const byStart = (strokes: readonly PlannedSpan[]): Map<number, PlannedSpan> => new Map(strokes.map((stroke) => [stroke.span.from, stroke]));

/** Bars that are bowed otherwise than the same music elsewhere. */
export interface Unlike {
  /** Bar indices, both included. */
  fromBar: number;
  toBar: number;
  /** Where the same music is bowed the other way. */
  likeBar: number;
  why: string;
}

export function unlikeBars(atoms: readonly Atom[], groups: readonly Group[], strokes: readonly PlannedSpan[]): Unlike[] {
  const planned = byStart(strokes);
  const found: Unlike[] = [];
  for (const group of groups) {
    const template = templateOf(group, atoms, planned);
    const key = template.join();
    const like = group.bars.find((bar) => patternOf(planned, bar).join() === key)!;
    for (const bar of group.bars) {
      const pattern = patternOf(planned, bar);
      if (pattern.join() === key) continue;
      found.push({ fromBar: bar.barIndex, toBar: bar.barIndex, likeBar: like.barIndex, why: reason(atoms, bar, pattern, template, planned) });
    }
  }
  found.sort((a, b) => a.fromBar - b.fromBar);
  return found.reduce<Unlike[]>((runs, each) => {
    const last = runs.at(-1);
    if (last && last.toBar + 1 === each.fromBar && last.likeBar + (each.fromBar - last.fromBar) === each.likeBar) last.toBar = each.toBar;
    else runs.push({ ...each });
    return runs;
  }, []);
}

function reason(
  atoms: readonly Atom[],
  { from, to }: { from: number; to: number },
  pattern: Pattern,
  template: Pattern,
  planned: ReadonlyMap<number, PlannedSpan>,
): string {
  const own = atoms.slice(from, to + 1);
  if (own.some((atom) => atom.lock !== null || atom.mustHook || atom.mustRetake)) return 'your marks there ask for it';
  if (pattern[0] !== template[0]) {
    const before = planned.get(from)?.start;
    return atoms[from]!.linked || before === 'change' ? 'the bow comes out of the bar before the other way round' : 'it begins the other way round there';
  }
  return 'what follows it there is different, and the bow has to be ready for it';
}
