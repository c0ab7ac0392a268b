/** What the page of hand-outs is given by the server. */
import type { ChangedBar } from '@/core/handout/in-words';
import type { AnswerKind } from '@/core/handout/shapes';
import type { InstrumentKind } from '@/core/score/score';

export interface PartOut {
  partId: string;
  part: string;
  instrument: InstrumentKind | null;
  last: { number: number; madeAt: string; madeBy: string; word: string } | null;
  has: Array<{ playerId: string; name: string; openedAt: string | null; copied: number }>;
  next: { number: number; changes: ChangedBar[]; ownMarks: number } | null;
  usual: string[];
}

export interface PlayerOut {
  id: string;
  name: string;
  instrument: InstrumentKind;
  /** Has a personal link in force: without one nothing can be opened. */
  hasLink: boolean;
}

export interface AnswerOut {
  id: string;
  partId: string;
  part: string;
  number: number;
  player: string;
  bar: string | null;
  barIndex: number | null;
  kind: AnswerKind;
  words: string;
  at: string;
  isSettled: boolean;
}

/** Who gets a part, and whether it goes out now. */
export interface Chosen {
  isIn: boolean;
  players: readonly string[];
}

/** What would go out: parts that changed and have somebody who gets them, and those that somebody is new to. */
export const isNewTo = ({ has }: PartOut, player: string): boolean => !has.some(({ playerId }) => playerId === player);

export const hasOpened = ({ has }: PartOut, player: string): boolean => has.some(({ playerId, openedAt }) => playerId === player && openedAt !== null);

export const isDue = (part: PartOut, { players }: Pick<Chosen, 'players'>): boolean =>
  players.length > 0 && (part.next !== null || players.some((each) => isNewTo(part, each)));
