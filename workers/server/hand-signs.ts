/** What the hand does in a part, for who reads it: which written fingers are needed, and where the hand shifts. */
import { planFingering, type FingeredNote } from '../../core/left-hand/fingering';
import { guideNoteName } from '../../core/left-hand/fingered-note';
import { fingerPart } from '../../core/left-hand/part';
import { marksWorthWriting, type Density } from '../../core/left-hand/worth-writing';
import { linesOf, partOfLine } from '../../core/instruments/lines';
import { playerFrom, usualPlayer, type PlayerDescription } from '../../core/instruments/player';
import { splitKey, type Marking } from '../../core/marking/mark';
import { noteById } from '../../core/score/find';
import type { Part } from '../../core/score/score';
import type { Clock } from '../../core/score/time';

export interface ShiftSign {
  /** The note that the hand leaves, and the one that it comes to. */
  from: string;
  to: string;
  /** The unplayed pitch that the old finger reaches with the hand; null where the same finger goes. */
  guide: string | null;
}

export interface HandSignsAsked {
  part: Part;
  marking: Marking;
  /** The reader's line of a divided part. */
  line: number | null;
  clock: Clock;
  player: PlayerDescription | null;
  instrument: NonNullable<Part['instrument']>;
}

export interface HandSigns {
  shifts: ShiftSign[];
  /** The marks without the fingers that go without saying. */
  marksFor(density: Density): Marking;
}

export function handSigns({ part, marking, line, clock, player: described, instrument }: HandSignsAsked): HandSigns {
  const made = described && described.instrument === instrument ? playerFrom(described) : null;
  const player = made?.ok ? made.value : usualPlayer(instrument);
  const request = { part, marking, player, clock, alternatives: 1 };
  const own = line === null ? null : partOfLine(part, line);
  const plan = own ? planFingering({ ...request, part: own, line: linesOf(own)[0]! }) : fingerPart(request);
  const way = plan.alternatives[0];
  const notes = way?.notes ?? [];
  return {
    shifts: notes.flatMap((note, i) => shiftSign(note, notes[i - 1], part, player.instrument)),
    marksFor(density) {
      if (!way) return marking;
      const needed = new Set(marksWorthWriting(way, { part, instrument: player.instrument }, density).map(({ id }) => id));
      const planned = new Set(notes.map(({ id }) => id));
      const isNeeded = (key: string): boolean => {
        const { target, kind } = splitKey(key);
        return kind !== 'finger' || !planned.has(target) || needed.has(target);
      };
      return Object.fromEntries(Object.entries(marking).filter(([key]) => isNeeded(key)));
    },
  };
}

function shiftSign({ id, shift }: FingeredNote, before: FingeredNote | undefined, part: Part, instrument: Parameters<typeof guideNoteName>[1]): ShiftSign[] {
  const note = noteById(part, id);
  if (!shift || !before || !note || shift.heard === 'in a rest') return [];
  return [{ from: before.id, to: id, guide: guideNoteName(shift, instrument, part.bars[note.barIndex]!.fifths) }];
}
