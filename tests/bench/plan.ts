/** npm run bench:plan: a plan to a date, next to an even split over the same days. */
import { dayAfter } from '../../core/practice/day';
import { planTo, valueOfEven, type PlanAsked } from '../../core/practice/plan';
import { chance } from '../support/random-score';
import { say } from '../support/figures';

const TODAY = '2026-03-02';

function asked(count: number, weeks: number): PlanAsked {
  const { below, one } = chance(count);
  const passages = Array.from({ length: count }, (_, i) => ({
    id: `p${i}`,
    now: 40 + below(60),
    goal: 90 + below(40),
    risk: one([0, 1, 2, 3] as const),
    priority: one([0.5, 1, 2]),
    halfLife: one([2, 3.2, 5.1, 8.2]),
    last: TODAY,
  }));
  const events = [2, weeks / 2, weeks].map((after, i) => ({
    id: `e${i}`,
    day: dayAfter(TODAY, 7 * after),
    passages: passages.filter((_, p) => i === 2 || p % 3 === i).map(({ id }) => id),
    weight: i + 1,
  }));
  const days = Array.from({ length: 7 * weeks }, (_, i) => ({ day: dayAfter(TODAY, i), minutes: i % 7 === 6 ? 0 : 45 }));
  return { passages, events, days, k: 20 };
}

for (const [count, weeks] of [
  [12, 2],
  [60, 8],
] as const) {
  const each = asked(count, weeks);
  planTo(each);
  const times = Array.from({ length: 9 }, () => {
    const start = performance.now();
    planTo(each);
    return performance.now() - start;
  });
  say(`${count} passages, ${weeks} weeks`, times);
  console.log(`${(planTo(each).value / valueOfEven(each)).toFixed(2)} times the value of an even split`);
}
