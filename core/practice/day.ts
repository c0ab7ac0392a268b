/** Days as people count them, whatever the clock does: "2026-03-29" is one day, also in the night the clock changes. */

/** A calendar day, ISO 8601. */
export type Day = string;

const DAY_MS = 86_400_000;
const formats = new Map<string, Intl.DateTimeFormat>();

/** The day of a moment where the player is. @param timeZone IANA name; throws RangeError for an unknown one */
export function dayOf(at: string, timeZone: string): Day {
  let format = formats.get(timeZone);
  if (!format) formats.set(timeZone, (format = new Intl.DateTimeFormat('en-CA', { timeZone, year: 'numeric', month: '2-digit', day: '2-digit' })));
  return format.format(new Date(at));
}

const count = (day: Day): number => Math.round(Date.parse(`${day}T00:00:00Z`) / DAY_MS);

/** Days from one to another; negative where the other is earlier. */
export const daysBetween = (from: Day, to: Day): number => count(to) - count(from);

export const dayAfter = (day: Day, days = 1): Day => new Date((count(day) + days) * DAY_MS).toISOString().slice(0, 10);

/** 0 Monday to 6 Sunday. */
export const weekdayOf = (day: Day): number => (count(day) + 3) % 7;

/** Every day from one to another, both included. */
export const daysFrom = (from: Day, to: Day): Day[] => Array.from({ length: Math.max(0, daysBetween(from, to) + 1) }, (_, i) => dayAfter(from, i));

/** Whether a text is a day of the calendar. @example not "2026-02-30" */
export const isDay = (text: string): boolean =>
  /^\d{4}-\d{2}-\d{2}$/.test(text) && !Number.isNaN(Date.parse(text)) && new Date(text).toISOString().startsWith(text);
