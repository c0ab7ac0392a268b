/** What the server does off its main thread: reading files, cutting parts, engraving, writing marked files. */
import { createHash } from 'node:crypto';
import { automaticPassages, type Passage } from '../../core/score/passages';
import type { InstrumentKind, Part, Warning } from '../../core/score/score';
import { musicXmlFromAbc } from '../../core/formats/abc/to-musicxml';
import type { AbcProblem } from '../../core/formats/abc/tune';
import { cutPart, cutPassage } from '../../core/formats/musicxml/cut';
import { applyEdits } from '../../core/formats/musicxml/edits';
import { likeTheFile, readScoreBytes } from '../../core/formats/read';
import { readMusicXml, type ReadScore } from '../../core/formats/musicxml/read';
import { markEdits, type WriteOptions } from '../../core/formats/musicxml/write';
import type { Marking } from '../../core/marking/mark';
import { bad, good, type Result } from '../../core/util/result';
import { engrave, type Engraving } from './engraver';

export interface ReadPart {
  filePartId: string;
  name: string;
  instrument: InstrumentKind | null;
  bars: number;
  notes: number;
  barLabels: string[];
  music: string;
  passages: Passage[];
}

export interface ReadFile {
  title: string;
  composer: string | null;
  warnings: Warning[];
  parts: ReadPart[];
}

/** Reads a file whole: nothing is stored unless all of it can be read. */
export function readFile({ bytes }: { bytes: Uint8Array }): Result<ReadFile> {
  const read = readScoreBytes(bytes);
  if (!read.ok) return read;
  const { score, document } = read.value;
  const parts = score.parts
    .filter((part) => part.notes.length > 0)
    .map((part) => ({
      filePartId: part.id,
      name: part.name,
      instrument: part.instrument,
      bars: part.bars.length,
      notes: part.notes.filter((note) => !note.cue).length,
      barLabels: part.bars.map((bar) => bar.label),
      music: cutPart(document, part.id),
      passages: automaticPassages(part),
    }));
  if (parts.every((part) => part.instrument === null)) {
    return bad(
      score.parts.map((part) => part.name).join(', '),
      'The file has no part for violin, viola, cello or double bass.',
      'Name the part after its instrument, or choose another file.',
    );
  }
  return good({ title: score.title, composer: score.composer, warnings: score.warnings, parts });
}

export interface TypedPassage {
  title: string;
  parts: Array<Pick<ReadPart, 'name' | 'instrument' | 'bars' | 'notes'>>;
  /** What was not understood, with line and column. */
  problems: AbcProblem[];
  warnings: Warning[];
  /** Null where the engraver could not draw it. */
  engraving: Engraving | null;
}

/** A typed passage, read and engraved. */
export async function readTyped({ abc, widthPx }: { abc: string; widthPx: number }): Promise<Result<TypedPassage>> {
  const typed = musicXmlFromAbc(abc);
  if (!typed.ok) return typed;
  const read = readMusicXml(typed.value.musicXml);
  if (!read.ok) return read;
  const { score, document } = read.value;
  const engraving = await engrave(document.text, widthPx).catch(() => null);
  return good({
    title: score.title,
    parts: score.parts.map(({ name, instrument, bars, notes }) => ({ name, instrument, bars: bars.length, notes: notes.length })),
    problems: typed.value.problems,
    warnings: score.warnings,
    engraving,
  });
}

/** Loads the engraver, so that the first page need not wait for it. */
export async function warmUp(): Promise<void> {
  await engrave(
    '<score-partwise version="4.0"><part-list><score-part id="P1"><part-name/></score-part></part-list><part id="P1"><measure number="1"><attributes><divisions>1</divisions></attributes><note><pitch><step>A</step><octave>4</octave></pitch><duration>4</duration><type>whole</type></note></measure></part></score-partwise>',
    720,
  );
}

export interface EngraveTask {
  music: string;
  marking: Marking;
  fromBar: number;
  toBar: number;
  widthPx: number;
}

const KEPT = 24;
const kept = new Map<string, { read: ReadScore; part: Part }>();

/** Parsed parts are kept, the latest ones, so that only the first engraving of a part reads it. */
function partFrom(music: string): { read: ReadScore; part: Part } {
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

export async function engravePassage({ music, marking, fromBar, toBar, widthPx }: EngraveTask): Promise<Engraving> {
  const { read, part } = partFrom(music);
  return engrave(cutPassage(read.document, part, marking, { fromBar, toBar }), widthPx);
}

export interface MarkedTask {
  bytes: Uint8Array;
  /** Marks by the part's id in the file. */
  markings: Readonly<Record<string, Marking>>;
  options: WriteOptions;
}

/** The file as it came in, with the marks of one or more parts. */
export function markedFile({ bytes, markings, options }: MarkedTask): Uint8Array {
  const read = readScoreBytes(bytes);
  if (!read.ok) throw new Error(`a stored source cannot be read: ${read.problem.what}`);
  const { document, score } = read.value;
  const edits = score.parts.flatMap((part) => (markings[part.id] ? markEdits(document, part, markings[part.id]!, options) : []));
  return likeTheFile(applyEdits(document.text, edits), bytes);
}
