/**
 * Systems onto pages, so that pages can be turned: the breaks that cost least, found exactly. A turn costs by how much time it lacks, a page
 * by how much of it is empty (optimal line breaking by dynamic programming, Knuth and Plass 1981, with pages for lines).
 */
import { PAGING } from './tables';
import type { Passing } from './turns';

export interface LaidSystem {
  heightPx: number;
  /** Last bar of it, by index. */
  lastBar: number;
}

export interface Paper {
  /** What systems have of a page, and of the first one under its heading. */
  heightPx: number;
  firstHeightPx: number;
  /** Least room between two systems. */
  gapPx: number;
  /** Pages that are seen at once: with 2 only every other break is a turn. */
  atOnce: 1 | 2;
  /** With two at once: the first page lies on the right by itself. */
  firstIsRight: boolean;
}

export interface Turn {
  /** Page that is left, from 0. */
  page: number;
  /** Bars by index: the last one before, the first one after. */
  from: number;
  to: number;
  restS: number;
  /** There is less than a turn takes. */
  hurried: boolean;
  /** Back to an earlier page, or on past one: a repeat or a jump. */
  jumps: boolean;
}

export interface Pages {
  /** First and last system of each page. */
  pages: Array<{ from: number; to: number }>;
  cost: number;
}

/** Whether one turns after a page, or only looks over to the one beside it. */
export const isTurnAfter = (page: number, { atOnce, firstIsRight }: Pick<Paper, 'atOnce' | 'firstIsRight'>): boolean =>
  atOnce === 1 || page % 2 === (firstIsRight ? 0 : 1);

/** A system that is higher than a page has one by itself. */
export function paged(systems: readonly LaidSystem[], passed: readonly Passing[], paper: Paper): Pages {
  const turns = turnCosts(passed);
  // best[sides][i]: the cheapest way to have put systems 0 to i − 1 onto an even or odd number of pages.
  const best: Array<Array<Way | null>> = [0, 1].map(() => systems.map(() => null));
  for (const row of best) row.push(null);
  best[0]![0] = { cost: 0, from: 0, pages: 0 };
  for (let to = 0; to < systems.length; to++) {
    let used = -paper.gapPx;
    for (let from = to; from >= 0; from--) {
      used += systems[from]!.heightPx + paper.gapPx;
      for (const odd of [0, 1]) {
        const before = best[odd]![from];
        if (!before || (from === 0) !== (before.pages === 0)) continue;
        if (from < to && used > heightOf(before.pages, paper)) continue;
        const cost = before.cost + pageCost(used, before.pages, to === systems.length - 1, paper) + breakCost(before.pages, to, systems, turns, paper);
        const known = best[1 - odd]![to + 1];
        if (!known || cost < known.cost) best[1 - odd]![to + 1] = { cost, from, pages: before.pages + 1 };
      }
    }
  }
  return backwards(best, systems.length);
}

interface Way {
  cost: number;
  from: number;
  pages: number;
}

function backwards(best: ReadonlyArray<ReadonlyArray<Way | null>>, end: number): Pages {
  const ends = [0, 1].flatMap((odd) => (best[odd]![end] ? [{ odd, way: best[odd]![end] }] : []));
  if (end === 0 || ends.length === 0) return { pages: [], cost: 0 };
  const last = ends.reduce((a, b) => (b.way.cost < a.way.cost ? b : a));
  const pages: Pages['pages'] = [];
  let { odd } = last;
  for (let at = end; at > 0; odd = 1 - odd) {
    const way = best[odd]![at]!;
    pages.unshift({ from: way.from, to: at - 1 });
    at = way.from;
  }
  return { pages, cost: last.way.cost };
}

const heightOf = (page: number, { heightPx, firstHeightPx }: Paper): number => (page === 0 ? firstHeightPx : heightPx);

/** What is left empty of a page; of the last one only that it is nearly empty. */
export function pageCost(usedPx: number, page: number, isLast: boolean, paper: Paper): number {
  const share = Math.min(1, usedPx / heightOf(page, paper));
  const loose = isLast ? (page > 0 && share < PAGING.scantBelow ? PAGING.scant : 0) : PAGING.empty * (1 - share) ** 2;
  return PAGING.page + loose;
}

function breakCost(page: number, system: number, systems: readonly LaidSystem[], turns: ReadonlyMap<number, number>, paper: Paper): number {
  if (system === systems.length - 1 || !isTurnAfter(page, paper)) return 0;
  return turns.get(systems[system]!.lastBar) ?? 0;
}

/** What it costs to turn after a bar, the worst time that it is passed; not at all where one never goes straight on there. */
export function turnCosts(passed: readonly Passing[]): Map<number, number> {
  const costs = new Map<number, number>();
  for (const { from, to, restS, nextS } of passed) {
    if (to !== from + 1) continue;
    const lacks = Math.max(0, 1 - restS / PAGING.turnS);
    const cost = PAGING.hurried * lacks ** 2 + PAGING.eyes * Math.max(0, 1 - nextS / PAGING.eyesS);
    costs.set(from, Math.max(cost, costs.get(from) ?? 0));
  }
  return costs;
}

/** Every turn as it comes while playing, each of several passes; those without time are to be named. */
export function turnsPlayed({ pages }: Pick<Pages, 'pages'>, systems: readonly LaidSystem[], passed: readonly Passing[], paper: Paper): Turn[] {
  const lastBars = pages.map(({ to }) => systems[to]!.lastBar);
  const pageOf = (bar: number) => lastBars.findIndex((last) => bar <= last);
  const sideOf = (page: number) => (paper.atOnce === 1 ? page : Math.floor((page + (paper.firstIsRight ? 1 : 0)) / 2));
  return passed.flatMap(({ from, to, restS }) => {
    const [page, next] = [pageOf(from), pageOf(to)];
    if (sideOf(page) === sideOf(next)) return [];
    return [{ page, from, to, restS, hurried: restS < PAGING.turnS, jumps: to !== from + 1 }];
  });
}
