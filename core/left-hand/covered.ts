/** Fingers that lie on two strings at once. */
import { isShift } from './shift';
import type { FingeredNote } from './fingering';

/** Covered intervals reach over this many events in between. */
const COVERED_REACH = 5;

/**
 * One finger needed at the same stop on two neighbouring strings within the next few notes (not the fourth). It can lie across
 * both only while nothing below it is played on either of them.
 */
export function findCovered(notes: FingeredNote[]): void {
  for (let i = 0; i < notes.length; i++) {
    const a = notes[i]!;
    if (a.place.finger === 0 || a.place.finger === 4) continue;
    let [below, above] = [false, false];
    for (let k = i + 1; k < notes.length && notes[k]!.event - a.event <= COVERED_REACH; k++) {
      const b = notes[k]!;
      const away = b.place.string - a.place.string;
      const same = b.place.finger === a.place.finger;
      if (same && b.place.stop === a.place.stop && Math.abs(away) === 1) {
        if (away > 0 ? below : above) break;
        a.covered = [...(a.covered ?? []), b.id];
        b.covered = [...(b.covered ?? []), a.id];
        break;
      }
      if ((b.place.finger !== 0 && isShift(a.place, b.place)) || same) break;
      if (b.place.stop > a.place.stop) continue;
      if (away === 0) break;
      if (away === 1) below = true;
      if (away === -1) above = true;
    }
  }
}
