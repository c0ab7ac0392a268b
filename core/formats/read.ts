/** Any score that a teacher may bring: MusicXML, plain or compressed, or ABC; and back into the shape that it came in. */
import { bad, good, type Result } from '../util/result';
import { looksLikeAbc } from './abc/tune';
import { musicXmlFromAbc } from './abc/to-musicxml';
import { isZip, openContainer, packContainer } from './raw/container';
import { encodeLike } from './raw/encoding';
import { readMusicXml, readMusicXmlBytes, type ReadScore } from './musicxml/read';
import { isHeif, paperType } from './paper';

/** Reads a file. ABC becomes MusicXML first; what its parser did not understand is among the warnings. */
export function readScoreBytes(bytes: Uint8Array): Result<ReadScore> {
  const other = notAScore(bytes);
  if (other) return other;
  const abc = abcText(bytes);
  return abc === null ? readMusicXmlBytes(bytes) : readAbc(abc);
}

/** Files that people bring and that hold no notes that can be read; each with what to do instead. */
function notAScore(bytes: Uint8Array): Result<never> | null {
  const begins = (...start: number[]) => start.every((byte, i) => bytes[i] === byte);
  const paper = paperType(bytes);
  const remedy = 'Lay it beside the bars that you need with "Type a passage", or export MusicXML from the program that made it.';
  if (paper === 'application/pdf') return bad('the file', 'This is a PDF: a picture of the page, without its notes.', remedy);
  const picture = 'This is a photograph or picture: its notes cannot be read.';
  if (isHeif(bytes)) return bad('the file', picture, 'Save it as JPEG, which browsers show; then lay it beside the bars that you need with "Type a passage".');
  if (paper) return bad('the file', picture, remedy);
  if (begins(0x4d, 0x54, 0x68, 0x64))
    return bad('the file', 'This is a MIDI file: it has sounds and no notation.', 'Open it in a notation program, and export MusicXML from there.');
  return null;
}

export function readAbc(text: string): Result<ReadScore> {
  const typed = musicXmlFromAbc(text);
  if (!typed.ok) return typed;
  const read = readMusicXml(typed.value.musicXml);
  if (!read.ok) return read;
  const warnings = typed.value.problems.map(({ line, column, text: what }) => ({ place: `line ${line}, column ${column}`, text: `${what}.` }));
  return good({ ...read.value, score: { ...read.value.score, warnings: [...warnings, ...read.value.score.warnings] } });
}

/** Bytes that tell what a file is: collections have words before their first tune. */
const HEAD_BYTES = 64_000;

/** The text of a file that is ABC; null for all others. */
export function abcText(bytes: Uint8Array): string | null {
  if (isZip(bytes)) return null;
  const head = new TextDecoder('utf-8').decode(bytes.subarray(0, HEAD_BYTES));
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
