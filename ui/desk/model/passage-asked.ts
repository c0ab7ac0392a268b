/** What an address of the Desk asks for and how one is written: passage, note and tab, as people say them. */
import { barsAt, placeAt, sayBars, sayNote } from '@/core/score/address';
import { barOfTarget } from '@/core/marking/target';
import { noteById } from '@/core/score/find';
import type { Passage } from '@/core/score/passages';
import type { Part } from '@/core/score/score';
import type { Problem } from '@/core/util/result';

export interface Asked {
  /** "17-32", as the passage is said. */
  bars: string | null;
  /** A note by its id. */
  note: string | null;
  /** A place: "47/3", "upbeat to 31". */
  at: string | null;
}

/** Index of the passage to show first, as far as printed labels tell; the first one otherwise. */
export function passageAsked(passages: readonly Passage[], labels: readonly string[], { bars, note, at }: Asked): number {
  const bar = at !== null ? labels.indexOf(at.split('/')[0]!.trim()) : note !== null ? (barOfTarget(note) ?? -1) : -1;
  const exact = passages.findIndex((passage) => bars === addressOf(labels, passage));
  if (exact >= 0 && (bar < 0 || inside(passages[exact]!, bar))) return exact;
  const wanted = bar >= 0 ? bar : labels.indexOf(bars?.split('-')[0] ?? '');
  return Math.max(
    0,
    passages.findIndex((passage) => inside(passage, wanted)),
  );
}

const inside = (passage: Passage, bar: number): boolean => bar >= passage.fromBar && bar <= passage.toBar;

export function addressOf(labels: readonly string[], passage: Pick<Passage, 'fromBar' | 'toBar'>): string {
  return sayBars(
    labels.map((label) => ({ label })),
    passage,
  ).replace('–', '-');
}

export interface Arrival {
  passage: number | null;
  noteId: string | null;
  problem: Problem | null;
}

/** What an address asks for beyond printed labels, once the part has been read. */
export function arrivalAt(part: Part, passages: readonly Passage[], asked: { bars: string | null; at: string | null }): Arrival {
  const passageOf = (bar: number): number | null => {
    const index = passages.findIndex((passage) => inside(passage, bar));
    return index < 0 ? null : index;
  };
  if (asked.at !== null) {
    const place = placeAt(part, asked.at);
    if (!place.ok) return { passage: null, noteId: null, problem: place.problem };
    const { barIndex, noteId } = place.value;
    return { passage: passageOf(barIndex), noteId: noteId ?? part.notes.find((note) => note.barIndex === barIndex && !note.cue)?.id ?? null, problem: null };
  }
  const labels = part.bars.map((bar) => bar.label);
  if (asked.bars === null || passages.some((passage) => addressOf(labels, passage) === asked.bars)) return { passage: null, noteId: null, problem: null };
  const range = barsAt(part, asked.bars);
  return range.ok ? { passage: passageOf(range.value.fromBar), noteId: null, problem: null } : { passage: null, noteId: null, problem: range.problem };
}

/** The query of an address; a note that cannot be said without doubt (in a chord, in a second voice) goes by its id. */
export function addressQuery(part: Part, passage: Passage, noteId: string | null, tab: string): string {
  const labels = part.bars.map((bar) => bar.label);
  const query = new URLSearchParams({ bars: addressOf(labels, passage) });
  const note = noteId === null ? undefined : noteById(part, noteId);
  if (note) {
    const said = sayNote(part, note);
    const found = placeAt(part, said);
    if (found.ok && found.value.noteId === note.id) query.set('at', said);
    else query.set('note', note.id);
  }
  if (tab !== 'choices') query.set('tab', tab);
  return query.toString().replace(/%2F/g, '/');
}
