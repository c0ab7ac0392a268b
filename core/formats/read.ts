/** Any score that a teacher may bring: MusicXML, plain or compressed, or ABC; and back into the shape that it came in. */
import { good, type Result } from '../util/result';
import { looksLikeAbc } from './abc/tune';
import { musicXmlFromAbc } from './abc/to-musicxml';
import { isZip, openContainer, packContainer } from './container';
import { encodeLike } from './encoding';
import { readMusicXml, readMusicXmlBytes, type ReadScore } from './musicxml/read';

/** Reads a file. ABC becomes MusicXML first; what its parser did not understand is among the warnings. */
export function readScoreBytes(bytes: Uint8Array): Result<ReadScore> {
  const abc = abcText(bytes);
  return abc === null ? readMusicXmlBytes(bytes) : readAbc(abc);
}

export function readAbc(text: string): Result<ReadScore> {
  const typed = musicXmlFromAbc(text);
  if (!typed.ok) return typed;
  const read = readMusicXml(typed.value.musicXml);
  if (!read.ok) return read;
  const warnings = typed.value.problems.map(({ line, column, text: what }) => ({ place: `line ${line}, column ${column}`, text: `${what}.` }));
  return good({ ...read.value, score: { ...read.value.score, warnings: [...warnings, ...read.value.score.warnings] } });
}

/** The text of a file that is ABC; null for all others. */
export function abcText(bytes: Uint8Array): string | null {
  if (isZip(bytes)) return null;
  const head = new TextDecoder('utf-8').decode(bytes.subarray(0, 4000));
  return head.trimStart().startsWith('<') || !looksLikeAbc(head) ? null : new TextDecoder('utf-8').decode(bytes);
}

/** The same file with another text for the score in it: encoding and zip as they came. ABC goes out as MusicXML. */
export function likeTheFile(text: string, bytes: Uint8Array): Uint8Array {
  if (abcText(bytes) !== null) return new TextEncoder().encode(text);
  if (!isZip(bytes)) return encodeLike(text, bytes);
  const opened = openContainer(bytes);
  if (!opened.ok) throw new Error(`a stored source cannot be unpacked: ${opened.problem.what}`);
  const { files, root } = opened.value;
  return packContainer(opened.value, encodeLike(text, files.get(root)!));
}
