/**
 * A rhythm group bowed together: the directions that suit all of its members best. Each member is planned with the directions that are
 * tried, with its own strings, crossings and place on the bow, priced as if nobody had asked for them; what all pay together decides.
 * First the members' own directions are tried for all; from the best of them on, directions are turned from one stroke on as long as that
 * costs all of them less. (A descent: how near it comes to the best of all directions is measured in the tests, on small groups, against
 * trying every one.) What comes of it is written as marks where the plans would play otherwise.
 */
import type { Bowing } from '../bow-arm/describe';
import { linesOf } from '../instruments/lines';
import type { Player } from '../instruments/player';
import { applyChanges, squashed, type Change } from '../marking/change';
import { splitKey, type Marking } from '../marking/mark';
import { planBoth, type PlanMemory } from '../plan/plan';
import type { Clock } from '../score/time';
import type { Steps } from '../util/steps';
import { carried } from './carry';
import type { OtherPart } from './ensemble';
import { playedBows, type Bows, type BowsOf, type Direction, type Member, type RhythmGroup, type ToPart } from './groups';
import { countedWord } from './count-words';

/** What is known of a part that is planned as it is marked. */
export interface PlannedPart {
  player: Player;
  clock: Clock;
  memory: PlanMemory;
  bowing: Bowing;
}

export interface Agreed {
  /** Whose directions they are; null where they are nobody's own. */
  model: Member | null;
  /** What all members pay more than with their own best, in the bow model's costs. */
  more: number;
  /** For those for whom it changes something. */
  perPart: Array<{ name: string; more: number; retakes: number; text: string }>;
  to: ToPart[];
  /** Members that still go against the others somewhere: their marks forbid it. */
  against: string[];
}

type Group = Pick<RhythmGroup, 'fromBar' | 'toBar' | 'members'>;
type Planned = ReadonlyMap<string, PlannedPart>;

/** Marks of the last round move bows of their own; then it is what it is. */
const ROUNDS = 3;
/** Directions that are tried at most: a group of many bars is done within seconds. */
const MOST_TRIED = 120;
/** Less is no gain. */
const GAIN = 1e-6;

/** What is tried: a direction for each stroke of the group. */
export interface Tried {
  /** When each stroke begins, ticks. */
  onsets: readonly number[];
  directions: readonly Direction[];
}

/** What directions cost all members together. @returns for each member its plan with them, in the order of the members */
export function tryDirections(
  tried: Tried,
  members: readonly Member[],
  parts: readonly OtherPart[],
  planned: Planned,
): { cost: number; bowings: Array<Bowing | null> } {
  const at = new Map(tried.onsets.map((onset, i) => [onset, tried.directions[i]!]));
  const bowings = members.map(({ partId }) => {
    const { part, marking } = parts.find(({ id }) => id === partId)!;
    const { player, clock, memory } = planned.get(partId)!;
    const line = linesOf(part)[0]!;
    const directions = new Map(line.events.flatMap(({ grace, ids, onset }) => (!grace && at.has(onset) ? [[ids[0]!, at.get(onset)!] as const] : [])));
    return planBoth({ part, line, player, clock, marking, directions }, memory).plan.bowing;
  });
  return { cost: bowings.reduce((sum, bowing) => sum + (bowing?.total ?? 0), 0), bowings };
}

/** The strokes of a group as its members begin them, and each member's own directions. */
export function strokesOf(group: Group, members: readonly Member[], parts: readonly OtherPart[], planned: Planned): Array<Tried & { member: Member }> {
  const bowsOfAll = playedBows(parts, (partId) => planned.get(partId)?.bowing ?? null);
  const own = members.map((member) => {
    const line = linesOf(parts.find(({ id }) => id === member.partId)!.part)[0]!;
    const bows = bowsOfAll(member.partId, 0);
    const inside = line.events.filter(({ grace, notes: [note] }) => !grace && note!.barIndex >= group.fromBar && note!.barIndex <= group.toBar);
    return { member, events: inside.map(({ onset, ids }) => ({ onset, bow: bows.get(ids[0]!) ?? null })) };
  });
  // A stroke begins where any of them turns the bow or stops it; who goes on under a slur there is left to do so.
  const strokes = new Set(
    members.flatMap(({ partId }) =>
      planned.get(partId)!.bowing.strokes.flatMap(({ barIndex, onset }) => (barIndex >= group.fromBar && barIndex <= group.toBar ? [onset] : [])),
    ),
  );
  const onsets = [...strokes].sort((a, b) => a - b);
  return own.map(({ member, events }) => {
    const at = new Map(events.map(({ onset, bow }) => [onset, bow?.direction ?? null]));
    let last: Direction = 'down';
    const directions = onsets.map((onset) => (last = at.get(onset) ?? last));
    return { member, onsets, directions };
  });
}

