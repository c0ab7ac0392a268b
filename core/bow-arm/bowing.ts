/** Bowings for a line: the best plan and others that differ in strategy, with what they change and why. */
import type { Line } from '../instruments/lines';
import { finished, type Steps } from '../util/steps';
import type { Part } from '../score/score';
import type { TickRange } from '../score/bars';
import type { Clock } from '../score/time';
import type { Player } from '../instruments/player';
import type { Marking } from '../marking/mark';
import { disagreeing, groupsOf, runsOf, unevenRuns, unlikeBars, wishedAlike, wishedBeside, type Group } from './alike';
import { asBefore, atomsOf, type Atom } from './atoms';
import { bowOf } from './bow';
import { candidateSpans, withPhrases } from './candidates';
import { withOutsideMotion, type StringOf } from './crossings';
import { described, type Bowing } from './describe';
import { refined, Refinements } from './refine';
import { jumpsOf, resetsAt, wishedToRepeat } from './repeats';
import { bowingInSteps, nearest, newSearchMemory, type FoundBowing, type SearchMemory } from './search';
import { LOCKED, type Direction } from './stroke';
import { withTies } from './ties';
import { BOW_COSTS, BOW_STRATEGIES, REST_SECONDS, type BowCosts, type BowStrategy } from './tables';

export interface BowingRequest {
  part: Part;
  line: Line;
  player: Player;
  clock: Clock;
  marking: Marking;
  alternatives?: number;
  /** Changes to the table of costs. */
  costs?: Partial<BowCosts>;
  /** Only this passage is returned, in ticks of the part; the end is not included. */
  within?: TickRange;
  /** String of a note by the fingering, 1 the highest; without it crossings do not count. */
  stringOf?: StringOf;
  /** Directions that are tried, by note: no marks, and priced as if nobody had asked for them. */
  directions?: ReadonlyMap<string, 'down' | 'up'> | undefined;
}

/** What is kept from one plan of a line to the next, so that a change is planned in the time of the bars around it. */
export interface BowMemory {
  first: SearchMemory;
  alike: SearchMemory;
  /** Of the passage that was last planned by itself. */
  near: SearchMemory;
  refinements: Refinements;
  /** The last plan of the whole line: while there is the same to bow, it is the same. */
  last: { settings: string; part: Part; atoms: readonly Atom[]; plan: WholePlan } | null;
}

export const newBowMemory = (): BowMemory => {
  const first = newSearchMemory();
  return { first, alike: { kept: null, tables: first.tables }, near: { kept: null, tables: first.tables }, refinements: new Refinements(), last: null };
};

/** A memory to try something with: what it learns is not kept. */
export const forkedMemory = ({ first, alike, near, refinements, last }: BowMemory): BowMemory => ({
  first: { ...first },
  alike: { ...alike },
  near: { ...near },
  refinements,
  last,
});

/** The best plan first, then those of other strategies by what they cost; none where nothing is bowed. */
export const planBowing = (request: BowingRequest, memory: BowMemory = newBowMemory()): Bowing[] => finished(bowingsInSteps(request, memory));

export function* bowingsInSteps(request: BowingRequest, memory: BowMemory): Steps<Bowing[]> {
  const { within } = request;
  const atoms = asBefore(preparedAtoms(request), memory.last?.atoms ?? []);
  if (atoms.length === 0) return [];
  const inside = (onset: number) => within === undefined || (onset >= within.from && onset < within.to);
  if (!atoms.some((atom) => inside(atom.onset))) return [];
  const planner = new Planner(request, memory);
  const best = yield* planner.wholeOnce(atoms);
  const bestShown = shown(best.bowing, inside, request.part);
  const wanted = request.alternatives ?? 3;
  if (wanted === 1) return [bestShown];
  const row = within ? heldOutside(best, inside) : best.atoms;
  const opening = bestShown.strokes[0]?.direction ?? null;
  const seen = new Set([wayOf(bestShown)]);
  const rest: Bowing[] = [];
  for (const strategy of BOW_STRATEGIES.slice(1)) {
    const bowing = planner.by(strategy, row, strategy.reversed ? opening : null, inside);
    const own = bowing && shown(bowing, inside, request.part);
    if (!own || seen.has(wayOf(own))) continue;
    seen.add(wayOf(own));
    rest.push(own);
  }
  rest.sort((a, b) => a.total - b.total);
  return [bestShown, ...rest].slice(0, wanted);
}

/**
 * The bows of a passage alone, and some around it: what lies outside stays as the whole line was last planned, and so does what the same
 * music elsewhere asks for. In the time of the passage, for an answer at once; `planBowing` may find better with the whole line.
 */
export function planBowingNear(request: BowingRequest & { within: TickRange }, memory: BowMemory = newBowMemory()): Bowing | null {
  const { from, to } = request.within;
  const atoms = asBefore(preparedAtoms(request), memory.last?.atoms ?? []);
  const inside = (onset: number) => onset >= from && onset < to;
  if (!atoms.some((atom) => inside(atom.onset))) return null;
  const planner = new Planner(request, memory);
  const known = planner.lastOf(atoms);
  return planner.near(known ? heldOutside(known, inside) : alone(atoms, inside));
}

