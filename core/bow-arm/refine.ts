/**
 * The places of a plan between the points of the grid: with directions and cuts as they are, every turning point may move
 * in a corridor around where the search put it, and the best of all is found exactly, in ever finer steps.
 */
import { driftWeight, placeCost, retakePrice } from './costs';
import type { Atom } from './atoms';
import type { PlannedSpan } from './search';
import { REST_SECONDS, retakeSeconds, type BowCosts } from './tables';

/** Steps to either side and their width, as a share of the bow. */
const CORRIDORS = [
  { steps: 5, width: 0.03 },
  { steps: 3, width: 0.012 },
  { steps: 3, width: 0.004 },
] as const;

/** One place only. */
const HELD = { steps: 0, width: 0 };

const LEAST = 0.005;

type Places = ReadonlyArray<{ from: number; to: number }>;

/** Places found earlier, by the strokes that they are for; forgotten all at once when the descriptions grow too long. */
export class Refinements {
  private readonly known = new Map<string, Places>();
  private characters = 0;

  find(key: string, make: () => Places): Places {
    let places = this.known.get(key);
    if (!places) {
      if (this.characters > MOST_CHARACTERS) {
        this.known.clear();
        this.characters = 0;
      }
      this.known.set(key, (places = make()));
      this.characters += key.length;
    }
    return places;
  }
}

const MOST_CHARACTERS = 8_000_000;

/** Strokes that are settled together, and those after them that are looked at with them (judgement). */
const TOGETHER = 24;
const AHEAD = 8;

export function refined(strokes: readonly PlannedSpan[], atoms: readonly Atom[], hairCm: number, costs: BowCosts, known = new Refinements()): PlannedSpan[] {
  const settings = JSON.stringify([hairCm, costs]);
  const keys = strokes.map((stroke) => strokeKey(stroke, atoms));
  const result: PlannedSpan[] = [];
  for (const { first, end } of stretches(strokes, atoms)) {
    for (let from = first; from < end; from += TOGETHER) {
      const until = Math.min(end, from + TOGETHER + AHEAD);
      // The stroke before is settled already: from it this one begins, and is heard against it.
      const held = from > first ? result.at(-1)! : null;
      const window = held ? [held, ...strokes.slice(from, until)] : strokes.slice(from, until);
      const key = `${settings}${held ? `${keys[from - 1]} ${held.from} ${held.to}` : ''}|${keys.slice(from, until).join('|')}`;
      const places = known.find(key, () =>
        CORRIDORS.reduce<PlannedSpan[]>((row, corridor) => followed(row, held !== null, atoms, hairCm, costs, corridor), window),
      );
      const skipped = held ? 1 : 0;
      for (let k = from; k < Math.min(end, from + TOGETHER); k++) {
        const place = places[k - from + skipped]!;
        result.push({ ...strokes[k]!, from: place.from, to: place.to });
      }
    }
  }
  return result;
}

const spanKeys = new WeakMap<PlannedSpan['span'], string>();

function strokeKey({ span, from, to, start, back }: PlannedSpan, atoms: readonly Atom[]): string {
  let key = spanKeys.get(span);
  if (key === undefined) {
    const { from: _from, to: _to, ...said } = span;
    spanKeys.set(span, (key = JSON.stringify(said)));
  }
  return `${key} ${from} ${to} ${start} ${back}${start === 'retake' ? JSON.stringify(timeBefore(atoms, span.from)) : ''}`;
}

/** What the price of a retake depends on besides its distance. */
const timeBefore = (atoms: readonly Atom[], at: number) => [
  atoms[at - 1]?.seconds,
  atoms[at]!.silenceS,
  atoms[at]!.mustRetake,
  atoms[at]!.lock,
  atoms[at - 1]?.lock,
];

/** Where the bow is set anew in a rest nothing depends on the places before it, as long as there is time. */
function stretches(strokes: readonly PlannedSpan[], atoms: readonly Atom[]): Array<{ first: number; end: number }> {
  const result: Array<{ first: number; end: number }> = [];
  strokes.forEach((stroke, k) => {
    const free = stroke.start === 'retake' && atoms[stroke.span.from]!.silenceS >= WHOLE_BOW_BACK_S;
    const last = result.at(-1);
    if (free || !last) result.push({ first: k, end: k + 1 });
    else last.end = k + 1;
  });
  return result;
}

const WHOLE_BOW_BACK_S = retakeSeconds(1);

/** Where a place comes to lie at the edge of its corridor, the corridor moves with it. */
function followed(
  row: PlannedSpan[],
  firstHeld: boolean,
  atoms: readonly Atom[],
  hairCm: number,
  costs: BowCosts,
  corridor: (typeof CORRIDORS)[number],
): PlannedSpan[] {
  const edge = corridor.steps * corridor.width - 1e-9;
  let before = row;
  for (let times = 0; times < MOST_MOVES; times++) {
    const after = settled(before, firstHeld, atoms, hairCm, costs, corridor);
    const atEdge = after.some(({ from, to }, i) => Math.abs(from - before[i]!.from) >= edge || Math.abs(to - before[i]!.to) >= edge);
    before = after;
    if (!atEdge) break;
  }
  return before;
}

const MOST_MOVES = 5;

interface Column {
  /** Candidate places of its start and its end. */
  starts: Float64Array;
  ends: Float64Array;
  /** Cheapest cost by start·ends + end. */
  cost: Float64Array;
  back: Int32Array;
  lengthDb: Float64Array;
  /** For each place where it leaves the bow the cells that do, cheapest first, and how many they are; made when a stroke follows. */
  exits: { order: Int16Array; counts: Int16Array; most: number } | null;
}

