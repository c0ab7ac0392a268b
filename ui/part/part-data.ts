/** What the screens of a part are given by the server. */
import type { Passage } from '@/core/score/passages';
import type { ChangeSet } from '@/core/marking/change';
import type { Marking } from '@/core/marking/mark';
import type { Told } from '@/core/instruments/as-told';
import type { InstrumentKind } from '@/core/score/score';
import type { PlayerDescription } from '@/core/instruments/player';
import type { HandPreferences } from '@/core/left-hand/preferences';
import type { IntonationSettings } from '@/core/checks/target';
import type { Density } from '@/core/left-hand/worth-writing';
import type { PartDeed } from '@/core/marking/part-deed';
import type { ElsewhereData } from './elsewhere';

export type PlayerChoice = PlayerDescription & { id: string };

/** What the part is checked for, and what the coach says about it. */
export interface DeskSettings extends Told {
  playerId: string | null;
  tempo: number | null;
  /** Which line of a divided part is planned. */
  line: number;
  /** How the left hand likes to play this part. */
  preferences: HandPreferences;
  /** How many fingers a taken suggestion writes. */
  density: Density;
  /** How in tune it is wanted. */
  intonation: IntonationSettings;
  /** Players of the section in the order of their seats, two at a desk. */
  seats: string[];
  /** Which line of a divided part a player has, from 0. */
  divisi: Record<string, number>;
  accepted: AcceptedFinding[];
}

/** A finding that stays quiet while what it depends on (`findingKey`) is the same. */
export interface AcceptedFinding {
  id: string;
  key: string;
  why: string;
  /** How its notes are named (`core/marking/versions.ts`). */
  version?: number | undefined;
}

/** The marks of one player alone. */
export interface VariantData {
  playerId: string;
  markingId: string;
  marking: Marking;
  history: ChangeSet[];
}

export interface PartData {
  pieceId: string;
  title: string;
  part: { id: string; name: string; instrument: InstrumentKind | null };
  /** Changes when the part's file is replaced. */
  musicVersion: string;
  /** How far in what is stored of the part this page was read. */
  seen: string;
  /** Its file is a text in ABC. */
  typed: boolean;
  /** Other editions that were brought in. */
  editions: Array<{ id: string; name: string }>;
  siblings: Array<{ id: string; name: string }>;
  warnings: Array<{ place: string; text: string }>;
  markingId: string;
  marking: Marking;
  history: ChangeSet[];
  /** Marks in other markings that belong to this part's chain of undo. */
  elsewhere: ElsewhereData[];
  deeds: { passages: PartDeed[]; settings: PartDeed[] };
  /** Of the player that the part is checked for, where there is one. */
  variant: VariantData | null;
  passages: Passage[];
  players: PlayerChoice[];
  settings: DeskSettings;
}