/** The best directions for all that were found, as marks; null where no member is planned. @param planned of every member's first line; members without are left out */
export function* bowedTogether(group: Group, parts: readonly OtherPart[], planned: Planned): Steps<Agreed | null> {
  const members = group.members.filter(({ partId, line }) => line === 0 && planned.has(partId));
  if (members.length === 0) return null;
  const own = strokesOf(group, members, parts, planned);
  const known = new Map<string, number>();
  const costOf = function* ({ onsets, directions }: Tried): Steps<number> {
    const key = directions.join();
    if (!known.has(key)) {
      known.set(key, tryDirections({ onsets, directions }, members, parts, planned).cost);
      yield;
    }
    return known.get(key)!;
  };
  let best = { ...own[0]!, cost: Infinity };
  for (const each of own) {
    const cost = yield* costOf(each);
    if (cost < best.cost - GAIN) best = { ...each, cost };
  }
  const directions = yield* descended(best, turnsToTry(own, best), costOf, known);
  const model = own.find((each) => String(each.directions) === String(directions))?.member ?? null;
  return yield* asMarks(group, { onsets: best.onsets, directions }, model, members, parts, planned);
}

/** Turns directions from one stroke on, one after the other, as long as one of them gains. */
function* descended(
  start: Tried & { cost: number },
  turns: readonly number[],
  costOf: (tried: Tried) => Steps<number>,
  known: ReadonlyMap<string, number>,
): Steps<readonly Direction[]> {
  let best = start;
  for (let found = true; found;) {
    found = false;
    for (const turn of turns) {
      if (known.size >= MOST_TRIED) return best.directions;
      const directions = best.directions.map((direction, i) => (i >= turn ? other(direction) : direction));
      const cost = yield* costOf({ onsets: best.onsets, directions });
      if (cost < best.cost - GAIN) {
        best = { onsets: best.onsets, directions, cost };
        found = true;
      }
    }
  }
  return best.directions;
}

const other = (direction: Direction): Direction => (direction === 'down' ? 'up' : 'down');

/** Strokes from which the directions are turned: first where members differ in whether they turn, then all others. */
function turnsToTry(own: readonly Tried[], { directions }: Tried): number[] {
  const repeats = (row: readonly Direction[]) => row.map((direction, i) => i > 0 && direction === row[i - 1]);
  const usual = repeats(directions);
  const differs = new Set([0, ...own.flatMap((each) => repeats(each.directions).flatMap((repeat, i) => (repeat === usual[i] ? [] : [i])))]);
  return [...differs, ...directions.map((_, i) => i).filter((i) => !differs.has(i))];
}

const NOBODY = 'nobody';
const OF_BOWS: ReadonlySet<string> = new Set(['bow', 'retake', 'hook']);

/** Directions as the marks of every member. */
function* asMarks(group: Group, tried: Tried, model: Member | null, members: readonly Member[], parts: readonly OtherPart[], planned: Planned): Steps<Agreed> {
  const { bowings } = tryDirections(tried, members, parts, planned);
  yield;
  const nobody = asNobody(parts.find(({ id }) => id === members[0]!.partId)!);
  const said = saidBy(nobody, tried, bowings);
  const all: Agreed = { model, more: 0, perPart: [], to: [], against: [] };
  for (const [i, member] of members.entries()) {
    const own = parts.find(({ id }) => id === member.partId)!;
    const made = following(group, member, own, [...parts, nobody], planned, said);
    yield;
    const before = planned.get(member.partId)!.bowing;
    const more = (bowings[i]?.total ?? before.total) - before.total;
    all.more += more;
    if (made.changes.length) {
      all.to.push({ partId: member.partId, changes: made.changes });
      all.perPart.push({ name: member.name, more, retakes: made.retakes, text: inWords(member.name, more, made.retakes) });
    }
    if (made.against) all.against.push(member.name);
  }
  return all;
}

