/** What the tracks show: the plan that was checked, or the highlighted choice in its place. Plain functions. */
import type { Stroke } from '@/core/bow-arm/describe';
import type { FingeredNote } from '@/core/left-hand/fingering';
import type { BarRange } from '@/core/score/bars';
import { ticksOf } from '@/core/score/bars';
import type { Part } from '@/core/score/score';
import type { Choices } from './use-choices';

type Highlighted = Pick<Choices, 'suggestions' | 'ofNote' | 'ofBow' | 'highlighted'>;

export function previewedNotes(planned: readonly FingeredNote[], { suggestions, ofNote, highlighted }: Highlighted): readonly FingeredNote[] {
  const way = suggestions?.kind === 'fingering' ? suggestions.items[highlighted]?.way.notes : highlighted > 0 ? ofNote?.items[highlighted]?.notes : undefined;
  return way ? withNotes(planned, way) : planned;
}

export function withNotes(planned: readonly FingeredNote[], others: readonly FingeredNote[]): readonly FingeredNote[] {
  const changed = new Map(others.map((note) => [note.id, note]));
  return planned.map((note) => changed.get(note.id) ?? note);
}

/** @param dragged strokes of the passage while an end is being dragged, or a remedy tried */
export function previewedStrokes(
  planned: readonly Stroke[],
  { suggestions, ofBow, highlighted }: Highlighted,
  part: Part | null,
  range: BarRange,
  dragged: readonly Stroke[] | null = null,
): readonly Stroke[] {
  const chosen =
    suggestions?.kind === 'bowing' ? suggestions.items[highlighted]?.plan.strokes : highlighted > 0 ? ofBow?.items[highlighted]?.strokes : undefined;
  const strokes = dragged ?? chosen;
  if (!strokes || !part) return planned;
  const { from, to } = ticksOf(part, range);
  return [...planned.filter((stroke) => stroke.onset < from), ...strokes, ...planned.filter((stroke) => stroke.onset >= to)];
}
