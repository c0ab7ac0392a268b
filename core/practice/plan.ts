/**
 * A plan to a date: which passage on which day, so that what is lacking at the events is least. A block brings less the more there were
 * before it, and less the longer ago it is at the event; so the value is a concave sum, and blocks are taken one after the other where each
 * brings most, then exchanged as long as that helps (greedy with local search; Nemhauser, Wolsey and Fisher 1978, from memory, for the bound).
 */
import { daysBetween, type Day } from './day';
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

/** What a day's minutes are for. */
export interface DayShape {
  warmUp: number;
  /** Rests between half hours. */
  rests: number;
  playThrough: number;
  blocks: number;
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

/** How a day's minutes are divided: the scale first, a rest between half hours, at the end something that is only played through. */
export function dayShape(minutes: number): DayShape {
  const total = Math.max(0, Math.floor(minutes));
  if (total < DAY.blockLeast) return { warmUp: 0, rests: 0, playThrough: 0, blocks: 0 };
  const isShort = total < DAY.short;
  const warmUp = isShort ? Math.min(DAY.shortWarmUp, total - DAY.blockLeast) : Math.max(DAY.warmUpLeast, Math.round(total * DAY.warmUpShare));
  const playThrough = isShort ? 0 : Math.round(total * DAY.playThroughShare);
  const rests = DAY.rest * (Math.ceil(total / (DAY.halfHour + DAY.rest)) - 1);
  const left = total - warmUp - playThrough - rests;
  return { warmUp, rests, playThrough, blocks: left < DAY.blockLeast ? 0 : Math.max(1, Math.floor(left / DAY.block)) };
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

/** Blocks by day and passage: how many of each. */
type Counts = number[][];

class Model {
  private readonly shapes: DayShape[];
  /** Of each passage the events that need it: days until then from each day (-1 for days that are too late), and what is lost there. */
  private readonly needs: Array<Array<{ event: PlannedEvent; weight: number; retention: number[] }>>;
  private readonly gaps: number[];
  private readonly kept: boolean[][];

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
  }

  /** Blocks that may be of this passage on this day, with what is there already. */
  private most(counts: Counts, day: number, passage: number): number {
    const { days, passages, events } = this.asked;
    const today = days[day]!.day;
    const own = this.needs[passage]!.filter(({ event }) => daysBetween(today, event.day) > 0);
    if (own.length === 0 || this.gaps[passage] === 0) return 0;
    // So near an event it is played as a whole, and nothing new is begun for anything.
    const isLast = (event: PlannedEvent) => daysBetween(today, event.day) > 0 && daysBetween(today, event.day) <= PLANNING.lastDays;
    if (own.some(({ event }) => isLast(event))) return 0;
    const isNew = passages[passage]!.last === null && !counts.some((row, i) => i < day && row[passage]! > 0);
    if (isNew && events.some(isLast)) return 0;
    const isNear = own.some(({ event }) => daysBetween(today, event.day) <= PLANNING.nearDays);
    if (!isNear && this.rowWith(counts, day, passage) > PLANNING.daysInRow) return 0;
    return PLANNING.perDay;
  }

  /** Days in a row with this passage, if it stood on this day, too. */
  private rowWith(counts: Counts, day: number, passage: number): number {
    const { days } = this.asked;
    const follows = (a: number, b: number) => daysBetween(days[a]!.day, days[b]!.day) === 1;
    let [from, to] = [day, day];
    while (from > 0 && follows(from - 1, from) && counts[from - 1]![passage]! > 0) from--;
    while (to + 1 < days.length && follows(to, to + 1) && counts[to + 1]![passage]! > 0) to++;
    return to - from + 1;
  }

  private free(counts: Counts, day: number): number {
    return this.shapes[day]!.blocks - counts[day]!.reduce((sum, n) => sum + n, 0);
  }

  private may(counts: Counts, day: number, passage: number): boolean {
    return this.free(counts, day) > 0 && counts[day]![passage]! < this.most(counts, day, passage);
  }

  /** Minutes that count at an event. */
  private minutesAt(counts: Counts, passage: number, retention: readonly number[]): number {
    let sum = 0;
    for (let day = 0; day < counts.length; day++) {
      const n = counts[day]![passage]!;
      if (n > 0) sum += DAY.block * (1 + (n - 1) * PLANNING.again) * retention[day]!;
    }
    return sum;
  }

  private valueOf(counts: Counts, passage: number): number {
    const gap = this.gaps[passage]!;
    return this.needs[passage]!.reduce(
      (sum, { weight, retention }) => sum + weight * gap * (1 - Math.exp(-this.minutesAt(counts, passage, retention) / this.asked.k)),
      0,
    );
  }

  value(counts: Counts): number {
    return this.gaps.reduce((sum, _, passage) => sum + this.valueOf(counts, passage), 0);
  }

  private none(): Counts {
    return this.asked.days.map(() => this.gaps.map(() => 0));
  }

  greedy(): Counts {
    const counts = this.none();
    const sums = this.needs.map((needs) => needs.map(() => 0));
    const gainOf = (day: number, passage: number): number => {
      const minutes = DAY.block * (counts[day]![passage]! > 0 ? PLANNING.again : 1);
      const gain = this.needs[passage]!.reduce((sum, { weight, retention }, i) => {
        const before = sums[passage]![i]!;
        return sum + weight * this.gaps[passage]! * (Math.exp(-before / this.asked.k) - Math.exp(-(before + minutes * retention[day]!) / this.asked.k));
      }, 0);
      return this.kept[day]![passage] ? gain * PLANNING.keep : gain;
    };
    // What each place brings is worked out anew only where it changed: of the passage that was taken.
    const gains = counts.map((row, day) => row.map((_, passage) => gainOf(day, passage)));
    for (;;) {
      let best: { day: number; passage: number } | null = null;
      let most = 0;
      gains.forEach((row, day) => {
        if (this.free(counts, day) <= 0) return;
        row.forEach((gain, passage) => {
          if (gain > most && this.may(counts, day, passage)) [best, most] = [{ day, passage }, gain];
        });
      });
      if (!best) return counts;
      const { day, passage } = best as { day: number; passage: number };
      const minutes = DAY.block * (counts[day]![passage]! > 0 ? PLANNING.again : 1);
      this.needs[passage]!.forEach(({ retention }, i) => (sums[passage]![i] = sums[passage]![i]! + minutes * retention[day]!));
      counts[day]![passage]!++;
      for (let each = 0; each < counts.length; each++) gains[each]![passage] = gainOf(each, passage);
    }
  }

  /** Everybody in turn, as far as it is allowed: what a plan is measured against. */
  even(): Counts {
    const counts = this.none();
    let next = 0;
    for (let day = 0; day < counts.length; day++) {
      for (let tries = 0; this.free(counts, day) > 0 && tries < this.gaps.length * PLANNING.perDay; tries++, next++) {
        const passage = next % this.gaps.length;
        if (this.may(counts, day, passage)) counts[day]![passage]!++;
      }
    }
    return counts;
  }

  /** Blocks exchanged for others of their day as long as that helps. */
  improved(start: Counts): Counts {
    const counts = start.map((row) => [...row]);
    for (let round = 0; round < ROUNDS; round++) {
      let isBetter = false;
      for (let day = 0; day < counts.length; day++)
        for (let out = 0; out < this.gaps.length; out++) if (counts[day]![out]! > 0 && this.exchanged(counts, day, out)) isBetter = true;
      if (!isBetter) return counts;
    }
    return counts;
  }

  private exchanged(counts: Counts, day: number, out: number): boolean {
    const row = counts[day]!;
    // What is begun here stands on other days, too.
    const isBegun = this.asked.passages[out]!.last === null && row[out] === 1 && !counts.some((each, i) => i < day && each[out]! > 0);
    if (isBegun && counts.some((each, i) => i > day && each[out]! > 0)) return false;
    const with_ = this.valueOf(counts, out);
    row[out]!--;
    const lost = with_ - this.valueOf(counts, out);
    const bonus = (passage: number) => (this.kept[day]![passage] ? PLANNING.keep : 1);
    let best = -1;
    let most = lost * bonus(out) + 1e-9;
    for (let passage = 0; passage < row.length; passage++) {
      if (passage === out || !this.may(counts, day, passage)) continue;
      const before = this.valueOf(counts, passage);
      row[passage]!++;
      const gain = (this.valueOf(counts, passage) - before) * bonus(passage);
      row[passage]!--;
      if (gain > most) [best, most] = [passage, gain];
    }
    row[best >= 0 ? best : out]!++;
    return best >= 0;
  }

  plan(counts: Counts): Plan {
    const { days, passages } = this.asked;
    return {
      days: days.map(({ day, minutes }, i) => {
        const shape = this.shapes[i]!;
        const left = Math.max(0, Math.floor(minutes)) - shape.warmUp - shape.rests - shape.playThrough;
        return { ...shape, day, of: inTurn(counts[i]!, passages, left), wholeRuns: this.wholeRuns(day) };
      }),
      shortfalls: this.shortfalls(counts),
      value: this.value(counts),
    };
  }

  private wholeRuns(day: Day): string[] {
    const near = this.asked.events.filter((event) => daysBetween(day, event.day) > 0 && daysBetween(day, event.day) <= PLANNING.lastDays);
    return [...new Set(near.flatMap((event) => event.passages))];
  }

  private shortfalls(counts: Counts): Shortfall[] {
    return this.asked.passages.flatMap(({ id, goal }, passage) =>
      this.needs[passage]!.flatMap(({ event, retention }) => {
        const short = this.gaps[passage]! * Math.exp(-this.minutesAt(counts, passage, retention) / this.asked.k);
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
