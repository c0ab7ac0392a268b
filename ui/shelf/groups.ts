/** Headings of a shelf that is grouped. */
import type { ShelfGroup } from '@/core/util/shelf-order';
import type { ShelfPiece } from './shelf';

export const INSTRUMENTS: Readonly<Record<string, string>> = { violin: 'violin', viola: 'viola', cello: 'cello', bass: 'double bass' };

/** Pieces come in the order of their groups. */
export function inGroups(pieces: readonly ShelfPiece[]): Array<{ group: string | null; of: ShelfPiece[] }> {
  const groups: Array<{ group: string | null; of: ShelfPiece[] }> = [];
  for (const piece of pieces) {
    const last = groups.at(-1);
    if (last && last.group === piece.group) last.of.push(piece);
    else groups.push({ group: piece.group, of: [piece] });
  }
  return groups;
}

export function headingOf(by: ShelfGroup, group: string | null): string {
  if (by === 'composer') return group ?? 'Composer not known';
  if (by === 'marked') return group === 'marked' ? 'Marked' : 'Not marked yet';
  if (group === 'several') return 'Several instruments';
  return group ? `For ${INSTRUMENTS[group]}` : 'For other instruments';
}
