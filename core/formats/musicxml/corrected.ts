/**
 * A score with its notes corrected, as if it had been printed so: rhythm, rests, ties, notes more or less, and clefs. The marks that say
 * so are put into the text, which is read anew; whatever is asked of the part afterwards knows nothing of the correction. Every note that
 * is as it was keeps its id and its signs.
 */
import { accidentalStates } from '../../score/accidentals';
import { barVoices, fillProblem, filled, parseBarText, type BarVoice } from '../../score/bar-text';
import { feltBeat } from '../../score/beat';
import { parseClef, STRING_CLEFS, type ClefAsked } from '../../score/clef';
import { pitchName } from '../../score/pitch';
import type { Note, Part } from '../../score/score';
import { TICKS_PER_QUARTER } from '../../score/ticks';
import { correctionsOf, corrects } from '../../marking/corrections';
import { splitKey, type Marking } from '../../marking/mark';
import { targetOf } from '../../marking/target';
import { child, type XmlElement } from '../raw/xml';
import type { Correction } from './correction';
import { cueEdits } from './cues';
import { correctedBar, type BarToCorrect, type CorrectedBar } from './correct-bar';
import { applyEdits, type TextEdit } from './edits';
import { insertion } from './layout';
import { readPartDocument, withBarLengths } from './part-document';
import { accidentalEdits } from './print-out';
import type { MusicXmlDocument, ReadScore } from './read';
import { divisionsAtStart, divisionsBefore, lastDivisions, spotAt } from './spot';
import { noteElements } from './write';

export interface Corrected {
  read: ReadScore;
  /** Keys of corrections in force that the file has no place for, by part. */
  unplaced: Readonly<Record<string, readonly string[]>>;
}

/** Marks by the part's id in the file. */
type Markings = Readonly<Record<string, Marking>>;

const kept = new WeakMap<ReadScore, { said: string; corrected: Corrected }>();

/** The very same score where nothing is corrected. */
export function corrected(read: ReadScore, markings: Markings): Corrected {
  const wanted = Object.entries(markings).filter(([, marking]) => corrects(marking));
  if (wanted.length === 0) return { read, unplaced: {} };
  const said = JSON.stringify(wanted.map(([id, marking]) => [id, correctionsOf(marking)]));
  const before = kept.get(read);
  if (before?.said === said) return before.corrected;
  const unplaced: Record<string, string[]> = {};
  const lose = (id: string) => (key: string) => void (unplaced[id] ??= []).push(key);
  const bars = new Map<string, Set<number>>();
  const rewritten = reread(read, wanted, (now, id, marking) => barsEdits(now, id, correctionsIn(marking, 'bar'), lose(id), bars));
  const signed = reread(rewritten, wanted, (now, id, marking) => [
    ...signsEdits(now, partIn(read, id), id, bars.get(id) ?? new Set()),
    ...clefEdits(now, id, correctionsIn(marking, 'clef'), lose(id)),
    ...cueEdits(now.document.text, partIn(now, id), measuresIn(now.document, id), correctionsIn(marking, 'cue'), lose(id)),
  ]);
  const result = { read: signed, unplaced };
  kept.set(read, { said, corrected: result });
  return result;
}

/** The only part of a document of its own, as it is corrected. */
export function correctedPart(read: ReadScore, marking: Marking): Part {
  const [part] = read.score.parts;
  return corrected(read, { [part!.id]: marking }).read.score.parts[0]!;
}

function correctionsIn(marking: Marking, wanted: 'bar' | 'clef' | 'cue'): Correction[] {
  return Object.entries(marking)
    .flatMap(([key, { value, off }]) => {
      const { target, kind } = splitKey(key);
      const at = targetOf(target);
      return kind === wanted && !off && at.on === 'place' ? [{ key, barIndex: at.barIndex, tick: at.tick, value }] : [];
    })
    .sort((a, b) => a.barIndex - b.barIndex || a.tick - b.tick);
}

interface WantedBar {
  /** Null for a bar beside a corrected one. */
  key: string | null;
  voices: BarVoice[];
}

interface PartEdits {
  edits: TextEdit[];
  /** Bars that are of another length now, in ticks. */
  lengths?: ReadonlyMap<number, number>;
}

function reread(
  read: ReadScore,
  wanted: ReadonlyArray<[id: string, marking: Marking]>,
  editsOf: (read: ReadScore, id: string, marking: Marking) => TextEdit[] | PartEdits,
): ReadScore {
  const made = wanted.map(([id, marking]) => editsOf(read, id, marking)).map((each) => (Array.isArray(each) ? { edits: each } : each));
  const edits = made.flatMap((each) => each.edits);
  if (edits.length === 0) return read;
  const lengths = new Map(made.flatMap((each) => [...((each as PartEdits).lengths ?? [])]));
  const now = readPartDocument(withBarLengths(applyEdits(read.document.text, edits), lengths));
  if (!now.ok) throw new Error(`a corrected score cannot be read: ${now.problem.what}`);
  return now.value;
}

