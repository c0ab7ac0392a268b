/** The marks of a passage copied to wherever its music comes again. */
import { linesOf } from '@/core/instruments/lines';
import { placesAgain, type Again } from '@/core/marking/come-again';
import type { Part } from '@/core/score/score';
import { barsLabel } from '@/ui/kit/music';
import type { DeskModel } from './use-desk-model';

/** @param index of the passage */
export function copyToWhereItComesBack(desk: DeskModel, index: number): void {
  const { passages, view, marking, conditions } = desk;
  const { part } = view;
  const from = passages.list[index];
  if (!part || !from) return;
  const lines = linesOf(part);
  const places = placesAgain(part, lines[Math.min(conditions.line, lines.length - 1)]!, marking, from);
  const changes = places.flatMap((place) => place.changes);
  if (changes.length) desk.change(`Marks of ${from.name} copied to ${wheres(part, places)}`, changes);
  desk.setSaid(copiedInWords(part, from.name, places));
}

const wheres = (part: Part, places: readonly Again[]): string => places.map(({ bars }) => barsLabel(part, bars.fromBar, bars.toBar)).join(', ');

/** Where marks were copied to, and what had to stay different there. */
export function copiedInWords(part: Part, name: string, places: readonly Again[]): string {
  if (places.length === 0) return `The music of ${name} does not come again in this part.`;
  const bars = (indices: readonly number[]) => indices.map((index) => barsLabel(part, index, index)).join(', ');
  const where = wheres(part, places);
  const [otherNotes, otherMusic] = [places.flatMap((each) => each.otherNotes), places.flatMap((each) => each.otherMusic)];
  const changed = places.some(({ changes }) => changes.length > 0);
  return [
    changed ? `Marks of ${name} copied to bars ${where}.` : `${name} comes again in bars ${where}, marked alike already.`,
    otherNotes.length ? `On other notes, bows only: bar ${bars(otherNotes)}.` : '',
    otherMusic.length ? `Other music, left as it is: bar ${bars(otherMusic)}.` : '',
  ]
    .filter(Boolean)
    .join(' ');
}
