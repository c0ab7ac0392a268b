/** What the server does off its main thread: reading files, cutting parts, engraving, writing marked files. */
import { automaticPassages, type Passage } from '../../core/score/passages';
import type { InstrumentKind, Part, Warning } from '../../core/score/score';
import { isZip, newContainer } from '../../core/formats/raw/container';
import { musicXmlFromAbc } from '../../core/formats/abc/to-musicxml';
import type { AbcProblem } from '../../core/formats/abc/tune';
import { corrected, correctedPart } from '../../core/formats/musicxml/corrected';
import { cutPassage, forEngraver } from '../../core/formats/musicxml/cut';
import { partDocument } from '../../core/formats/musicxml/part-document';
import { outOfBounds } from '../../core/formats/musicxml/bounds';
import { applyEdits } from '../../core/formats/musicxml/edits';
import { likeTheFile, readScoreBytes } from '../../core/formats/read';
import { readMusicXml, type MusicXmlDocument } from '../../core/formats/musicxml/read';
import { withMarks, type WriteOptions } from '../../core/formats/musicxml/write';
import { marksFile } from '../../core/formats/marks-file';
import { midiFile } from '../../core/formats/midi';
import { toldOrGuessed } from '../../core/instruments/play-on';
import { asTold, type Told } from '../../core/instruments/as-told';
import { lostTarget } from '../../core/editions/anchor';
import { markInWords } from '../../core/marking/in-words';
import { splitKey, type Marking } from '../../core/marking/mark';
import { placeOfTarget } from '../../core/marking/notes';
import { editedPart } from '../../core/marking/print-edits';
import { childText } from '../../core/formats/raw/xml';
import { LIMITS } from '../../core/util/limits';
import { good, type Result } from '../../core/util/result';
import { titleText } from '../../core/util/text';
import { engrave, type Engraving } from './engraver';
import { partFrom } from './parts';

export { checkPart } from './check-part';
export { carryOver, compareEditions, likestPart } from './editions';
export { printParts } from './paper';
export { joinPdfs } from './pdf';
export { printStrips } from './strips';
export { changedForReader, engraveStand, targetsOnNext } from './stand';

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
  const warnings = [...heldBack(document), ...score.warnings].slice(0, LIMITS.warnings);
  const parts = score.parts
    .filter((part) => part.notes.length > 0)
    .map((part) => ({
      filePartId: part.id,
      name: part.name,
      instrument: part.instrument,
      bars: part.bars.length,
      notes: part.notes.filter((note) => !note.cue).length,
      barLabels: part.bars.map((bar) => bar.label),
      music: partDocument(document, part.id, score.timeLine),
      passages: automaticPassages(part),
    }));
  return good({ title: score.title, composer: score.composer, warnings, parts });
}

/** What the engraver will not be given as it stands, by part and bar. */
function heldBack(document: MusicXmlDocument): Warning[] {
  return document.parts.flatMap(({ id, scorePart, measures }) => {
    const name = titleText(childText(scorePart, 'part-name') ?? '', LIMITS.title) || id;
    return measures.flatMap((measure) =>
      outOfBounds(document.text, measure)
        .filter(({ what }) => what !== '')
        .map(({ what, drawn }) => ({
          place: `${name}, bar ${titleText(measure.attributes.number ?? '', LIMITS.barLabel)}`,
          text: `${what} is ${drawn}; the file keeps it as it is.`,
        })),
    );
  });
}

export interface TypedPassage {
  title: string;
  parts: Array<Pick<ReadPart, 'name' | 'instrument' | 'bars' | 'notes'>>;
  /** What was not understood, with line and column. */
  problems: AbcProblem[];
  warnings: Warning[];
  /** Its first bars; null where the engraver could not draw them. */
  engraving: Engraving | null;
  /** How many bars are engraved; a long text is taken in whole all the same. */
  barsEngraved: number;
}

