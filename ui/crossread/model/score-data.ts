/** What Crossread is given by the server. */
import type { PlayerDescription } from '@/core/instruments/player';
import type { ChangeSet } from '@/core/marking/change';
import type { Marking } from '@/core/marking/mark';

export interface ScorePartData {
  id: string;
  name: string;
  markingId: string;
  marking: Marking;
  history: ChangeSet[];
  /** Wanted, quarters per minute; null takes the printed one. */
  tempo: number | null;
  /** Who sits in its section, in the order of the seats, and which line of a divided part they have; null: all. */
  seated: Array<{ player: PlayerDescription & { id: string }; line: number | null }>;
}

export interface ScoreData {
  pieceId: string;
  title: string;
  parts: ScorePartData[];
  /** The bar that was asked for, as printed. */
  bar: string | null;
}
