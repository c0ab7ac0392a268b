/** What the plan says to people. */
import { daysBetween, weekdayOf, type Day } from './day';

const WEEKDAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];
const MONTHS = ['January', 'February', 'March', 'April', 'May', 'June', 'July', 'August', 'September', 'October', 'November', 'December'];

/** Within a week by its weekday, else by its date. @example "Thursday", "12 May" */
export function dayInWords(day: Day, today: Day): string {
  const away = daysBetween(today, day);
  if (away === 0) return 'today';
  if (away === -1) return 'yesterday';
  if (away === 1) return 'tomorrow';
  if (Math.abs(away) < 7) return WEEKDAYS[weekdayOf(day)]!;
  const [, month, date] = day.split('-').map(Number);
  return `${date} ${MONTHS[month! - 1]}`;
}

const round = (tempo: number): number => Math.round(tempo);

export interface WhyBlock {
  now: number;
  goal: number;
  /** What will be lacking in spite of the plan; null for nothing. */
  short: number | null;
  until: Day;
  last: Day | null;
  today: Day;
}

/** @example "62 of 92, falls 14 short by 12 May, not touched since Thursday" */
export function blockWhy({ now, goal, short, until, last, today }: WhyBlock): string {
  return [
    `${round(now)} of ${round(goal)}`,
    ...(short === null ? [] : [`falls ${round(short)} short by ${dayInWords(until, today)}`]),
    ...(last === null ? ['not begun yet'] : daysBetween(last, today) > 1 ? [`not touched since ${dayInWords(last, today)}`] : []),
  ].join(', ');
}

/** @example "will reach 78, 14 short" */
export const shortfallText = ({ short, reaches }: { short: number; reaches: number }): string => `will reach ${round(reaches)}, ${round(short)} short`;

/** Beside a plan for long days. */
export const LONG_DAY =
  'That is long for a day: build it up over weeks, rest five minutes in every half hour, and stop where anything hurts, is numb or tingles; then see your teacher and a health professional.';
