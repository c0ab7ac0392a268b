/** Bars as people say them: "47", "E", "E+2", "-6" (six before the end). */
import { bad, good, type Result } from '../util/result';
import type { Part } from './score';

/** @returns index of the bar */
export function barAt(part: Pick<Part, 'bars'>, said: string): Result<number> {
  const text = said.trim();
  const { bars } = part;
  const remedy = `Say a bar (${bars[0]?.label ?? '1'} to ${bars.at(-1)?.label ?? '1'}), a letter such as E, E+2, or -6 for six before the end.`;
  const fromEnd = /^-(\d+)$/.exec(text);
  if (fromEnd) {
    const index = bars.length - Number(fromEnd[1]);
    return index >= 0 && index < bars.length ? good(index) : bad(text, `The part has only ${bars.length} bars.`, remedy);
  }
  const byLabel = bars.findIndex((bar) => bar.label === text);
  if (byLabel >= 0) return good(byLabel);
  const lettered = /^(.+?)\s*(?:([+-])\s*(\d+))?$/.exec(text);
  const start = lettered ? bars.findIndex((bar) => bar.rehearsal?.toLowerCase() === lettered[1]!.toLowerCase()) : -1;
  if (!lettered || start < 0) return bad(text || null, 'There is no such bar or rehearsal letter.', remedy);
  const index = start + (lettered[2] === '-' ? -1 : 1) * Number(lettered[3] ?? 0);
  return index >= 0 && index < bars.length ? good(index) : bad(text, 'That lies outside the part.', remedy);
}
