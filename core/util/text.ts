/**
 * Text from outside, made fit to be stored and to stand in a file. What is left out: every character that XML 1.0 (section 2.2,
 * production Char) forbids, the control characters that it only discourages (U+007F to U+009F), and the noncharacters at the end
 * of each plane. PostgreSQL refuses U+0000 and halves of pairs, which are among them.
 */

/** Allowed by nobody, or by XML with a warning. Tab and line feed stay; a carriage return becomes a line feed before this. */
const UNFIT =
  /[\u0000-\u0008\u000B-\u001F\u007F-\u009F\uFDD0-\uFDEF\uFFFE\uFFFF]|\p{Cs}|[\u{1FFFE}\u{1FFFF}\u{2FFFE}\u{2FFFF}\u{3FFFE}\u{3FFFF}\u{4FFFE}\u{4FFFF}\u{5FFFE}\u{5FFFF}\u{6FFFE}\u{6FFFF}\u{7FFFE}\u{7FFFF}\u{8FFFE}\u{8FFFF}\u{9FFFE}\u{9FFFF}\u{AFFFE}\u{AFFFF}\u{BFFFE}\u{BFFFF}\u{CFFFE}\u{CFFFF}\u{DFFFE}\u{DFFFF}\u{EFFFE}\u{EFFFF}\u{FFFFE}\u{FFFFF}\u{10FFFE}\u{10FFFF}]/gu;

/** @example `cleanText('dolce\u000B')` is `'dolce'` */
export function cleanText(text: string): string {
  return text.replace(/\r\n?|\u2028|\u2029/g, '\n').replace(UNFIT, '');
}

/** The same as one line: runs of white space are one space, none at the ends. @example `cleanLine(' two\nlines ')` is `'two lines'` */
export function cleanLine(text: string): string {
  return cleanText(text.replace(/[\t\v\f]/g, ' '))
    .replace(/\s+/g, ' ')
    .trim();
}

export const isClean = (text: string): boolean => cleanText(text) === text;

/** At most that many UTF-16 units, with an ellipsis where something is left out; never half a pair. @example `shortened('Allegro', 5)` is `'Alle…'` */
export function shortened(text: string, limit: number): string {
  if (text.length <= limit) return text;
  const kept = text.slice(0, Math.max(0, limit - 1));
  return `${kept.replace(/[\uD800-\uDBFF]$/, '')}…`;
}

/** A title or name out of a file: clean, one line, not too long. */
export const titleText = (text: string, limit: number): string => shortened(cleanLine(text), limit);