const partIn = (read: ReadScore, id: string): Part | undefined => read.score.parts.find((part) => part.id === id);
const measuresIn = (document: MusicXmlDocument, id: string): readonly XmlElement[] => document.parts.find((part) => part.id === id)?.measures ?? [];

/** New content for the corrected bars, and for a bar beside one where a tie to or from it has changed. */
function barsEdits(read: ReadScore, id: string, corrections: readonly Correction[], lose: (key: string) => void, done: Map<string, Set<number>>): PartEdits {
  const part = partIn(read, id);
  const measures = measuresIn(read.document, id);
  const wanted = new Map<number, WantedBar>();
  for (const { key, barIndex, tick, value } of corrections) {
    const said = parseBarText(value);
    const bar = part?.bars[barIndex];
    if (!bar || tick !== 0 || !said.ok || fillProblem(said.value, bar) !== null) lose(key);
    else wanted.set(barIndex, { key, voices: said.value });
  }
  if (!part || wanted.size === 0) return { edits: [] };
  withTiesBefore(part, wanted);
  const edits: TextEdit[] = [];
  const lengths = new Map<number, number>();
  const bars = new Set<number>();
  let tiedOut: ReadonlyMap<string, ReadonlySet<string>> | null = null;
  let inForce: number | null = null;
  let before = 1;
  for (let barIndex = 0; barIndex < measures.length; barIndex++) {
    const measure = measures[barIndex]!;
    const bar = part.bars[barIndex]!;
    const divisions = divisionsAtStart(measure) ?? before;
    const asked: WantedBar | null = wanted.get(barIndex) ?? (tiedOut && tiesDiffer(part, barIndex, tiedOut) ? printedBar(part, barIndex) : null);
    const around: Omit<BarToCorrect, 'voices' | 'whole' | 'tiedIn'> = {
      text: read.document.text,
      measure,
      divisions,
      inForce: inForce ?? before,
      beat: feltBeat(bar),
      into: bar.into,
    };
    before = lastDivisions(measure) ?? divisions;
    const made: CorrectedBar | null = asked && correctedBar({ ...around, voices: asked.voices, whole: bar.ticks, tiedIn: tiedOut });
    if (asked && !made && asked.key !== null) lose(asked.key);
    if (!asked || !made) {
      if (inForce !== null && inForce !== divisions && measure.children.length > 0) edits.push(...divisionsSaid(measure, divisions));
      if (measure.children.length > 0) inForce = null;
      tiedOut = null;
      continue;
    }
    edits.push(...withContent(read.document.text, measure, `\n${made.content}\n`));
    const ticks = Math.round(filled(asked.voices[0]!, bar.ticks));
    if (Math.abs(ticks - bar.ticks) >= 1) lengths.set(barIndex, ticks);
    bars.add(barIndex);
    tiedOut = made.tiedOut;
    inForce = made.divisions;
  }
  done.set(id, bars);
  return { edits, lengths };
}

/** An empty element may be one tag alone: it is opened. */
function withContent(text: string, measure: XmlElement, content: string): TextEdit[] {
  if (measure.closeStart === measure.openEnd) return insertion(text, measure, content, '');
  return [{ start: measure.openEnd, end: measure.closeStart, text: content }];
}

function divisionsSaid(measure: XmlElement, divisions: number): TextEdit[] {
  const first = measure.children[0]!;
  if (first.name === 'attributes' && child(first, 'divisions')) return [];
  return [{ start: first.start, end: first.start, text: `<attributes><divisions>${divisions}</divisions></attributes>` }];
}

const printedBar = (part: Part, barIndex: number): WantedBar | null => {
  const voices = barVoices(part, barIndex);
  return voices.ok ? { key: null, voices: voices.value } : null;
};

/** Written pitches of a voice's note at the beginning of a bar that are tied to the bar before. */
const tiedFromBefore = (part: Part, barIndex: number): Map<string, Set<string>> => {
  const tied = new Map<string, Set<string>>();
  for (const note of part.notes)
    if (note.barIndex === barIndex && note.tick === 0 && note.tiedFrom) tied.set(note.voice, (tied.get(note.voice) ?? new Set()).add(pitchName(note.written)));
  return tied;
};

