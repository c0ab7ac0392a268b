/** A plan as the marks that taking it writes: only those that a player needs, never a number on every note. */
import { fingerName } from '../instruments/player';
import { type Fingering } from '../left-hand/fingering';
import { planFingering, type FingeredNote, type FingeringMemory, type FingeringRequest } from '../left-hand/fingering';
import { marksWorthWriting, needsNumeral, type Density, type WrittenFor } from '../left-hand/worth-writing';
import type { Bowing } from '../bow-arm/describe';
import { bowMarksWorthWriting } from '../bow-arm/worth-writing';
import { markKey, splitKey, type Mark, type Marking } from '../marking/mark';
import type { MarkKind } from '../marking/kinds';

export interface Wanted {
  target: string;
  kind: MarkKind;
  mark: Mark;
}

/** Fingers where the player needs them, string numerals where the note is not on the string that first position has it on. */
export function suggestedFingering(fingering: Fingering, writtenFor: WrittenFor, density: Density = 'usual'): Wanted[] {
  return marksWorthWriting(fingering, writtenFor, density).flatMap((fingered) => {
    const { id, place } = fingered;
    const wanted: Wanted[] = [{ target: id, kind: 'finger', mark: { value: fingerName(place.finger), origin: 'suggestion' } }];
    const before = fingering.notes[fingering.notes.indexOf(fingered) - 1] ?? null;
    if (needsNumeral(fingered, before, writtenFor)) wanted.push({ target: id, kind: 'string', mark: { value: String(place.string), origin: 'suggestion' } });
    return wanted;
  });
}

/** Rounds in which marks are added until the plan does what was taken. */
const HOLDING_ROUNDS = 8;

/**
 * The marks worth writing, and those besides them without which the plan would go another way again: where it still does, the
 * first note of each such stretch is marked.
 * @param request what the way was planned with, without the marks that taking it replaces
 */
export function heldFingering(request: FingeringRequest, way: Fingering, density: Density, memory: FingeringMemory): Wanted[] {
  const wanted = suggestedFingering(way, { part: request.part, instrument: request.player.instrument }, density);
  const places = new Map(way.notes.map((note) => [note.id, note.place]));
  for (let round = 0; round < HOLDING_ROUNDS; round++) {
    const marking = { ...Object.fromEntries(wanted.map(({ target, kind, mark }) => [markKey(target, kind), mark])), ...request.marking };
    const planned = planFingering({ ...request, marking, alternatives: 1 }, memory).alternatives[0]?.notes ?? [];
    const differs = ({ id, place }: FingeredNote) => {
      const wish = places.get(id);
      return wish !== undefined && (wish.finger !== place.finger || wish.string !== place.string);
    };
    const first = planned.filter((note, i) => differs(note) && !(planned[i - 1] && differs(planned[i - 1]!)));
    if (first.length === 0) break;
    for (const { id, place } of first) {
      const { finger, string } = places.get(id)!;
      wanted.push({ target: id, kind: 'finger', mark: { value: fingerName(finger), origin: 'suggestion' } });
      if (string !== place.string) wanted.push({ target: id, kind: 'string', mark: { value: String(string), origin: 'suggestion' } });
    }
  }
  return wanted;
}

export function suggestedBowing(bowing: Bowing): Wanted[] {
  return bowMarksWorthWriting(bowing).map(({ noteId, kind, value }) => ({ target: noteId, kind, mark: { value, origin: 'suggestion' } }));
}

/** A marking without the suggestions taken earlier at these notes: asked anew, only the coach's own marks are locks. */
export function withoutSuggestions(marking: Marking, kinds: readonly MarkKind[], targets: ReadonlySet<string>): Marking {
  return Object.fromEntries(
    Object.entries(marking).filter(([key, mark]) => {
      const { target, kind } = splitKey(key);
      return mark.origin !== 'suggestion' || !kinds.includes(kind) || !targets.has(target);
    }),
  );
}

/** The changes that put wanted marks into a marking; marks of the coach are left as they are. */
export function changesFor(marking: Marking, wanted: readonly Wanted[], replacing: { kinds: readonly MarkKind[]; targets: ReadonlySet<string> }) {
  const goal = new Map(wanted.map((each) => [markKey(each.target, each.kind), each]));
  const changes: Array<{ target: string; kind: MarkKind; from: Mark | null; to: Mark | null }> = [];
  for (const [key, from] of Object.entries(marking)) {
    const { target, kind } = splitKey(key);
    if (from.origin !== 'suggestion' || !replacing.kinds.includes(kind) || !replacing.targets.has(target) || goal.has(key)) continue;
    changes.push({ target, kind, from, to: null });
  }
  for (const { target, kind, mark } of goal.values()) {
    const from = marking[markKey(target, kind)] ?? null;
    if (from?.origin === 'coach' || (from?.value === mark.value && from.origin === mark.origin)) continue;
    changes.push({ target, kind, from, to: mark });
  }
  return changes;
}
