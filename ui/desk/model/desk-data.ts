import type { PartData } from '@/ui/part/part-data';
import type { Engraving } from '@/ui/score/engraving';
import type { PanelTab } from './tabs';

/** What the Desk is given by the server: the part, and where the address points. */
export interface DeskData extends PartData {
  /** Index of the passage that the address asks for. */
  passageIndex: number;
  noteId: string | null;
  /** Bars and place that the address asks for, as they were said. */
  bars: string | null;
  at: string | null;
  tab: PanelTab;
  widthPx: number;
  engraving: Engraving | null;
}
