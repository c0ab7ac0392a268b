/** What the edits of the Reading tab change in the marking. An edit that says what is printed anyway is taken back. */
import { linesOf } from '@/core/instruments/lines';
import { letterIndex, midiOf, naturalAt, pitchName, type Pitch } from '@/core/score/pitch';
import type { Note, Part, WritableArticulation } from '@/core/score/score';
import { noteById } from '@/core/score/find';
import { changeTo, type Change } from '@/core/marking/change';
import { slurLinks } from '@/core/marking/links';
import type { Mark, Marking } from '@/core/marking/mark';
import { articulationKind, type MarkKind } from '@/core/marking/kinds';
import { hairpinValue, STRUCK } from '@/core/marking/values';
import { tiedHeads } from '@/core/marking/print-edits';
import { placeTarget } from '@/core/marking/target';

export interface EditContext {
  /** As printed. */
  print: Part;
  /** With the edits in force. */
  edited: Part;
  marking: Marking;
  /** Kept with the change; empty for none. */
  why: string;
}

const edit = ({ marking, why }: EditContext, target: string, kind: MarkKind, value: string | null): Change[] => {
  const mark: Mark | null = value === null ? null : { value, origin: 'coach', ...(why.trim() ? { why: why.trim() } : {}) };
  return [changeTo(marking, target, kind, mark)].filter((change) => change !== null);
};

/** Another pitch for notes, and for the notes that are tied to them. */
export function pitchChanges(context: EditContext, notes: readonly Note[], next: (now: Pitch) => Pitch | null): Change[] {
  const heads = new Set(notes.flatMap((note) => tiedHeads(context.print, noteById(context.print, note.id) ?? note)));
  return [...heads].flatMap((print) => {
    const now = noteById(context.edited, print.id)?.written ?? print.written;
    const wanted = next(now);
    return wanted ? edit(context, print.id, 'pitch', pitchName(wanted) === pitchName(print.written) ? null : pitchName(wanted)) : [];
  });
}

/** A half step up or down on the same letter where that is sensible, else on the next one. */
export function halfStep(pitch: Pitch, by: 1 | -1): Pitch | null {
  const alter = pitch.alter + by;
  if (Math.abs(alter) <= 1) return { ...pitch, alter };
  const natural = naturalAt(letterIndex(pitch) + by);
  return within({ ...natural, alter: midiOf(pitch) + by - midiOf(natural) });
}

/** The same sound spelled on the next letter that can have it; after the last one from the first again. */
export function respelled(pitch: Pitch): Pitch | null {
  const spellings = [-2, -1, 0, 1, 2]
    .map((letters) => {
      const natural = naturalAt(letterIndex(pitch) + letters);
      return { ...natural, alter: midiOf(pitch) - midiOf(natural) };
    })
    .filter((candidate) => Math.abs(candidate.alter) <= 2 && Number.isInteger(candidate.alter));
  const at = spellings.findIndex((candidate) => candidate.step === pitch.step);
  return within(spellings[(at + 1) % spellings.length] ?? null);
}

const within = (pitch: Pitch | null): Pitch | null => (pitch && pitch.octave >= 0 && pitch.octave <= 9 ? pitch : null);

export function accidentalChanges(context: EditContext, notes: readonly Note[], value: 'show' | 'bracket' | typeof STRUCK): Change[] {
  return notes.flatMap((note) => {
    const sign = noteById(context.print, note.id)?.accidental ?? null;
    const printed = sign === null ? STRUCK : sign.courtesy ? 'bracket' : 'show';
    const same = printed === value && sign?.alter === (sign === null ? undefined : note.written.alter);
    return edit(context, note.id, 'accidental', same ? null : value);
  });
}

/** Puts an articulation at all notes, or takes it away where all have it. */
export function articulationChanges(context: EditContext, notes: readonly Note[], name: WritableArticulation): Change[] {
  const has = (part: Part, note: Note) => noteById(part, note.id)?.articulations.includes(name) ?? false;
  const all = notes.every((note) => has(context.edited, note));
  return notes.flatMap((note) => edit(context, note.id, articulationKind(name), has(context.print, note) === !all ? null : all ? STRUCK : 'yes'));
}

/** One slur over the notes, or none between them. */
export function slurChanges(context: EditContext, notes: readonly Note[], slurred: boolean): Change[] {
  const wanted = new Set((slurred ? notes.slice(1) : notes).map((note) => note.id));
  const changes: Change[] = [];
  for (const line of linesOf(context.print)) {
    const printed = slurLinks(context.print, line);
    line.events.forEach((event, i) => {
      const id = event.ids.find((each) => wanted.has(each));
      if (id === undefined || i === 0 || !wanted.delete(id)) return;
      changes.push(...edit(context, id, 'slur', printed[i] === slurred ? null : slurred ? 'join' : 'split'));
    });
  }
  return changes;
}

/** A sign from the note's place on; null takes the edit back. */
export function placeChanges(
  context: EditContext,
  note: Note,
  kind: 'clef' | 'dynamic' | 'tempo' | 'text' | 'printed-text' | 'divisi',
  value: string | null,
): Change[] {
  const printed = kind === 'dynamic' ? context.print.dynamics.filter((dynamic) => dynamic.tick === note.onset) : [];
  const same = printed.length === 1 && printed[0]!.text === value;
  return edit(context, placeTarget(note.barIndex, note.tick), kind, same ? null : value);
}

/** A hairpin from the first note to the end of the last one; null takes the edit back, STRUCK the printed hairpin. */
export function hairpinChanges(context: EditContext, notes: readonly Note[], kind: 'crescendo' | 'diminuendo' | typeof STRUCK | null): Change[] {
  const first = notes[0]!;
  const last = tiedHeads(context.print, notes.at(-1)!).at(-1)!;
  const toTick = Math.min(context.print.bars[last.barIndex]!.ticks, last.tick + Math.max(last.duration, 1));
  const value = kind === null || kind === STRUCK ? kind : hairpinValue({ kind, toBar: last.barIndex, toTick });
  return edit(context, placeTarget(first.barIndex, first.tick), 'hairpin', value);
}
