/** The line under the score: what is selected, what is marked there, what is planned. */
import { fingerName } from '@/core/instruments/player';
import type { FingeredNote } from '@/core/left-hand/fingering';
import { fingerInForce, type Marking } from '@/core/marking/mark';
import type { Note } from '@/core/score/score';
import { barsLabel, pitchLabel, placeLabel } from '@/ui/kit/music';
import type { OpenPart } from '@/workers/questions';
import { marksInWords } from '@/ui/part/mark-changes';

export function statusText(
  open: OpenPart | null,
  focus: Note | undefined,
  chosen: readonly Note[],
  marking: Marking,
  planned: FingeredNote | undefined,
): string {
  if (!open || !focus) return 'Click a note, or press → to begin.';
  const { part } = open;
  const parts = [placeLabel(part, focus), pitchLabel(focus.pitch), marksInWords(focus, marking)];
  if (chosen.length > 1) parts.unshift(`${chosen.length} notes, bars ${barsLabel(part, chosen[0]!.barIndex, chosen.at(-1)!.barIndex)}`);
  if (planned && fingerInForce(focus, marking) === null) {
    const { finger, string, position } = planned.place;
    parts.push(`planned: ${fingerName(finger)} on string ${string}${position ? `, ${position} position` : ''}`);
  }
  return parts.join(' · ');
}
