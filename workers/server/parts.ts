/** Parsed parts, kept so that only the first task for a part reads it. */
import { createHash } from 'node:crypto';
import { readMusicXml, type ReadScore } from '../../core/formats/musicxml/read';
import type { Part } from '../../core/score/score';

const KEPT = 24;
const kept = new Map<string, { read: ReadScore; part: Part }>();

/** The only part of a stored document; a stored part always can be read. */
export function partFrom(music: string): { read: ReadScore; part: Part } {
  const key = createHash('sha1').update(music).digest('base64');
  const found = kept.get(key);
  if (found) {
    kept.delete(key);
    kept.set(key, found);
    return found;
  }
  const read = readMusicXml(music);
  if (!read.ok) throw new Error(`a stored part cannot be read: ${read.problem.what}`);
  const entry = { read: read.value, part: read.value.score.parts[0]! };
  kept.set(key, entry);
  if (kept.size > KEPT) kept.delete(kept.keys().next().value!);
  return entry;
}