/** Everything there is to bow, with what the instrument and the strings say about it. */
export function preparedAtoms(request: BowingRequest): Atom[] {
  const { part, line, clock, marking, player, stringOf } = request;
  const bow = bowOf(player.instrument);
  const plain = withPhrases(withTies(atomsOf(part, line, clock, marking), part, line, clock, marking, bow), part, marking, bow);
  const prepared = stringOf ? withOutsideMotion(plain, line, stringOf, player.instrument.kind) : plain;
  return request.directions ? directed(prepared, request.directions) : prepared;
}

const directed = (atoms: readonly Atom[], directions: ReadonlyMap<string, 'down' | 'up'>): Atom[] =>
  atoms.map((atom) => {
    const only = directions.get(atom.ids[0]!);
    return only ? { ...atom, only } : atom;
  });

export interface WholePlan {
  atoms: readonly Atom[];
  found: FoundBowing;
  bowing: Bowing;
}

class Planner {
  private readonly bow;
  private readonly hairCm;

  constructor(
    private readonly request: BowingRequest,
    private readonly memory: BowMemory,
  ) {
    this.bow = bowOf(request.player.instrument);
    this.hairCm = this.bow.hairCm;
  }

  /** The last plan of the whole line with these atoms in it, each knowing what the same music elsewhere asks for; null where there is none like it. */
  lastOf(atoms: readonly Atom[]): Pick<WholePlan, 'atoms' | 'found'> | null {
    const { last } = this.memory;
    if (!last || last.settings !== this.settings() || last.part !== this.request.part || last.atoms.length !== atoms.length) return null;
    const { plan } = last;
    const renewed = atoms.map((atom, i) => {
      const wished = plan.atoms[i]!;
      return atom === last.atoms[i] ? wished : { ...atom, alike: wished.alike, beside: wished.beside, jumpsTo: wished.jumpsTo };
    });
    return { atoms: renewed, found: plan.found };
  }

  near(row: readonly Atom[]): Bowing {
    const strategy = BOW_STRATEGIES[0]!;
    const costs = this.costs(strategy);
    return this.planned(row, finished(this.search(row, strategy, costs, null, this.memory.near)), strategy, costs, {}).bowing;
  }

  private settings(): string {
    return JSON.stringify([this.bow, this.request.costs, this.request.clock.tempo]);
  }

  /** What `whole` gives, or gave last time for the same atoms. */
  *wholeOnce(atoms: readonly Atom[]): Steps<WholePlan> {
    const { part } = this.request;
    const settings = this.settings();
    const { last } = this.memory;
    if (last && last.settings === settings && last.part === part && last.atoms === atoms) return last.plan;
    const plan = yield* this.whole(atoms);
    this.memory.last = { settings, part, atoms, plan };
    return plan;
  }

  /** The plan of the whole line, the same music bowed alike and repeats joined where nothing forbids it. */
  *whole(atoms: readonly Atom[]): Steps<WholePlan> {
    const { part, clock } = this.request;
    const strategy = BOW_STRATEGIES[0]!;
    const costs = this.costs(strategy);
    let found = yield* this.search(atoms, strategy, costs, null, this.memory.first);
    yield;
    let wished = atoms;
    let beside = atoms;
    const groups = groupsOf(atoms, part.bars);
    const jumps = jumpsOf(atoms, part.bars, (tick) => clock.secondsAt(tick));
    // Only music that came out in several ways is asked to be alike; asking can move its neighbours, so it is looked at twice.
    const asked = new Set<Group>();
    const runs = runsOf(atoms, part.bars);
    const uneven = unevenRuns(runs, found.strokes);
    for (let round = 0; round < 2; round++) {
      const before = asked.size;
      for (const group of disagreeing(groups, found.strokes)) asked.add(group);
      if (asked.size === before && (round > 0 || (jumps.length === 0 && uneven.length === 0))) break;
      if (round === 0) beside = wishedBeside(atoms, uneven, found.strokes);
      wished = wishedToRepeat(wishedAlike(beside, [...asked], found.strokes), jumps, found.strokes);
      const memory = { ...nearest([this.memory.first, this.memory.alike], wished) };
      found = yield* this.search(wished, strategy, costs, null, memory);
      this.memory.alike = memory;
      yield;
    }
    return this.planned(wished, found, strategy, costs, { unlike: unlikeBars(wished, groups, found.strokes), resets: resetsAt(wished, jumps, found.strokes) });
  }

  by(strategy: BowStrategy, atoms: readonly Atom[], notFirst: Direction | null, inside: (onset: number) => boolean): Bowing | null {
    const costs = this.costs(strategy);
    const opened = notFirst ? turnedRound(atoms, inside) : atoms;
    const found = finished(this.search(opened, strategy, costs, notFirst, { kept: null, tables: this.memory.first.tables }));
    if (!Number.isFinite(found.cost) || (notFirst && found.cost >= LOCKED)) return null;
    return this.planned(opened, found, strategy, costs, {}).bowing;
  }

