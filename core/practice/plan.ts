/**
 * A plan to a date: which passage on which day, so that what is lacking at the events is least. A block brings less the more there were
 * before it, and less the longer ago it is at the event; so the value is a concave sum, and blocks are taken one after the other where each
 * brings most, then exchanged as long as that helps (greedy with local search; Nemhauser, Wolsey and Fisher 1978, from memory, for the bound).
 */
import { daysBetween, type Day } from './day';
import { dayShape, type DayShape } from './day-shape';
import { halfLifeAfter } from './standing';
import { DAY, PLANNING } from './tables';

export interface PlannedPassage {
  id: string;
  /** Felt beats per minute. */
  now: number;
  goal: number;
  /** 0 none to 3 will fail. */
  risk: 0 | 1 | 2 | 3;
  /** What the coach gives it beside the others; 1 is usual. */
  priority: number;
  /** Days in which half of a gain is lost. */
  halfLife: number;
  last: Day | null;
}

export interface PlannedEvent {
  id: string;
  day: Day;
  /** What is needed for it. */
  passages: readonly string[];
  weight: number;
}

export interface PlanAsked {
  days: ReadonlyArray<{ day: Day; minutes: number }>;
  passages: readonly PlannedPassage[];
  events: readonly PlannedEvent[];
  /** Minutes in which a gap shrinks to 1/e for this player. */
  k: number;
  /** A plan that there was, to be changed as little as may be: passages by day. */
  before?: ReadonlyMap<Day, readonly string[]>;
}

export interface DayPlan extends DayShape {
  day: Day;
  /** In the order in which they come: no passage follows itself where another can stand between. */
  of: Array<{ passage: string; minutes: number }>;
  /** Passages that are only played as a whole: their event is so near. */
  wholeRuns: string[];
}

export interface Shortfall {
  event: string;
  passage: string;
  /** Beats per minute below the goal on the day of the event. */
  short: number;
  /** The tempo that it will have. */
  reaches: number;
}

export interface Plan {
  days: DayPlan[];
  shortfalls: Shortfall[];
  /** What the blocks lower the weighted shortfalls by. */
  value: number;
}

/** What an even split over all that is allowed would be worth: what a plan is measured against. */
export function valueOfEven(asked: PlanAsked): number {
  const model = new Model(asked);
  return model.value(model.even());
}

/** @throws RangeError where a passage or a goal is none */
export function planTo(asked: PlanAsked): Plan {
  for (const { id, now, goal } of asked.passages) if (!(now >= 0) || !(goal > 0)) throw new RangeError(`passage ${id}: tempo ${now} of ${goal}`);
  const model = new Model(asked);
  const greedy = model.greedy();
  const even = model.even();
  const chosen = model.improved(model.value(even) > model.value(greedy) ? even : greedy);
  return model.plan(chosen);
}

export interface SpacedAsked extends Omit<PlanAsked, 'passages'> {
  passages: ReadonlyArray<Omit<PlannedPassage, 'halfLife'> & { practised: number }>;
}

/** Rounds in which half-lives and plan settle. */
const SETTLING = 3;

/**
 * The same where it is known on how many days a passage was practised: what is played on more days lasts longer, so a plan decides itself
 * how long its gains last. Planned a few times, each with the half-lives that the plan before came to.
 */
export function planSpaced({ passages, ...asked }: SpacedAsked): Plan {
  const days = new Map(passages.map(({ id, practised }) => [id, practised]));
  let plan: Plan | null = null;
  for (let round = 0; round < SETTLING; round++) {
    const lasting = passages.map(({ practised: _, ...passage }) => ({ ...passage, halfLife: halfLifeAfter(days.get(passage.id)!) }));
    plan = planTo({ ...asked, passages: lasting });
    for (const { id, practised } of passages) days.set(id, practised + plan.days.filter(({ of }) => of.some(({ passage }) => passage === id)).length);
  }
  return plan!;
}

/** Blocks by day and passage: how many of each. */
type Counts = number[][];

/** What one passage is needed for. */
interface Need {
  event: PlannedEvent;
  weight: number;
  /** Of a gain of each day what is left at the event; 0 for days that are too late. */
  retention: number[];
}

/** A plan that is being made: blocks, and the minutes that count at each event, kept up with every change. */
interface Draft {
  counts: Counts;
  /** By passage and event that needs it. */
  minutes: number[][];
  free: number[];
}

class Model {
  private readonly shapes: DayShape[];
  private readonly needs: Need[][];
  private readonly gaps: number[];
  private readonly kept: boolean[][];
  /** Whether a passage may be practised on a day at all, by day and passage; whether an event of it is near; whether any event is so near that nothing new is begun. */
  private readonly open: boolean[][];
  private readonly near: boolean[][];
  private readonly late: boolean[];
  /** Whether a day follows the one before it in the plan. */
  private readonly follows: boolean[];

