/** What the bow side of the Choices tab is given. */
import type { Stroke } from '@/core/bow-arm/describe';
import type { Hemiola } from '@/core/bow-arm/hemiola';
import type { BowWishKind } from '@/core/marking/kinds';
import type { Wished } from '@/core/marking/wishes';
import type { BowAside } from '@/workers/analyst';

export type WishFor = 'notes' | 'passage';

export interface BowPanelProps {
  /** The stroke that the selected note lies in. */
  stroke: Stroke | null;
  /** What is wished of the bow that the selected note lies in, and of the passage. */
  wished: Readonly<Record<WishFor, Wished>>;
  /** How many bows are selected. */
  count: number;
  passageName: string;
  /** The selected note is the first of a printed slur. */
  slurBegins: boolean;
  /** The note lies under a slur that is taken for a phrase. */
  phrase: { from: string; bows: number } | null;
  chordWay: string;
  aside: BowAside | null;
  /** Sets a wish, or takes it away (null), at the selected notes, at one note, or for the passage. */
  onWish(kind: BowWishKind, value: string | null, at?: WishFor | string): void;
  onHemiola(hemiola: Hemiola): void;
}
