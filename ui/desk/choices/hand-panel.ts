/** What the left-hand side of the Choices tab shows about the selection, and what it can do. */
import type { Player } from '@/core/instruments/player';
import type { HandAdvice } from '@/core/left-hand/advice';
import type { HandFrame } from '@/core/left-hand/frame';
import type { HandPreferences } from '@/core/left-hand/preferences';

export interface HandPanelProps {
  person: Player;
  preferences: HandPreferences;
  /** The hand at the selected note, as planned. */
  frame: HandFrame | null;
  /** The same with the choice that is pointed at. */
  previewed: HandFrame | null;
  focus: string | null;
  /** Null until it has been looked for. */
  advice: readonly HandAdvice[] | null;
  onAdvice(advice: HandAdvice): void;
  onSettings(): void;
}
