/** Note values and steps as they are called on either side of the ocean. Our own sentences say them the American way; marks and names of people's own are never touched. */
export const TERMS = ['american', 'british'] as const;
export type Terms = (typeof TERMS)[number];

/** From a dictionary of music, from memory. */
const VALUES = {
  breve: 'breve',
  whole: 'semibreve',
  half: 'minim',
  quarter: 'crotchet',
  eighth: 'quaver',
  sixteenth: 'semiquaver',
  '16th': 'semiquaver',
  '32nd': 'demisemiquaver',
} as const;
const value = (name: string): string => VALUES[name.toLowerCase() as keyof typeof VALUES];
const NAMES = Object.keys(VALUES).join('|');

const RULES: ReadonlyArray<readonly [RegExp, (...found: string[]) => string]> = [
  // "a dotted quarter note", "eighth notes", "quarter = 72".
  [/\ban (?=eighth note)/gi, (found) => `${found!.charAt(0)} `],
  [new RegExp(`\\b(${NAMES}) note(s?)\\b`, 'gi'), (_, name, s) => value(name!) + s],
  [new RegExp(`\\b(${NAMES})(?= = \\d)`, 'gi'), (_, name) => value(name!)],
  [new RegExp(`^(dotted )?(${NAMES})$`, 'i'), (_, dotted, name) => (dotted ?? '') + value(name!)],
  // By themselves they are values only where nothing else can be meant: "eighth" is a position too, a quarter of the bow is none.
  [/\bdotted (half|quarter|eighth)(s?)\b/gi, (_, name, s) => `dotted ${value(name!)}${s}`],
  [/\b(quarter|eighth|sixteenth)s\b(?! of (?:the|a|an|this|its)\b)/gi, (_, name) => `${value(name!)}s`],
  [/(?<=\b1 )quarter\b(?! of (?:the|a|an|this|its)\b)/g, () => 'crotchet'],
  [/\bhalf a step\b/gi, () => 'a semitone'],
  [/\ba step and a half\b/gi, () => 'a tone and a half'],
  [/\bhalf[ -]step(s?)\b/gi, (_, s) => `semitone${s}`],
  [/\bwhole[ -]step(s?)\b/gi, (_, s) => `tone${s}`],
];

/** @example inTerms('In time at quarter = 72.', 'british') === 'In time at crotchet = 72.' */
export function inTerms(text: string, terms: Terms): string {
  if (terms === 'american') return text;
  return RULES.reduce((said, [pattern, by]) => said.replace(pattern, (...found: unknown[]) => keepCapital(String(found[0]), by(...(found as string[])))), text);
}

const keepCapital = (before: string, after: string): string => (/^[A-Z]/.test(before) ? after.charAt(0).toUpperCase() + after.slice(1) : after);

const AMERICAN: Readonly<Record<string, string>> = { semibreve: 'whole', minim: 'half', crotchet: 'quarter', quaver: 'eighth', semiquaver: 'sixteenth' };
/** The name of a note value as a file has it, whichever way it was typed. @example 'crotchet': 'quarter' */
export const noteValueNamed = (name: string): string => AMERICAN[name.toLowerCase()] ?? name.toLowerCase();
