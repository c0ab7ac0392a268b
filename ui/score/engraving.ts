/** What the engraver gives: systems with the places of their notes and bars. */
export type { Engraving } from '@/workers/server/engraver';
export type { System } from '@/workers/server/picture';