  private *search(atoms: readonly Atom[], strategy: BowStrategy, costs: BowCosts, notFirst: Direction | null, memory: SearchMemory): Steps<FoundBowing> {
    const spansEndingAt = candidateSpans(atoms, this.bow, costs, strategy.name === 'as printed');
    return yield* bowingInSteps({ atoms, spansEndingAt, hairCm: this.hairCm, costs, notFirst }, memory);
  }

  private planned(
    atoms: readonly Atom[],
    found: FoundBowing,
    strategy: BowStrategy,
    costs: BowCosts,
    more: Partial<Pick<Bowing, 'unlike' | 'resets'>>,
  ): WholePlan {
    const strokes = refined(found.strokes, atoms, this.hairCm, costs, this.memory.refinements);
    return {
      atoms,
      found,
      bowing: { ...described({ part: this.request.part, costs: this.costs(BOW_STRATEGIES[0]!) }, atoms, strokes, this.hairCm, strategy), ...more },
    };
  }

  private costs(strategy: BowStrategy): BowCosts {
    return { ...BOW_COSTS, ...this.request.costs, ...strategy.costs };
  }
}

/** Strokes of context around a passage. */
const CONTEXT = 6;

/** The atoms of a passage and some around it, those outside held to the best plan of the whole line. */
function heldOutside({ atoms, found }: Pick<WholePlan, 'atoms' | 'found'>, inside: (onset: number) => boolean): Atom[] {
  const { strokes } = found;
  const isInside = strokes.map(({ span }) => inside(atoms[span.from]!.onset));
  const first = isInside.indexOf(true);
  if (first < 0) return [...atoms];
  const last = isInside.lastIndexOf(true);
  const kept: Atom[] = [];
  for (let k = Math.max(0, first - CONTEXT); k < Math.min(strokes.length, last + 1 + CONTEXT); k++) {
    const { span, from, to, start } = strokes[k]!;
    for (let i = span.from; i <= span.to; i++) {
      const atom = atoms[i]!;
      if (isInside[k]) kept.push(atom);
      else if (i > span.from) kept.push({ ...atom, held: true, linked: true });
      else
        kept.push({
          ...atom,
          held: true,
          lock: to > from ? 'down' : 'up',
          mustHook: start === 'hook',
          mustRetake: start === 'retake' && atom.silenceS < REST_SECONDS,
        });
    }
  }
  const opening = kept[0];
  if (opening) kept[0] = { ...opening, linked: false, mustHook: false, mustRetake: false };
  return kept;
}

/** Atoms of context around a passage of which nothing is known yet. */
const CONTEXT_ATOMS = 12;

function alone(atoms: readonly Atom[], inside: (onset: number) => boolean): Atom[] {
  const first = atoms.findIndex((atom) => inside(atom.onset));
  const last = atoms.findLastIndex((atom) => inside(atom.onset));
  let from = Math.max(0, first - CONTEXT_ATOMS);
  while (from > 0 && atoms[from]!.linked) from--;
  let to = Math.min(atoms.length, last + 1 + CONTEXT_ATOMS);
  while (to < atoms.length && atoms[to]!.linked) to++;
  const kept = atoms.slice(from, to);
  const opening = kept[0];
  if (opening) kept[0] = { ...opening, linked: false, mustHook: false, mustRetake: false };
  return kept;
}

/** A passage that begins the other way round: what lies before it turns round with it. */
function turnedRound(atoms: readonly Atom[], inside: (onset: number) => boolean): Atom[] {
  const first = atoms.findIndex((atom) => inside(atom.onset));
  return atoms.slice(first).map((atom, i) => (i === 0 ? { ...atom, linked: false, mustHook: false, mustRetake: false } : atom));
}

function shown(bowing: Bowing, inside: (onset: number) => boolean, part: Part): Bowing {
  const strokes = bowing.strokes.filter((stroke) => inside(stroke.onset));
  if (strokes.length === bowing.strokes.length) return bowing;
  const terms: Record<string, number> = {};
  for (const stroke of strokes) for (const [name, cost] of Object.entries(stroke.terms)) terms[name] = (terms[name] ?? 0) + cost;
  const rounded = Object.fromEntries(Object.entries(terms).map(([name, value]) => [name, Math.round(value * 1000) / 1000]));
  const within = (barIndex: number) => inside(part.bars[barIndex]!.onset);
  return {
    ...bowing,
    strokes,
    terms: rounded,
    total: Math.round(Object.values(rounded).reduce((sum, value) => sum + value, 0) * 1000) / 1000,
    feasible: strokes.every((stroke) => stroke.feasible),
    changes: bowing.changes.filter((change) => strokes.some((stroke) => stroke.noteIds.includes(change.noteId))),
    unlike: bowing.unlike.filter(({ fromBar, toBar }) => within(fromBar) || within(toBar)),
    resets: bowing.resets.filter(({ fromBar }) => within(fromBar)),
  };
}

/** Two plans with the same key are the same bowing. */
const wayOf = (bowing: Bowing): string => bowing.strokes.map((stroke) => `${stroke.noteIds[0]}${stroke.direction}${stroke.retake ? 'r' : ''}`).join(' ');