function settled(
  strokes: readonly PlannedSpan[],
  firstHeld: boolean,
  atoms: readonly Atom[],
  hairCm: number,
  costs: BowCosts,
  corridor: (typeof CORRIDORS)[number],
): PlannedSpan[] {
  const weight = costs.loudness * costs.distribution;
  const columns: Column[] = [];
  strokes.forEach((stroke, k) => {
    const before = strokes[k - 1];
    const last = columns[k - 1];
    const column = openColumn(stroke, before, last, hairCm, costs, k === 0 && firstHeld ? HELD : corridor);
    if (before && last) follow(column, stroke, last, before, atoms, costs, weight);
    columns.push(column);
  });
  return readBack(strokes, columns);
}

/** The cheapest way to every start and end of a stroke from the one before it. */
function follow(column: Column, stroke: PlannedSpan, last: Column, before: PlannedSpan, atoms: readonly Atom[], costs: BowCosts, weight: number): void {
  const atom = atoms[stroke.span.from]!;
  const lastAtom = atoms[stroke.span.from - 1]!;
  const inRest = atom.silenceS >= REST_SECONDS;
  const chained = stroke.start !== 'retake';
  const bias = 20 * Math.log10((before.span.seconds * before.span.wantedSpeed) / (stroke.span.seconds * stroke.span.wantedSpeed));
  const drift = !inRest && stroke.start === 'change' ? driftWeight(before.span, stroke.span, atoms, costs) : 0;
  const { order, counts, most } = (last.exits ??= exitsOf(last, before));
  const { starts, ends, lengthDb, back } = column;
  const own = column.cost;
  const cost = (column.cost = new Float64Array(own.length).fill(Infinity));
  const exitPlaces = before.back ? last.starts : last.ends;
  for (let s = 0; s < starts.length; s++) {
    for (let exit = chained ? s : 0; exit <= (chained ? s : exitPlaces.length - 1); exit++) {
      const price = chained ? 0 : retakePrice(exitPlaces[exit]! - starts[s]!, inRest, lastAtom, atom, costs);
      const count = counts[exit]!;
      for (let e = 0; e < ends.length; e++) {
        const at = s * ends.length + e;
        const here = own[at]! + price;
        if (here === Infinity) continue;
        let best = cost[at]!;
        for (let i = 0; i < count; i++) {
          const cell = order[exit * most + i]!;
          let value = last.cost[cell]! + here;
          if (value >= best) break;
          if (!inRest) {
            const over = (Math.abs(lengthDb[at]! - last.lengthDb[cell]! + bias) - 2) / 6;
            if (over > 0) value += weight * over * over;
            if (drift) value += drift * ((lengthDb[at]! - last.lengthDb[cell]!) / OCTAVE_DB) ** 2;
          }
          if (value < best) {
            best = value;
            back[at] = cell;
          }
        }
        cost[at] = best;
      }
    }
  }
}

/** Twice the length. */
const OCTAVE_DB = 20 * Math.log10(2);

function exitsOf({ cost, starts, ends }: Column, { back }: PlannedSpan): NonNullable<Column['exits']> {
  const places = back ? starts.length : ends.length;
  const most = back ? ends.length : starts.length;
  const order = new Int16Array(places * most);
  const counts = new Int16Array(places);
  for (let cell = 0; cell < cost.length; cell++) {
    const value = cost[cell]!;
    if (value === Infinity) continue;
    const e = cell % ends.length;
    const exit = back ? (cell - e) / ends.length : e;
    let at = counts[exit]!++;
    for (; at > 0 && cost[order[exit * most + at - 1]!]! > value; at--) order[exit * most + at] = order[exit * most + at - 1]!;
    order[exit * most + at] = cell;
  }
  return { order, counts, most };
}

function openColumn(
  stroke: PlannedSpan,
  before: PlannedSpan | undefined,
  last: Column | undefined,
  hairCm: number,
  costs: BowCosts,
  { steps, width }: { steps: number; width: number },
): Column {
  const around = (place: number): Float64Array => {
    const places = new Float64Array(2 * steps + 1);
    for (let i = 0; i < places.length; i++) places[i] = Math.min(1 - LEAST, Math.max(LEAST, place + (i - steps) * width));
    return places;
  };
  const chained = before && last && stroke.start !== 'retake';
  const starts = chained ? (before.back ? last.starts : last.ends) : around(stroke.from);
  const ends = around(stroke.to);
  const cost = new Float64Array(starts.length * ends.length).fill(Infinity);
  const lengthDb = new Float64Array(cost.length);
  const down = stroke.to > stroke.from;
  for (let s = 0; s < starts.length; s++) {
    for (let e = 0; e < ends.length; e++) {
      const [from, to] = [starts[s]!, ends[e]!];
      if (to > from !== down || Math.abs(to - from) < LEAST) continue;
      const at = s * ends.length + e;
      cost[at] = placeCost(stroke.span, from, to, hairCm, costs);
      lengthDb[at] = 20 * Math.log10(Math.abs(to - from));
    }
  }
  return { starts, ends, cost, back: new Int32Array(cost.length).fill(-1), lengthDb, exits: null };
}

function readBack(strokes: readonly PlannedSpan[], columns: readonly Column[]): PlannedSpan[] {
  const result = strokes.map((stroke) => ({ ...stroke }));
  const end = columns.at(-1);
  if (!end) return result;
  let cell = end.cost.reduce((best, value, i) => (value < end.cost[best]! ? i : best), 0);
  for (let k = columns.length - 1; k >= 0; k--) {
    const { starts, ends, back, cost } = columns[k]!;
    if (cell < 0 || cost[cell] === Infinity) return [...strokes];
    result[k]!.from = starts[Math.floor(cell / ends.length)]!;
    result[k]!.to = ends[cell % ends.length]!;
    cell = back[cell]!;
  }
  return result;
}
