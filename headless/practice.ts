/** bin/omaggio drill and plan: a passage as exercises, and which passage on which day. */
import { checked } from '../core/checks/check';
import { tempiOverPlans } from '../core/checks/tempi';
import type { CheckRequest } from '../core/checks/check';
import { linesOf } from '../core/instruments/lines';
import { dayAfter, daysBetween, daysFrom, dayOf, isDay } from '../core/practice/day';
import { DRILL_NAMES, drillOf, type Drill, type DrillName } from '../core/practice/drill';
import { passageOf } from '../core/practice/passage';
import { planSpaced } from '../core/practice/plan';
import { blockWhy, LONG_DAY, shortfallText } from '../core/practice/words';
import { gapOf, goalOf, standingOf } from '../core/practice/standing';
import { DAY, GAIN } from '../core/practice/tables';
import { sayBars } from '../core/score/address';
import { clockFor } from '../core/score/time';
import { bad, good, type Result } from '../core/util/result';
import type { Asked, Outcome } from './commands';
import { planHand } from '../core/plan/plan';

export function drilled(asked: Asked, edited: Asked['part']): Result<Outcome> {
  const { options, player, marking, range } = asked;
  const line = linesOf(edited)[0];
  const where = range ?? { fromBar: 0, toBar: edited.bars.length - 1 };
  if (!line) return bad(`part "${edited.name}"`, 'There is nothing to play.', 'Choose another part with --part.');
  const clock = clockFor(edited, options.tempo);
  const { plan } = planHand({ part: edited, line, player, clock, marking, alternatives: 1 });
  const passage = passageOf({ part: edited, line, range: where, marking, player, fingering: plan.fingering });
  if (!passage) return bad(options.bars, 'Nothing is played in these bars.', 'Say bars with notes, such as --bars 5-12.');
  const wanted = options.kind;
  if (wanted !== null && !(DRILL_NAMES as string[]).includes(wanted)) return bad('--kind', `"${wanted}" is no drill.`, `Use one of ${DRILL_NAMES.join(', ')}.`);
  const kinds = wanted === null ? DRILL_NAMES : [wanted as DrillName];
  const made = kinds.flatMap((kind) => drillOf(kind, passage, { quartersPerMinute: clock.tempo }) ?? []);
  if (made.length === 0)
    return bad(
      `bars ${sayBars(edited.bars, where)}`,
      wanted === null ? 'No drill fits these bars.' : `The drill "${wanted}" does not fit these bars.`,
      'Leave --kind out to see those that do.',
    );
  if (options.out !== null && made.length > 1) return bad('-o', 'One drill goes into a file.', 'Say which with --kind.');
  return good({ value: { drills: made.map(drillJson) }, marked: options.out === null ? null : new TextEncoder().encode(made[0]!.musicXml) });
}

const drillJson = ({ kind, name, listenFor, caution, steps, quarters, musicXml }: Drill) => ({ kind, name, listenFor, caution, steps, quarters, musicXml });

/** Without a log: everything begins at its share of the ceiling. */
export function plannedDays(asked: Asked, request: CheckRequest): Result<Outcome> {
  const { options, part } = asked;
  const today = options.today ?? dayOf(new Date().toISOString(), Intl.DateTimeFormat().resolvedOptions().timeZone);
  if (options.until === null) return bad('--until', 'It is missing.', 'Say the day that it is for, such as --until 2026-12-18.');
  for (const [name, day] of [
    ['--until', options.until],
    ['--today', today],
  ] as const)
    if (!isDay(day)) return bad(name, `"${day}" is no day.`, 'Write it as 2026-12-18.');
  if (daysBetween(today, options.until) < 1)
    return bad('--until', `${options.until} is not after ${today}: there is no day left to practise.`, 'Say a day that lies ahead.');
  if (daysBetween(today, options.until) > MOST_DAYS) return bad('--until', `That is more than ${MOST_DAYS} days ahead.`, 'Plan to a nearer day.');
  const made = checked(request);
  const tempi = tempiOverPlans(request, made).tempi;
  const wanted = tempi.tempo.wanted;
  const passages = tempi.passages.flatMap(({ name, fromBar, toBar, ceiling }) => {
    const goal = goalOf(wanted, ceiling);
    const standing = standingOf([], today, ceiling);
    const risk = Math.max(0, ...made.report.findings.filter(({ barIndex }) => barIndex >= fromBar && barIndex <= toBar).map(({ severity }) => severity)) as
      0 | 1 | 2 | 3;
    const now = standing.now ?? goal.tempo * GAIN.unknownShare;
    return gapOf(now, goal.tempo) > 0 ? [{ id: name, bars: `${part.bars[fromBar]!.label}-${part.bars[toBar]!.label}`, now, goal, risk }] : [];
  });
  const plan = planSpaced({
    days: daysFrom(today, dayAfter(options.until, -1)).map((day) => ({ day, minutes: options.minutes })),
    passages: passages.map(({ id, now, goal, risk }) => ({ id, now, goal: goal.tempo, risk, priority: 1, practised: 0, last: null })),
    events: [{ id: options.until, day: options.until, passages: passages.map(({ id }) => id), weight: 1 }],
    k: GAIN.minutes,
  });
  const about = new Map(passages.map((each) => [each.id, each]));
  return good({
    value: {
      until: options.until,
      caution: options.minutes > DAY.long ? LONG_DAY : null,
      wanted,
      capped: passages.filter(({ goal }) => goal.isCapped).map(({ id, bars, goal }) => ({ passage: id, bars, ceiling: goal.tempo })),
      days: plan.days.map(({ day, warmUp, rests, playThrough, of, wholeRuns }) => ({
        day,
        warmUp,
        rests,
        playThrough,
        wholeRuns,
        blocks: of.map(({ passage, minutes }) => {
          const { bars, now, goal } = about.get(passage)!;
          const short = plan.shortfalls.find((each) => each.passage === passage)?.short ?? null;
          return { passage, bars, minutes, why: blockWhy({ now, goal: goal.tempo, short, until: options.until!, last: null, today }) };
        }),
      })),
      shortfalls: plan.shortfalls.map(({ passage, short, reaches }) => ({
        passage,
        bars: about.get(passage)!.bars,
        short,
        reaches,
        text: shortfallText({ short, reaches }),
      })),
    },
    marked: null,
  });
}

const MOST_DAYS = 400;
