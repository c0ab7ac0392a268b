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
  /** Cost above the best way to play this note. */
  extra: number;
  terms: Partial<Record<Term, number>>;
  shift: Shift | null;
  /** The next shift after this note, within the window. */
  nextShift: { shift: Shift; noteId: string } | null;
  /** The window around the note as it would be played. */
  notes: Fingering['notes'];
}

/** Events before and after that are planned anew with each choice. */
const WINDOW = 12;

/** @param memory of the last plan of this line; it is not changed */
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
    const key = `${place.string}/${place.finger}/${place.position}/${place.harmonic}`;
    if (best.has(key) && best.get(key)!.total <= result.cost) continue;
    best.set(key, { total: result.cost, way: explain(request, { ...slice, grips }, result.choice, STRATEGIES[0]!), place });
  }
  const sorted = [...best.values()].sort((a, b) => a.total - b.total);
  const least = sorted[0]?.total ?? 0;
  return sorted.map(({ total, way, place }) => {
    const own = way.notes.findIndex((fingered) => fingered.id === note.id || event.ids.includes(fingered.id));
    const next = way.notes.slice(own + 1).find((fingered) => fingered.shift && !event.ids.includes(fingered.id));
    return {
      place,
      extra: Math.round((total - least) * 100) / 100,
      terms: way.terms,
      shift: way.notes[own]?.shift ?? null,
      nextShift: next?.shift ? { shift: next.shift, noteId: next.id } : null,
      notes: way.notes,
    };
  });
}
