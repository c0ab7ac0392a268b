/**
 * Edits against the print: the part as the coach wants it read. The score stays as it is; this makes a second one from
 * the marks, with the same note ids. Slurs are the bow's (see links.ts) and are not among them.
 */
import { accidentalStates } from '../score/accidentals';
import { levelOf } from '../score/dynamics';
import { paceOf } from '../score/pace';
import { fromTheStart } from '../score/time';
import { letterIndex, midiOf, parsePitch, transposed } from '../score/pitch';
import { WRITABLE_ARTICULATIONS, type DynamicMark, type Hairpin, type Note, type PaceMark, type Part, type TempoMark } from '../score/score';
import { noteValueNamed } from '../util/terms';
import { markAt, splitKey, type Mark, type Marking } from './mark';
import { articulationKind, isEditKind, type EditKind } from './kinds';
import { DIVISI_WORDS, parseHairpin, STRUCK } from './values';
import { targetOf } from './target';

export interface PrintEdit {
  target: string;
  kind: EditKind;
  mark: Mark;
}

/** All edits of a marking, those set aside too. */
export function printEdits(marking: Marking): PrintEdit[] {
  const edits: PrintEdit[] = [];
  for (const [key, mark] of Object.entries(marking)) {
    const { target, kind } = splitKey(key);
    if (isEditKind(kind)) edits.push({ target, kind, mark });
  }
  return edits;
}

/** A marking without changes against the print, slurs among them: what is left when the print is shown. */
export function withoutPrintEdits(marking: Marking): Marking {
  const kept = Object.entries(marking).filter(([key]) => {
    const { kind } = splitKey(key);
    return !isEditKind(kind) && kind !== 'slur';
  });
  return kept.length === Object.keys(marking).length ? marking : Object.fromEntries(kept);
}

const kept = new WeakMap<Marking, { part: Part; edited: Part }>();

/** The part with the edits in force; the very same part where there are none. */
export function editedPart(part: Part, marking: Marking): Part {
  const before = kept.get(marking);
  if (before?.part === part) return before.edited;
  const edits = printEdits(marking).filter((edit) => !edit.mark.off);
  const paces = pacesIn(marking);
  const edited = edits.length || paces.length ? sameEdits(part, edits, paces) : part;
  kept.set(marking, { part, edited });
  return edited;
}

/** The last edited form of a part: while only fingers and bows change it stays the very same, and so does what is worked out from it. */
const lastEdited = new WeakMap<Part, { edits: string; edited: Part }>();

type PaceAt = readonly [noteId: string, value: string];

/** How the tempo is meant, by note. */
const pacesIn = (marking: Marking): PaceAt[] =>
  Object.entries(marking).flatMap(([key, mark]): PaceAt[] => {
    const { target, kind } = splitKey(key);
    return kind === 'pace' && !mark.off ? [[target, mark.value]] : [];
  });

function sameEdits(part: Part, edits: readonly PrintEdit[], paces: readonly PaceAt[]): Part {
  const said = JSON.stringify([edits, paces]);
  const last = lastEdited.get(part);
  if (last?.edits === said) return last.edited;
  const edited = withPaces(applied(part, edits), paces);
  lastEdited.set(part, { edits: said, edited });
  return edited;
}

function withPaces(part: Part, paces: readonly PaceAt[]): Part {
  if (paces.length === 0) return part;
  const said = new Map(paces);
  const pace = part.notes.flatMap(({ id, onset, duration }): PaceMark[] => {
    const meant = said.has(id) ? paceOf(said.get(id)!) : null;
    return meant ? [{ tick: onset, endTick: onset + duration, pace: meant }] : [];
  });
  return { ...part, pace };
}

function applied(part: Part, edits: readonly PrintEdit[]): Part {
  const byNote = new Map<string, PrintEdit[]>();
  const result = { ...part };
  for (const edit of edits) {
    const target = targetOf(edit.target);
    if (target.on === 'note') byNote.set(target.id, [...(byNote.get(target.id) ?? []), edit]);
    const bar = target.on === 'place' ? part.bars[target.barIndex] : undefined;
    if (bar && target.on === 'place') editPlace(result, part, edit, bar.onset + target.tick);
  }
  if (byNote.size === 0) return result;
  result.notes = part.notes.map((note) => (byNote.has(note.id) ? editedNote(note, byNote.get(note.id)!) : note));
  const said = new Set([...byNote].filter(([, list]) => list.some((edit) => edit.kind === 'accidental')).map(([id]) => id));
  const moved = new Set([...byNote].filter(([, list]) => list.some((edit) => edit.kind === 'pitch')).map(([id]) => id));
  if (moved.size) result.notes = withSigns(part, result, moved, said);
  return result;
}

/**
 * After pitches were edited: signs that became necessary are put, those that became needless are taken away, in the bars
 * concerned. Reminders of the print stay, and what the coach said about a sign stands.
 */
function withSigns(print: Part, edited: Part, moved: ReadonlySet<string>, said: ReadonlySet<string>): Note[] {
  const bars = new Set(edited.notes.filter((note) => moved.has(note.id)).map((note) => note.barIndex));
  const before = accidentalStates(print);
  const after = accidentalStates({
    ...edited,
    notes: edited.notes.map((note) => (moved.has(note.id) && !said.has(note.id) ? { ...note, accidental: null } : note)),
  });
  return edited.notes.map((note) => {
    if (!bars.has(note.barIndex) || said.has(note.id)) return note;
    const needed = after.get(note.id)!.needed;
    const reminder = note.accidental !== null && !moved.has(note.id) && !before.get(note.id)!.needed;
    const accidental =
      reminder || (needed && note.accidental?.alter === note.written.alter) ? note.accidental : needed ? { alter: note.written.alter, courtesy: false } : null;
    return accidental === note.accidental ? note : { ...note, accidental };
  });
}

