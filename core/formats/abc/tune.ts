/** What the parser package (abcjs) makes of ABC text, as far as it is used here, and its complaints with their places. */
import abcjs from 'abcjs';
import { LIMITS } from '../../util/limits';
import { bad, good, type Result } from '../../util/result';

export interface AbcPitch {
  /** Letters above middle C. */
  pitch: number;
  accidental?: string;
  startTie?: object;
  endTie?: boolean;
  startSlur?: Array<{ label: number }>;
  endSlur?: number[];
}

export interface AbcElement {
  el_type: string;
  startChar: number;
  endChar: number;
  type?: string;
  /** In whole notes, without the tuplet. */
  duration?: number | number[];
  pitches?: AbcPitch[];
  rest?: { type: string; text?: number };
  decoration?: string[];
  gracenotes?: Array<AbcPitch & { duration: number; acciaccatura?: boolean }>;
  chord?: Array<{ name: string; position: string }>;
  lyric?: Array<{ syllable: string; divider: string }>;
  startSlur?: Array<{ label: number }>;
  endSlur?: number[];
  startTriplet?: number;
  tripletMultiplier?: number;
  tripletR?: number;
  endTriplet?: boolean;
  startBeam?: boolean;
  endBeam?: boolean;
  startEnding?: string;
  endEnding?: boolean;
  accidentals?: AbcKey['accidentals'];
  value?: Array<{ num: string; den?: string }>;
  clefPos?: number;
  title?: string;
  bpm?: number;
  preString?: string;
  postString?: string;
}

export interface AbcKey {
  accidentals?: Array<{ acc: string; note: string }>;
}
export interface AbcMeter {
  type?: string;
  value?: Array<{ num: string; den?: string }>;
}
export interface AbcClef {
  type?: string;
  clefPos?: number;
}
export interface AbcTempo {
  duration?: number[];
  bpm?: number;
  preString?: string;
  postString?: string;
}

export interface AbcStaff {
  title?: string[];
  clef?: AbcClef;
  key?: AbcKey;
  meter?: AbcMeter;
  voices: AbcElement[][];
}

export interface AbcTune {
  lines: Array<{ staff?: AbcStaff[] }>;
  metaText: { title?: string; composer?: string; tempo?: AbcTempo };
  warnings?: string[];
}

/** A complaint of the parser; line and column count from 1. */
export interface AbcProblem {
  line: number;
  column: number;
  text: string;
}

export const LONGEST_ABC = LIMITS.abc;

/** Whether a text looks like ABC: it begins with a field such as "X:1", or has a tune with its X: and K: after other words. */
export const looksLikeAbc = (text: string): boolean =>
  (/^\ufeff?(?:\s*%[^\n]*\n|\s*\n)*\s*[A-Za-z]:/.test(text) && /^\s*[XTKML]:/m.test(text)) || (/^X:\s*\d/m.test(text) && /^K:/m.test(text));

export function parseTune(text: string): Result<{ tune: AbcTune; problems: AbcProblem[] }> {
  if (text.length > LONGEST_ABC) return bad(null, `The text has ${text.length} characters; the limit is ${LONGEST_ABC}.`, 'Type one passage at a time.');
  if (/^Z\s*\d{4}|\bZ\d{4}/m.test(text)) return bad(null, 'A rest of a thousand bars or more is no music.', 'Shorten the rest that begins with Z.');
  let tunes: AbcTune[];
  try {
    tunes = abcjs.parseOnly(text) as unknown as AbcTune[];
  } catch {
    return bad(null, 'The text cannot be understood as ABC.', 'Begin with the lines X:1, M:4/4, L:1/8 and K:D, then the notes.');
  }
  const tune = tunes[0];
  if (!tune) return bad(null, 'There is no tune in the text.', 'Begin with the lines X:1, M:4/4, L:1/8 and K:D, then the notes.');
  if (tunes.length > 1) return bad(null, `The text holds ${tunes.length} tunes.`, 'Keep one X: field to a text; take the others in one by one.');
  return good({ tune, problems: (tune.warnings ?? []).map(problemOf) });
}

/** "Music Line:3:5: Unknown character ignored:  abc <span…" */
function problemOf(warning: string): AbcProblem {
  const plain = warning.replace(/<[^>]*>/g, '');
  const match = /:(\d+):(\d+): ([\s\S]*?)(?:: {2}[\s\S]*)?$/.exec(plain);
  if (!match) return { line: 1, column: 1, text: plain };
  return { line: Number(match[1]), column: Number(match[2]), text: match[3]!.trim() };
}

/** Line and column, both from 1, of what stands at an offset in a text, after spaces. */
export function placeOf(text: string, offset: number): { line: number; column: number } {
  let at = Math.max(0, offset);
  while (text[at] === ' ') at++;
  const before = text.slice(0, at).split('\n');
  return { line: before.length, column: before.at(-1)!.length + 1 };
}
