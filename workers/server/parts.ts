/** Parsed parts, kept so that only the first task for a part reads it. */
import { createHash } from 'node:crypto';
import { ByteCache } from '../../core/util/byte-cache';
import { readPartDocument } from '../../core/formats/musicxml/part-document';
import type { ReadScore } from '../../core/formats/musicxml/read';
import type { Part } from '../../core/score/score';

/** The tree of a part takes about this many bytes for each letter of its text (measured). */
const BYTES_PER_LETTER = 30;
const kept = new ByteCache<{ read: ReadScore; part: Part }>(160 * 1024 * 1024);

/** The only part of a stored document; a stored part always can be read. */
export function partFrom(music: string): { read: ReadScore; part: Part } {
  const key = createHash('sha1').update(music).digest('base64');
  const found = kept.get(key);
  if (found) return found;
  const read = readPartDocument(music);
  if (!read.ok) throw new Error(`a stored part cannot be read: ${read.problem.what}`);
  const entry = { read: read.value, part: read.value.score.parts[0]! };
  kept.set(key, entry, music.length * BYTES_PER_LETTER);
  return entry;
}
