/**
 * Reading aids: what a player is likely to misread or miscount, said before it happens. Rules of notation and habits of
 * readers are common practice unless a file says otherwise.
 */
import type { EditKind } from '../marking/kinds';

export type AidKind =
  | 'sign still holds'
  | 'other octave'
  | 'sign cancelled'
  | 'old sign gone'
  | 'cross-relation'
  | 'reads as'
  | 'sounds as'
  | 'new clef'
  | 'held over'
  | 'long value'
  | 'syncopation'
  | 'entry';

export interface ReadingAid {
  id: string;
  kind: AidKind;
  /** The notes it is about, the one to look at first. */
  noteIds: string[];
  barIndex: number;
  /** Ticks from the start of the part. */
  onset: number;
  text: string;
  /** The count inside, for aids about time. */
  count: string | null;
  /** An edit that helps: a reminder before the note. */
  remedy: { text: string; target: string; kind: EditKind; value: string } | null;
}
