/** What the outbox has around it, and what it says. */
import type { Marking } from '@/core/marking/mark';
import type { Body, Entry } from './entry';
import type { Kept } from './kept';
import type { UnsentEvent } from './state';
import type { Ask, Clash } from './transport';

/** What other tabs are told. */
export type Message =
  | { tells: 'event'; event: UnsentEvent; base?: Marking }
  /** To the tab that sends: do not wait any longer. */
  | { tells: 'go' }
  /** A tab has opened: what waits for a decision is told again. */
  | { tells: 'hello' };

/** What the outbox needs of the browser, so that every path can be tested without one. */
export interface Around {
  kept: Kept;
  ask: Ask;
  /** To the other tabs. */
  tell(message: Message): void;
  /** From the other tabs. */
  listen(hear: (message: Message) => void): void;
  /** Runs work while no other tab does; it ends with the page. */
  alone(work: () => Promise<void>): void;
  /** Called when the network comes back or the page is looked at again. */
  onAwake(wake: () => void): void;
  after(ms: number, task: () => void): () => void;
  now(): number;
  newId(): string;
}

/** What happened in one lane, for who shows it. */
export type LaneEvent =
  /** In another tab. */
  | { is: 'made elsewhere'; entry: Entry }
  /** By somebody else, or by oneself in another browser: it is stored. */
  | { is: 'stored elsewhere'; body: Body }
  | { is: 'stored'; ids: readonly string[] }
  | { is: 'clash'; clash: Clash }
  /** These are its entries now; `base` is what they stand on, where that changed. */
  | { is: 'rewritten'; entries: readonly Entry[]; base: Marking | null };