function editedNote(note: Note, edits: readonly PrintEdit[]): Note {
  let edited = note;
  for (const { kind, mark } of edits) {
    if (kind === 'pitch') {
      const written = parsePitch(mark.value);
      if (!written) continue;
      const letters = letterIndex(note.pitch) - letterIndex(note.written);
      edited = { ...edited, written, pitch: transposed(written, letters, midiOf(note.pitch) - midiOf(note.written)) };
    } else if (kind === 'accidental') {
      const accidental = mark.value === STRUCK ? null : { alter: edited.written.alter, courtesy: mark.value === 'bracket' };
      edited = { ...edited, accidental };
    } else {
      const name = WRITABLE_ARTICULATIONS.find((candidate) => articulationKind(candidate) === kind);
      if (!name) continue;
      const others = edited.articulations.filter((articulation) => articulation !== name);
      edited = { ...edited, articulations: mark.value === STRUCK ? others : [...others, name] };
    }
  }
  return edited;
}

function editPlace(result: Part, print: Part, { kind, mark }: PrintEdit, tick: number): void {
  const { value } = mark;
  switch (kind) {
    case 'dynamic': {
      const level = levelOf(value);
      const added: DynamicMark[] = level === undefined ? [] : [{ tick, text: value, level }];
      result.dynamics = inOrder([...result.dynamics.filter((other) => other.tick !== tick), ...added]);
      return;
    }
    case 'text':
      result.words = inOrder([...result.words, { tick, text: value }]);
      return;
    case 'divisi':
      result.words = inOrder([...result.words, { tick, text: DIVISI_WORDS[value] ?? value }]);
      return;
    case 'printed-text':
      result.words = result.words.filter((word) => word.tick !== tick || word.source === undefined);
      return;
    case 'tempo': {
      const { words, quartersPerMinute, printed } = parseTempo(value);
      if (value !== STRUCK && words) result.words = inOrder([...result.words, { tick, text: words }]);
      const added: TempoMark[] = value === STRUCK || quartersPerMinute === null ? [] : [{ tick, quartersPerMinute, printed }];
      const others = result.tempi.filter((other) => other.tick !== tick && !other.carried);
      result.tempi = fromTheStart([...others, ...added]);
      return;
    }
    case 'hairpin': {
      const wanted = parseHairpin(value);
      const end = wanted && print.bars[wanted.toBar];
      const added: Hairpin[] = wanted && end && end.onset + wanted.toTick > tick ? [{ kind: wanted.kind, from: tick, to: end.onset + wanted.toTick }] : [];
      result.hairpins = [...result.hairpins.filter((other) => other.from !== tick), ...added].sort((a, b) => a.from - b.from);
      return;
    }
  }
}

const inOrder = <T extends { tick: number }>(marks: T[]): T[] => marks.sort((a, b) => a.tick - b.tick);

export interface TempoText {
  /** "Andante"; empty where only a number is said. */
  words: string;
  unit: string;
  dotted: boolean;
  perMinute: number | null;
  quartersPerMinute: number | null;
  printed: string | null;
}

const QUARTERS: Readonly<Record<string, number>> = { whole: 4, half: 2, quarter: 1, eighth: 0.5 };

/** Note values in British terms too. @example `parseTempo('Andante, dotted quarter = 60').quartersPerMinute === 90` */
export function parseTempo(text: string): TempoText {
  const match = /^(.*?),?\s*(?:\(?\s*(dotted\s+)?(whole|half|quarter|eighth|semibreve|minim|crotchet|quaver)?\s*=\s*(\d+(?:\.\d+)?)\s*\)?)?$/i.exec(
    text.trim(),
  );
  const perMinute = match?.[4] ? Number(match[4]) : null;
  const unit = noteValueNamed(match?.[3] ?? 'quarter');
  const dotted = Boolean(match?.[2]);
  const valid = perMinute !== null && perMinute >= 10 && perMinute <= 400;
  return {
    words: match?.[1]?.trim() ?? text.trim(),
    unit,
    dotted,
    perMinute: valid ? perMinute : null,
    quartersPerMinute: valid ? perMinute * QUARTERS[unit]! * (dotted ? 1.5 : 1) : null,
    printed: valid ? `${dotted ? 'dotted ' : ''}${unit} = ${perMinute}` : null,
  };
}

/** Every head of the tie that a note belongs to, itself included, in order. */
export function tiedHeads(part: Pick<Part, 'notes'>, note: Note): Note[] {
  const same = part.notes.filter((other) => midiOf(other.pitch) === midiOf(note.pitch) && other.staff === note.staff && other.voice === note.voice);
  const chain = [note];
  for (let first = note; first.tiedFrom;) {
    const before = same.find((other) => other.tiedTo && other.onset + other.duration === first.onset);
    if (!before) break;
    chain.unshift(before);
    first = before;
  }
  for (let last = note; last.tiedTo;) {
    const after = same.find((other) => other.tiedFrom && other.onset === last.onset + last.duration);
    if (!after) break;
    chain.push(after);
    last = after;
  }
  return chain;
}

/** Whether a note carries an edit that is in force. */
export function isEdited(note: Note, marking: Marking): boolean {
  return EDITED_NOTE_KINDS.some((kind) => {
    const mark = markAt(marking, note.id, kind);
    return mark !== undefined && !mark.off;
  });
}

const EDITED_NOTE_KINDS: readonly EditKind[] = ['pitch', 'accidental', ...WRITABLE_ARTICULATIONS.map(articulationKind)];
