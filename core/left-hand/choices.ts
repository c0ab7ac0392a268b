/** Every way to play one note, each with what it costs in its context: the rest of the passage planned around it. */
import type { Note } from '../score/score';
import { STRATEGIES, type Term } from './costs';
import { explain, memoryFor, newFingeringMemory, preferredBy, prepareFingering, type Fingering, type FingeringRequest } from './fingering';
import { gripsFor } from './grip';
import type { Place } from './places';
import { cheapestPath, type PathMemory } from './search';
import type { Shift } from './shift';
import { weighingFor } from './transition';

export interface NoteChoice {
  place: Place;
  /** It is what is planned. */
  now: boolean;
  /** Cost above what is planned; below zero where that is cheaper, as it may be around a mark. */
  extra: number;
  terms: Partial<Record<Term, number>>;
  shift: Shift | null;
  /** The next shift after this note, within the window. */
  nextShift: { shift: Shift; noteId: string } | null;
  /** The window around the note as it would be played. */
  notes: Fingering['notes'];
}

const keyOf = ({ string, finger, position, harmonic }: Place): string => `${string}/${finger}/${position}/${harmonic}`;

/** Events before and after that are planned anew with each choice. */
const WINDOW = 12;

/** What is planned first, then the others by their cost. @param memory of the last plan of this line; it is not changed */
export function choicesForNote(request: FingeringRequest, note: Note, memory = newFingeringMemory()): NoteChoice[] {
  const { grips: known, path } = memoryFor(request, { ...memory });
  const prepared = prepareFingering(request, known);
  const at = prepared.events.findIndex((event) => event.ids.includes(note.id));
  if (at < 0) return [];
  const preferred = preferredBy(request);
  const { costs } = preferred;
  const weighing = weighingFor(request.player, preferred);
  const { choice } = cheapestPath({ grips: prepared.grips, moments: prepared.moments, weighing }, { ...path });
  const from = Math.max(0, at - WINDOW * 2);
  const to = Math.min(prepared.events.length, at + WINDOW * 2 + 1);
  const event = prepared.events[at]!;
  const k = Math.max(
    0,
    event.notes.findIndex((candidate) => event.ids.includes(candidate.id) && candidate.id === note.id),
  );
  const free = event.notes.length === 1 ? gripsFor(event.notes, request.player, costs, () => undefined) : prepared.grips[at]!;
  const slice = {
    events: prepared.events.slice(from, to),
    eventIndex: prepared.eventIndex.slice(from, to),
    moments: prepared.moments.slice(from, to),
    unplayable: [],
    grips: prepared.grips.slice(from, to).map((grips, i) => (Math.abs(from + i - at) > WINDOW ? [grips[choice[from + i]!]!] : grips)),
  };
  // What lies before the note is searched once for all of them, and moves cost what they cost in the plan.
  const searched: PathMemory = { kept: null, ...(path.moves ? { moves: path.moves } : {}) };
  const best = new Map<string, { total: number; way: Fingering; place: Place }>();
  for (const grip of free) {
    const grips = slice.grips.map((list, i) => (from + i === at ? [grip] : list));
    const result = cheapestPath({ grips, moments: slice.moments, weighing }, searched);
    const place = grip.places[k]!;
    const key = keyOf(place);
    if (best.has(key) && best.get(key)!.total <= result.cost) continue;
    best.set(key, { total: result.cost, way: explain(request, { ...slice, grips }, result.choice, STRATEGIES[0]!), place });
  }
  const planned = prepared.grips[at]![choice[at]!];
  const now = planned && best.get(keyOf(planned.places[k]!));
  const sorted = [...best.values()].sort((a, b) => Number(b === now) - Number(a === now) || a.total - b.total);
  return sorted.map((each) => {
    const { total, way, place } = each;
    const own = way.notes.findIndex((fingered) => fingered.id === note.id || event.ids.includes(fingered.id));
    const next = way.notes.slice(own + 1).find((fingered) => fingered.shift && !event.ids.includes(fingered.id));
    return {
      place,
      now: each === now,
      extra: Math.round((total - (now ?? sorted[0]!).total) * 100) / 100,
      terms: way.terms,
      shift: way.notes[own]?.shift ?? null,
      nextShift: next?.shift ? { shift: next.shift, noteId: next.id } : null,
      notes: way.notes,
    };
  });
}