function tiesDiffer(part: Part, barIndex: number, tiedOut: ReadonlyMap<string, ReadonlySet<string>>): boolean {
  const printed = tiedFromBefore(part, barIndex);
  return [...tiedOut].some(([voice, pitches]) => {
    const there = printed.get(voice) ?? new Set<string>();
    return there.size !== pitches.size || [...pitches].some((pitch) => !there.has(pitch));
  });
}

/** A bar before a corrected one loses the tie that led to a note which is not there any more. */
function withTiesBefore(part: Part, wanted: Map<number, WantedBar>): void {
  for (const [barIndex, { voices }] of [...wanted]) {
    if (barIndex === 0 || wanted.has(barIndex - 1)) continue;
    const tied = tiedFromBefore(part, barIndex);
    const lost = voices.filter(({ voice, events }) => {
      const first = events.find(({ what }) => what !== 'grace');
      const there = new Set(first?.heads.map(({ pitch }) => pitchName(pitch)));
      return [...(tied.get(voice) ?? [])].some((pitch) => !there.has(pitch));
    });
    const before = lost.length ? printedBar(part, barIndex - 1) : null;
    if (!before) continue;
    const names = new Set(lost.map(({ voice }) => voice));
    wanted.set(barIndex - 1, {
      key: null,
      voices: before.voices.map((each) =>
        names.has(each.voice)
          ? {
              ...each,
              events: each.events.map((event, i) =>
                i === each.events.length - 1 ? { ...event, heads: event.heads.map((head) => ({ ...head, tied: false })) } : event,
              ),
            }
          : each,
      ),
    });
  }
}

/** Signs that became necessary in the bars that were written anew. A file that leaves out signs is not completed. */
function signsEdits(read: ReadScore, print: Part | undefined, id: string, bars: ReadonlySet<number>): TextEdit[] {
  const part = partIn(read, id);
  if (!part || !print || bars.size === 0) return [];
  const without = (of: Part) => {
    const states = accidentalStates(of);
    return of.notes.filter((note) => bars.has(note.barIndex) && !note.accidental && states.get(note.id)!.needed);
  };
  const named = ({ barIndex, voice, written }: Note) => `${barIndex} ${voice} ${pitchName(written)}`;
  const leftOut = new Set(without(print).map(named));
  const elements = noteElements(read.document, id);
  return without(part)
    .filter((note) => !leftOut.has(named(note)))
    .flatMap((note) => accidentalEdits(read.document.text, elements[note.source]!, note, { accidental: { alter: note.written.alter, courtesy: false } }));
}

function clefEdits(read: ReadScore, id: string, corrections: readonly Correction[], lose: (key: string) => void): TextEdit[] {
  const part = partIn(read, id);
  const measures = measuresIn(read.document, id);
  return corrections.flatMap(({ key, barIndex, tick, value }): TextEdit[] => {
    const asked = parseClef(value);
    const edit = part && asked && clefEdit(part, measures, { barIndex, tick }, asked);
    if (!edit) lose(key);
    return edit ? [edit] : [];
  });
}

function clefEdit(
  part: Part,
  measures: readonly XmlElement[],
  { barIndex, tick }: { barIndex: number; tick: number },
  { name, staff }: ClefAsked,
): TextEdit | null {
  const { sign, line, octave } = STRING_CLEFS[name];
  const several = part.notes.some((note) => note.staff > 1);
  const xml = `<clef${several ? ` number="${staff}"` : ''}><sign>${sign}</sign><line>${line}</line>${octave ? `<clef-octave-change>${octave}</clef-octave-change>` : ''}</clef>`;
  if (!measures[barIndex]) return null;
  const there = clefAt(measures[barIndex], tick, staff, divisionsAtStart(measures[barIndex]!) ?? divisionsBefore(measures, barIndex));
  if (there) return { start: there.start, end: there.end, text: xml };
  const spot = spotAt(measures, part, barIndex, tick);
  if (!spot || spot.where !== 'before' || spot.offset !== 0) return null;
  return { start: spot.element.start, end: spot.element.start, text: `<attributes>${xml}</attributes>` };
}

/** The printed clef of a staff at a place. */
function clefAt(measure: XmlElement | undefined, tick: number, staff: number, divisions: number): XmlElement | null {
  let at = 0;
  for (const element of measure?.children ?? []) {
    if (element.name === 'attributes' && Math.abs((at * TICKS_PER_QUARTER) / divisions - tick) < 0.5) {
      const clef = element.children.find((each) => each.name === 'clef' && Number(each.attributes.number ?? '1') === staff);
      if (clef) return clef;
    }
    const lasts = Number(child(element, 'duration')?.text ?? 0);
    if (element.name === 'note' && !child(element, 'chord') && !child(element, 'grace')) at += lasts;
    else if (element.name === 'forward') at += lasts;
    else if (element.name === 'backup') at -= lasts;
  }
  return null;
}