  constructor(private readonly asked: PlanAsked) {
    const { days, passages, events, before } = asked;
    this.shapes = days.map(({ minutes }) => dayShape(minutes));
    this.gaps = passages.map(({ now, goal }) => Math.max(0, goal - now));
    this.needs = passages.map(({ id, halfLife, risk, priority }) =>
      events
        .filter((event) => event.passages.includes(id))
        .map((event) => ({
          event,
          weight: event.weight * priority * PLANNING.riskWeight[risk],
          retention: days.map(({ day }) => {
            const left = daysBetween(day, event.day);
            return left <= 0 ? 0 : 2 ** (-left / halfLife);
          }),
        })),
    );
    this.kept = days.map(({ day }) => passages.map(({ id }) => before?.get(day)?.includes(id) ?? false));
    const within = (day: Day, event: PlannedEvent, most: number) => daysBetween(day, event.day) > 0 && daysBetween(day, event.day) <= most;
    this.late = days.map(({ day }) => events.some((event) => within(day, event, PLANNING.lastDays)));
    this.near = days.map(({ day }) => this.needs.map((needs) => needs.some(({ event }) => within(day, event, PLANNING.nearDays))));
    this.open = days.map(({ day }) =>
      this.needs.map((needs, passage) => {
        const ahead = needs.filter(({ event }) => daysBetween(day, event.day) > 0);
        // So near its event it is played as a whole.
        return this.gaps[passage]! > 0 && ahead.length > 0 && !ahead.some(({ event }) => within(day, event, PLANNING.lastDays));
      }),
    );
    this.follows = days.map(({ day }, i) => i > 0 && daysBetween(days[i - 1]!.day, day) === 1);
  }

  private draft(): Draft {
    return {
      counts: this.shapes.map(() => this.gaps.map(() => 0)),
      minutes: this.needs.map((needs) => needs.map(() => 0)),
      free: this.shapes.map(({ blocks }) => blocks),
    };
  }

  private may({ counts, free }: Draft, day: number, passage: number): boolean {
    if (free[day]! <= 0 || !this.open[day]![passage] || counts[day]![passage]! >= PLANNING.perDay) return false;
    const isNew = this.asked.passages[passage]!.last === null && this.late[day];
    if (isNew && !counts.some((row, i) => i < day && row[passage]! > 0)) return false;
    return this.near[day]![passage]! || this.rowWith(counts, day, passage) <= PLANNING.daysInRow;
  }

  /** Days in a row with this passage, if it stood on this day, too. */
  private rowWith(counts: Counts, day: number, passage: number): number {
    let [from, to] = [day, day];
    while (this.follows[from] && counts[from - 1]![passage]! > 0) from--;
    while (this.follows[to + 1] && counts[to + 1]![passage]! > 0) to++;
    return to - from + 1;
  }

  /** Minutes that the nth block of a passage on a day is worth, from 1. */
  private worth(nth: number): number {
    return DAY.block * (nth > 1 ? PLANNING.again : 1);
  }

  private add({ counts, minutes, free }: Draft, day: number, passage: number, by: 1 | -1): void {
    const nth = counts[day]![passage]! + (by > 0 ? 1 : 0);
    counts[day]![passage]! += by;
    free[day]! -= by;
    const own = minutes[passage]!;
    this.needs[passage]!.forEach(({ retention }, i) => (own[i]! += by * this.worth(nth) * retention[day]!));
  }

  /** What one more block brings, or what taking one away costs. */
  private change({ counts, minutes }: Draft, day: number, passage: number, by: 1 | -1): number {
    const nth = counts[day]![passage]! + (by > 0 ? 1 : 0);
    const worth = by * this.worth(nth);
    const own = minutes[passage]!;
    let sum = 0;
    const needs = this.needs[passage]!;
    for (let i = 0; i < needs.length; i++) {
      const { weight, retention } = needs[i]!;
      sum += weight * (Math.exp(-own[i]! / this.asked.k) - Math.exp(-(own[i]! + worth * retention[day]!) / this.asked.k));
    }
    return sum * this.gaps[passage]!;
  }

  value({ minutes }: Draft): number {
    return this.needs.reduce(
      (all, needs, passage) =>
        all + needs.reduce((sum, { weight }, i) => sum + weight * this.gaps[passage]! * (1 - Math.exp(-minutes[passage]![i]! / this.asked.k)), 0),
      0,
    );
  }

  /** A plan that is made anew gives a little for what it had before. */
  private bonus(day: number, passage: number): number {
    return this.kept[day]![passage] ? PLANNING.keep : 1;
  }

