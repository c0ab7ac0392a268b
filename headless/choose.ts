/** Which part is meant, and the whole score with the marks of one of its parts. */
import type { ReadScore } from '../core/formats/musicxml/read';
import type { Part } from '../core/score/score';
import { bad, good, type Result } from '../core/util/result';
import { readMarks, withCorrections } from './marks';
import type { Options } from './options';
import type { ScoreAsked } from './score';

export function choosePart(parts: readonly Part[], wanted: string | null): Result<Part> {
  const names = parts.map((part, i) => `${i + 1} ${part.name}`).join(', ');
  if (wanted === null) {
    const first = parts.find((part) => part.instrument !== null && part.notes.length > 0) ?? parts.find((part) => part.notes.length > 0)!;
    return good(first);
  }
  const lower = wanted.toLowerCase();
  const found =
    parts.find((part) => part.id === wanted) ??
    parts.find((part) => part.name.toLowerCase() === lower) ??
    parts[Number(wanted) - 1] ??
    parts.find((part) => part.name.toLowerCase().includes(lower));
  return found ? good(found) : bad(`part "${wanted}"`, 'The score has no such part.', `It has ${names}.`);
}

/** All parts, with the marks of the one that is named. */
export function markedScore(read: ReadScore, { part: named, tempo }: Options, marksText: string | null): Result<ScoreAsked> {
  const { parts } = read.score;
  if (marksText === null) return good({ parts, marked: null, tempo });
  if (named === null) return bad('--marks', 'Marks are of one part, and none is named.', 'Add --part with the part that they are of.');
  const own = choosePart(parts, named);
  if (!own.ok) return own;
  const now = withCorrections(read, own.value, marksText);
  if (!now.ok) return now;
  const marking = readMarks(marksText, now.value.part, read.document.text);
  if (!marking.ok) return marking;
  const corrected = parts.map((part) => (part.id === own.value.id ? now.value.part : part));
  return good({ parts: corrected, marked: { partId: own.value.id, marking: marking.value }, tempo });
}
