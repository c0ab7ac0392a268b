/** What the Stand is given by the server. */
import type { ChangedBar } from '@/core/handout/in-words';
import type { PencilMark } from '@/core/handout/pencil';
import type { AnswerKind } from '@/core/handout/shapes';

export interface StandAnswer {
  id: string;
  bar: number | null;
  kind: AnswerKind;
  words: string;
  at: string;
  isSettled: boolean;
}

export interface SheetData {
  partId: string;
  handoutId: string;
  title: string;
  composer: string | null;
  part: string;
  number: number;
  madeAt: string;
  word: string;
  /** Against the hand-out that this player had before. */
  changes: { since: number; bars: ChangedBar[] } | null;
  /** It was opened before. */
  isOpened: boolean;
  copied: readonly number[];
  answers: StandAnswer[];
  /** Of somebody else only where they show it. */
  pencil: { marks: readonly PencilMark[]; isShown: boolean };
  /** Whose stand one who teaches looks at; null on one's own. */
  as: string | null;
}

/** "Hand-out 3 · 12 May". */
export const handoutName = (number: number, madeAt: string): string =>
  `Hand-out ${number} · ${new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long' }).format(new Date(madeAt))}`;