  /** Each block where it brings most. */
  greedy(): Draft {
    const draft = this.draft();
    const gainOf = (day: number, passage: number): number => (this.open[day]![passage] ? this.change(draft, day, passage, 1) * this.bonus(day, passage) : 0);
    // What each place brings is worked out anew only where it changed: of the passage that was taken.
    const gains = draft.counts.map((row, day) => row.map((_, passage) => gainOf(day, passage)));
    for (;;) {
      let [bestDay, bestPassage, most] = [-1, -1, 0];
      for (let day = 0; day < gains.length; day++) {
        if (draft.free[day]! <= 0) continue;
        const row = gains[day]!;
        for (let passage = 0; passage < row.length; passage++)
          if (row[passage]! > most && this.may(draft, day, passage)) [bestDay, bestPassage, most] = [day, passage, row[passage]!];
      }
      if (bestDay < 0) return draft;
      this.add(draft, bestDay, bestPassage, 1);
      for (let day = 0; day < gains.length; day++) gains[day]![bestPassage] = gainOf(day, bestPassage);
    }
  }

  /** Everybody in turn, as far as it is allowed: what a plan is measured against. */
  even(): Draft {
    const draft = this.draft();
    let next = 0;
    for (let day = 0; day < this.shapes.length; day++) {
      for (let tries = 0; draft.free[day]! > 0 && tries < this.gaps.length * PLANNING.perDay; tries++, next++) {
        const passage = next % this.gaps.length;
        if (this.may(draft, day, passage)) this.add(draft, day, passage, 1);
      }
    }
    return draft;
  }

  /** Blocks exchanged for others of their day as long as that helps. */
  improved(draft: Draft): Draft {
    for (let round = 0; round < ROUNDS; round++) {
      let isBetter = false;
      for (let day = 0; day < this.shapes.length; day++)
        for (let out = 0; out < this.gaps.length; out++) if (draft.counts[day]![out]! > 0 && this.exchanged(draft, day, out)) isBetter = true;
      if (!isBetter) return draft;
    }
    return draft;
  }

  private exchanged(draft: Draft, day: number, out: number): boolean {
    const { counts } = draft;
    // What is begun here stands on other days, too.
    const isBegun = this.asked.passages[out]!.last === null && counts[day]![out] === 1 && !counts.some((each, i) => i < day && each[out]! > 0);
    if (isBegun && counts.some((each, i) => i > day && each[out]! > 0)) return false;
    let best = out;
    let most = -this.change(draft, day, out, -1) * this.bonus(day, out) + 1e-9;
    this.add(draft, day, out, -1);
    for (let passage = 0; passage < this.gaps.length; passage++) {
      if (passage === out || !this.open[day]![passage]) continue;
      const gain = this.change(draft, day, passage, 1) * this.bonus(day, passage);
      if (gain > most && this.may(draft, day, passage)) [best, most] = [passage, gain];
    }
    this.add(draft, day, best, 1);
    return best !== out;
  }

  plan(draft: Draft): Plan {
    const { days, passages } = this.asked;
    return {
      days: days.map(({ day, minutes }, i) => {
        const shape = this.shapes[i]!;
        const left = Math.max(0, Math.floor(minutes)) - shape.warmUp - shape.rests - shape.playThrough;
        return { ...shape, day, of: inTurn(draft.counts[i]!, passages, left), wholeRuns: this.wholeRuns(day) };
      }),
      shortfalls: this.shortfalls(draft),
      value: this.value(draft),
    };
  }

  private wholeRuns(day: Day): string[] {
    const near = this.asked.events.filter((event) => daysBetween(day, event.day) > 0 && daysBetween(day, event.day) <= PLANNING.lastDays);
    return [...new Set(near.flatMap((event) => event.passages))];
  }

  private shortfalls({ minutes }: Draft): Shortfall[] {
    return this.asked.passages.flatMap(({ id, goal }, passage) =>
      this.needs[passage]!.flatMap(({ event }, i) => {
        const short = this.gaps[passage]! * Math.exp(-minutes[passage]![i]! / this.asked.k);
        return short > PLANNING.near ? [{ event: event.id, passage: id, short, reaches: goal - short }] : [];
      }),
    );
  }
}

const ROUNDS = 20;

/** A day's blocks in an order where none follows itself if that can be, with the minutes that are left over. */
function inTurn(row: readonly number[], passages: readonly PlannedPassage[], minutes: number): DayPlan['of'] {
  const left = row.map((n, passage) => ({ n, id: passages[passage]!.id })).filter(({ n }) => n > 0);
  const order: string[] = [];
  while (left.some(({ n }) => n > 0)) {
    const next = [...left].filter(({ n }) => n > 0).sort((a, b) => b.n - a.n);
    const chosen = next.find(({ id }) => id !== order.at(-1)) ?? next[0]!;
    chosen.n--;
    order.push(chosen.id);
  }
  const each = Math.min(DAY.blockMost, Math.floor(minutes / Math.max(1, order.length)));
  return order.map((passage) => ({ passage, minutes: each }));
}