/** A typed passage, read and engraved. */
export async function readTyped({ abc, widthPx }: { abc: string; widthPx: number }): Promise<Result<TypedPassage>> {
  const typed = musicXmlFromAbc(abc);
  if (!typed.ok) return typed;
  const read = readMusicXml(typed.value.musicXml);
  if (!read.ok) return read;
  const { score, document } = read.value;
  const shown = Math.min(TYPED_BARS, ...score.parts.map(({ bars }) => bars.length));
  const engraving = await engrave(firstBars(document, shown), widthPx).catch(() => null);
  return good({
    title: score.title,
    parts: score.parts.map(({ name, instrument, bars, notes }) => ({ name, instrument, bars: bars.length, notes: notes.length })),
    problems: typed.value.problems,
    warnings: score.warnings,
    engraving,
    barsEngraved: shown,
  });
}

/** Bars of a typed passage that are engraved while it is typed. */
const TYPED_BARS = 24;

function firstBars(document: MusicXmlDocument, count: number): string {
  const edits = document.parts.flatMap(({ measures }) => measures.slice(count).map(({ start, end }) => ({ start, end, text: '' })));
  return forEngraver(applyEdits(document.text, edits));
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
  /** Drawn as it sounds, moved by octaves: for a part that is played on another instrument than it is written for. */
  concert?: boolean;
  octaves?: number;
}

export async function engravePassage({ music, marking, fromBar, toBar, widthPx, concert = false, octaves = 0 }: EngraveTask): Promise<Engraving> {
  const { read } = corrected(partFrom(music).read, { [partFrom(music).part.id]: marking });
  return engrave(cutPassage(read.document, read.score.parts[0]!, marking, { fromBar, toBar }), widthPx, { concert, octaves });
}

export interface MarkedTask {
  bytes: Uint8Array;
  /** Marks by the part's id in the file. */
  markings: Readonly<Record<string, Marking>>;
  options: WriteOptions & { compressed?: boolean };
}

/** A mark that the file has no place for. */
export interface Unplaced {
  /** The part's id in the file. */
  filePartId: string;
  /** Where it stands or stood, as far as that can be said. */
  at: string;
  /** What it says. */
  what: string;
}

export interface MarkedOutput {
  bytes: Uint8Array;
  unplaced: Unplaced[];
}

/** The file as it came in, with the marks of one or more parts; and those that stand nowhere in it. */
export function markedFile({ bytes, markings, options }: MarkedTask): MarkedOutput {
  const read = readScoreBytes(bytes);
  if (!read.ok) throw new Error(`a stored source cannot be read: ${read.problem.what}`);
  const { read: now, unplaced: lost } = corrected(read.value, markings);
  const { document, score } = now;
  const marked = score.parts.flatMap((part) => (markings[part.id] ? [{ part, ...withMarks(document, part, markings[part.id]!, options) }] : []));
  const edits = marked.flatMap((each) => each.edits);
  const unplaced = marked.flatMap(({ part, unplaced: keys }) =>
    [...(lost[part.id] ?? []), ...keys].map((key) => unplacedIn(part, key, markings[part.id]![key]!.value)),
  );
  const lostParts = Object.keys(markings).filter((id) => !score.parts.some((part) => part.id === id));
  if (lostParts.length) throw new Error(`a stored source has no part ${lostParts.join(', ')}`);
  const file = likeTheFile(applyEdits(document.text, edits), bytes);
  return { bytes: options.compressed && !isZip(bytes) ? newContainer(file) : file, unplaced };
}

function unplacedIn(part: Part, key: string, value: string): Unplaced {
  const { target, kind } = splitKey(key);
  const lost = lostTarget(target);
  return { filePartId: part.id, at: lost?.at ?? placeOfTarget(part, target)?.at ?? '', what: markInWords(kind, value) };
}

interface PartInput {
  music: string;
  marking: Marking;
  told: Told;
}

/** The part as the coach says it is played. */
function played(music: string, marking: Marking, told: Told): Part {
  const part = correctedPart(partFrom(music).read, marking);
  return asTold(part, toldOrGuessed(part, told));
}

/** The part as it is played, with the edits in force. */
export function midi({ title, music, marking, told }: PartInput & { title: string }): Uint8Array {
  return midiFile(title, [editedPart(played(music, marking, told), marking)]);
}

/** The marks alone, as text of a JSON file. */
export function marksAlone({ music, marking, told }: PartInput): string {
  return `${JSON.stringify(marksFile(played(music, marking, told), marking), null, 2)}\n`;
}
