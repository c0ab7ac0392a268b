/** The notes of a bar corrected: the mark that says it, and the marks of its notes at the notes that they are now. */
import { barText, barVoices, parseBarText } from '../score/bar-text';
import { pitchName } from '../score/pitch';
import type { Note, Part } from '../score/score';
import { changeTo, type Change } from './change';
import { splitKey, type Mark, type Marking } from './mark';
import { placeTarget } from './target';

/** The notes of a bar as text; null where they cannot be said. */
export function barTextOf(part: Part, barIndex: number): string | null {
  const voices = barVoices(part, barIndex);
  return voices.ok ? barText(voices.value) : null;
}

export interface BarCorrection {
  /** As the file has it, without corrections, and with those that are in force. */
  file: Part;
  print: Part;
  marking: Marking;
  barIndex: number;
  text: string;
  why?: string;
}

/** The mark of a correction; null where it says what is printed. Equal texts are written equally. */
export function barMark({ file, barIndex, text, why }: BarCorrection): Mark | null {
  const said = parseBarText(text);
  const value = said.ok ? barText(said.value) : text;
  if (value === barTextOf(file, barIndex)) return null;
  return { value, origin: 'coach', ...(why ? { why } : {}) };
}

/**
 * What a correction changes. Pitches that were edited are in its text: their marks go.
 * @param after the part with the correction in force
 */
export function barChanges(correction: BarCorrection, after: Part): Change[] {
  const { print, marking, barIndex } = correction;
  const mark = changeTo(marking, placeTarget(barIndex, 0), 'bar', barMark(correction));
  const now = movedNotes(print, after, barIndex);
  const inBar = new Set(print.notes.filter((note) => note.barIndex === barIndex).map(({ id }) => id));
  const gone: Change[] = [];
  const put: Change[] = [];
  for (const [key, from] of Object.entries(marking)) {
    const { target, kind } = splitKey(key);
    if (kind === 'pitch' && inBar.has(target)) gone.push({ target, kind, from, to: null });
    else if (now.has(target)) {
      gone.push({ target, kind, from, to: null });
      put.push({ target: now.get(target)!, kind, from: null, to: from });
    }
  }
  return [...(mark ? [mark] : []), ...gone, ...put];
}

/** Notes of a bar that begin elsewhere now, in order; those that are gone keep their marks without a place. */
function movedNotes(before: Part, after: Part, barIndex: number): Map<string, string> {
  const there = (part: Part) => part.notes.filter((note) => note.barIndex === barIndex);
  const [old, now] = [there(before), there(after)];
  const ids = (notes: readonly Note[]) => new Set(notes.map(({ id }) => id));
  const [oldIds, nowIds] = [ids(old), ids(now)];
  const free = now.filter(({ id }) => !oldIds.has(id));
  const moved = new Map<string, string>();
  for (const note of old) {
    if (nowIds.has(note.id)) continue;
    const at = free.findIndex((other) => other.voice === note.voice && pitchName(other.written) === pitchName(note.written));
    if (at >= 0) moved.set(note.id, free.splice(at, 1)[0]!.id);
  }
  return moved;
}
