/** When something was, as one says it. */
const MINUTE = 60_000;
const STEPS: ReadonlyArray<[ms: number, unit: Intl.RelativeTimeFormatUnit]> = [
  [30 * 24 * 60 * MINUTE, 'month'],
  [24 * 60 * MINUTE, 'day'],
  [60 * MINUTE, 'hour'],
  [MINUTE, 'minute'],
];
const relative = new Intl.RelativeTimeFormat('en', { numeric: 'auto' });

/** "3 days ago", "in 2 days", "just now". */
export function agoInWords(iso: string, now: number = Date.now()): string {
  const away = Date.parse(iso) - now;
  const step = STEPS.find(([ms]) => Math.abs(away) >= ms);
  return step ? relative.format(Math.round(away / step[0]), step[1]) : 'just now';
}

/** "12 May 2026, 14:05". */
export const momentInWords = (iso: string): string => new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeStyle: 'short' }).format(new Date(iso));
