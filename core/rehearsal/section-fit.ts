/** A section as it sits: up to which tempo all of it can play, who decides that, and who leaves out what where they cannot. */
import { tempoForAll, type PartTempo, type TempoForAll } from '../ensemble/tempo-for-all';
import type { FitCell, FitRow } from '../checks/fit';

export interface Seated {
  name: string;
  /** Null where nothing could be worked out for the player. */
  row: FitRow | null;
}

export interface LeavesOut {
  name: string;
  seat: string;
  /** Passages that the wanted tempo is not possible in, by their place in the list, with the tempo that would be. */
  passages: Array<{ passage: number; floor: number | null; ceiling: number | null; none: boolean }>;
}

export interface SectionFit {
  whole: TempoForAll;
  passages: TempoForAll[];
  leavesOut: LeavesOut[];
  /** For whom nothing could be worked out: they are in none of it. */
  unknown: string[];
  /** The section where everybody leaves that out. */
  without: TempoForAll;
}

/** Two sit at a desk, the one nearer to the audience outside. @param place in the order of seats, from 0 @example 2: "desk 2, outside" */
export const seatInWords = (place: number): string => `desk ${Math.floor(place / 2) + 1}, ${place % 2 === 0 ? 'outside' : 'inside'}`;

/** What a player of a part can do in one passage, or in the whole of it. */
export const playerTempo = (name: string, { floor, ceiling, none }: FitCell): PartTempo => ({ name, floor, ceiling, none: none !== null });

/** @param seated in the order of their seats @param wanted quarters per minute */
export function sectionFit(seated: readonly Seated[], wanted: number): SectionFit {
  const known = seated.flatMap(({ name, row }, place) => (row ? [{ name, seat: seatInWords(place), row }] : []));
  const count = known[0]?.row.passages.length ?? 0;
  const inPassage = (passage: number) => known.map(({ name, row }) => playerTempo(name, row.passages[passage]!));
  const leavesOut = known
    .map(({ name, seat, row }): LeavesOut => ({
      name,
      seat,
      passages: row.passages.flatMap(({ floor, ceiling, none }, passage) =>
        suits({ floor, ceiling, none: none !== null }, wanted) ? [] : [{ passage, floor, ceiling, none: none !== null }],
      ),
    }))
    .filter(({ passages }) => passages.length > 0);
  const playing = known.flatMap(({ name, row }) => row.passages.map((cell) => playerTempo(name, cell)).filter((tempo) => suits(tempo, wanted)));
  return {
    whole: tempoForAll(known.map(({ name, row }) => playerTempo(name, row.whole))),
    passages: Array.from({ length: count }, (_, passage) => tempoForAll(inPassage(passage))),
    leavesOut,
    unknown: seated.filter(({ row }) => row === null).map(({ name }) => name),
    without: tempoForAll(playing),
  };
}

const suits = ({ floor, ceiling, none }: Pick<PartTempo, 'floor' | 'ceiling' | 'none'>, tempo: number): boolean =>
  !none && (floor === null || floor <= tempo) && (ceiling === null || tempo <= ceiling);
