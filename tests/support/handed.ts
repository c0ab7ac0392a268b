/** Pieces with one part that is handed out, for tests of what players get. */
import { randomUUID } from 'node:crypto';
import type { MarkKind } from '../../core/marking/kinds';
import type { Access } from '../../server/access';
import { handOut } from '../../server/handouts/hand-out';
import { markingOfPart, storeChanges } from '../../server/markings';
import { takeIn } from '../../server/pieces';
import { players } from '../../server/players';
import { OURSELVES } from '../../server/workers';
import { openDatabase } from './database';
import { demoText } from './demo';

/** A studio with its people and nothing on the shelf, and two of its players. */
export async function studioWithTwo(): Promise<{ studio: Access; ada: string; bo: string }> {
  const studio = await openDatabase();
  const [ada, bo] = (await players(studio)).map(({ id }) => id);
  return { studio, ada: ada!, bo: bo! };
}

export async function markIn(
  studio: Access,
  markingId: string,
  target: string,
  kind: MarkKind,
  value: string | null,
  from: string | null = null,
  more: { why?: string } = {},
): Promise<void> {
  const said = (each: string | null) => (each === null ? null : { value: each, origin: 'coach' as const, ...more });
  const set = {
    id: randomUUID(),
    at: new Date().toISOString(),
    reason: 'Mark',
    undoes: null,
    version: 2,
    changes: [{ target, kind, from: said(from), to: said(value) }],
  };
  const stored = await storeChanges(studio, markingId, [set]);
  if (!stored?.stored.length) throw new Error('not stored');
}

let pieces = 0;
/** A fresh piece with one part and its marking. */
export async function freshPiece(studio: Access) {
  const title = `Low Tide ${++pieces}`;
  const read = await takeIn(studio, `low-tide-${pieces}.musicxml`, new TextEncoder().encode(demoText('low-tide').replaceAll('Low Tide', title)), OURSELVES);
  if (!read.ok) throw new Error(read.problem.what);
  const { firstPartId: part, pieceId } = read.value;
  return { title, part, pieceId, marking: (await markingOfPart(studio, part)).id };
}

/** The first note of such a piece. */
export const FIRST = 'n-0-1-0-A2-0';

export async function give(studio: Access, part: string, to: string[], word = '') {
  const done = await handOut(studio, { word, parts: [{ partId: part, players: to }] });
  if (!done.ok) throw new Error(done.problem.what);
  return done.value[0]!;
}