/** A member without bows of its own: what is tried is said at its notes. */
function asNobody(own: OtherPart): OtherPart {
  const notes = own.part.notes.map((note) => (note.printed.bow ? { ...note, printed: { ...note.printed, bow: null } } : note));
  const marking = Object.fromEntries(Object.entries(own.marking).filter(([key]) => !OF_BOWS.has(splitKey(key).kind)));
  return { ...own, id: NOBODY, part: { ...own.part, notes }, marking };
}

/** A stroke is hooked to the one before where most of the members play it so. */
function saidBy({ part }: OtherPart, { onsets, directions }: Tried, bowings: ReadonlyArray<Bowing | null>): Bows {
  const at = new Map(linesOf(part)[0]!.events.flatMap(({ grace, ids, onset }) => (grace ? [] : [[onset, ids[0]!] as const])));
  return new Map(
    onsets.flatMap((onset, i) => {
      const there = bowings.flatMap((bowing) => bowing?.strokes.find((stroke) => stroke.onset === onset) ?? []);
      const hooked = there.filter((stroke) => stroke.hooked).length * 2 > there.length;
      return at.has(onset) ? [[at.get(onset)!, { direction: directions[i]!, hooked }] as const] : [];
    }),
  );
}

function following(group: Group, member: Member, own: OtherPart, parts: readonly OtherPart[], planned: Planned, said: Bows) {
  const { player, clock, memory, bowing: before } = planned.get(member.partId)!;
  const line = linesOf(own.part)[0]!;
  const model: Member = { partId: NOBODY, line: 0, name: '' };
  let marking: Marking = own.marking;
  let bowing: Bowing | null = before;
  const changes: Change[] = [];
  const wanted = () => {
    const now = parts.map((each) => (each.id === own.id ? { ...own, marking } : each));
    return carried('bows', group, model, [member], now, bowsOf(now, planned, own.id, bowing, said))[0];
  };
  for (let round = 0; round < ROUNDS; round++) {
    const made = wanted();
    if (!made) break;
    changes.push(...made.changes);
    marking = applyChanges(marking, made.changes).marking;
    bowing = planBoth({ part: own.part, line, player, clock, marking }, memory).plan.bowing;
  }
  return {
    changes: squashed(changes),
    retakes: bowing ? retakesIn(bowing, group) - retakesIn(before, group) : 0,
    against: bowing ? goesAgainst(bowing, group, said, parts) : false,
  };
}

/** Whether a stroke still goes the other way. */
function goesAgainst({ strokes }: Bowing, { fromBar, toBar }: Group, said: Bows, parts: readonly OtherPart[]): boolean {
  const { events } = linesOf(parts.find(({ id }) => id === NOBODY)!.part)[0]!;
  const at = new Map(events.flatMap(({ onset, ids }) => (said.has(ids[0]!) ? [[onset, said.get(ids[0]!)!.direction] as const] : [])));
  return strokes.some(({ onset, barIndex, direction }) => barIndex >= fromBar && barIndex <= toBar && at.has(onset) && at.get(onset) !== direction);
}

/** Bows as every part is planned, one of them as it is planned now, and nobody's as they are said. */
function bowsOf(parts: readonly OtherPart[], planned: Planned, ownId: string, own: Bowing | null, said: Bows): BowsOf {
  const played = playedBows(parts, (partId) => (partId === ownId ? own : (planned.get(partId)?.bowing ?? null)));
  return (partId, line) => (partId === NOBODY ? said : played(partId, line));
}

const retakesIn = ({ strokes }: Bowing, { fromBar, toBar }: Group): number =>
  strokes.filter(({ retake, barIndex }) => retake && barIndex >= fromBar && barIndex <= toBar + 1).length;

/** Less than this is no matter for a player. */
const NOTICED = 0.5;

function inWords(name: string, more: number, retakes: number): string {
  const count = Math.abs(retakes);
  if (count > 0) return `${name} ${retakes > 0 ? 'gains' : 'loses'} ${count === 1 ? 'a retake' : `${countedWord(count)} retakes`}.`;
  return Math.abs(more) < NOTICED ? `${name} hardly notices it.` : more > 0 ? `${name} bows less comfortably.` : `${name} bows more comfortably.`;
}
