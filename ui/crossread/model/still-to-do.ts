import type { LaneShown } from '@/workers/score-questions';

/** What is being worked out, and for how many parts it is to be done. */
export function stillToDo(lanes: readonly Pick<LaneShown, 'planned' | 'tempoKnown'>[]): string {
  const unplanned = lanes.filter(({ planned }) => !planned).length;
  const unknown = lanes.filter(({ tempoKnown }) => !tempoKnown).length;
  return unplanned ? `Bowing the parts: ${unplanned} to go …` : `Up to which tempo it works: ${unknown} parts to go …`;
}
