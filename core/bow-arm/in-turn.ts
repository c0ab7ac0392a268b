/**
 * A note that is longer than any bow, held by a section: the desks change bows one after the other, between the beats and never together
 * with the desk beside them, so that nobody hears a change (common practice).
 */
import { sayNote } from '../score/address';
import { feltBeat } from '../score/beat';
import { barIndexAt, type Bar, type Part } from '../score/score';

export interface DeskChanges {
  /** From 1; the desks behind do as those in front, four desks back. */
  desk: number;
  /** Ticks. */
  at: number[];
}

/** Desks that change apart; those behind begin again. */
export const DESKS = 4;

/**
 * @param from ticks of the note's beginning, and its end
 * @param bows how many bows it takes at least
 * @returns null where there are too few places between beats
 */
export function changesInTurn(bars: readonly Bar[], from: number, to: number, bows: number): DeskChanges[] | null {
  const places = betweenBeats(bars, from, to);
  const longest = (to - from) / bows;
  const desks: DeskChanges[] = [];
  for (let desk = 0; desk < DESKS; desk++) {
    // The desk in front, and for the last one that of the next four.
    const beside = new Set([...(desks.at(-1)?.at ?? []), ...(desk === DESKS - 1 ? desks[0]!.at : [])]);
    const at: number[] = [];
    let last = from;
    while (to - last > longest + 1) {
      // As late as one bow allows, the first time so much earlier as the desk asks for.
      const latest = at.length === 0 ? Math.min(from + longest, Math.max((places[desk] ?? from) + 1, from + (longest * (desk + 1)) / DESKS)) : last + longest;
      const place = places.findLast((each) => each <= latest + 1 && each > last && !beside.has(each));
      if (place === undefined) return null;
      at.push(place);
      last = place;
    }
    desks.push({ desk: desk + 1, at });
  }
  return desks;
}

/** Half way between two felt beats, the first and the last beat aside. */
function betweenBeats(bars: readonly Bar[], from: number, to: number): number[] {
  const places: number[] = [];
  for (let index = barIndexAt(bars, from); index < bars.length && bars[index]!.onset < to; index++) {
    const bar = bars[index]!;
    const beat = feltBeat(bar);
    for (let tick = bar.onset - (bar.into % beat) + beat / 2; tick < bar.onset + bar.ticks; tick += beat)
      if (tick > from + beat / 2 && tick < to - beat / 2) places.push(tick);
  }
  return places;
}

/** @example "desk 1 at 3/2.5, 6/2.5; desk 2 at 4/2.5" */
export function inTurnInWords(desks: readonly DeskChanges[], part: Pick<Part, 'bars'>): string {
  return desks.map(({ desk, at }) => `desk ${desk} at ${at.map((tick) => sayTick(part, tick)).join(', ')}`).join('; ');
}

function sayTick(part: Pick<Part, 'bars'>, tick: number): string {
  const barIndex = barIndexAt(part.bars, tick);
  return sayNote(part, { barIndex, tick: tick - part.bars[barIndex]!.onset, grace: null });
}
