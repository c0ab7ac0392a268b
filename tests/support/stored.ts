/** What tests of the database put on the shelf, mark and count. */
import { randomUUID } from 'node:crypto';
import type { ChangeSet } from '../../core/marking/change';
import type { Access } from '../../server/access';
import { everything } from './database';
import { takeIn } from '../../server/pieces';
import { OURSELVES } from '../../server/workers';
import { demoText } from './demo';

export const bytesOf = (name: string): Uint8Array => new TextEncoder().encode(demoText(name));

export async function counts() {
  const { rows } = await everything.query<Record<'sources' | 'pieces' | 'parts' | 'markings', number>>(
    'SELECT (SELECT count(*)::int FROM sources) AS sources, (SELECT count(*)::int FROM pieces) AS pieces, (SELECT count(*)::int FROM parts) AS parts, (SELECT count(*)::int FROM markings) AS markings',
  );
  return rows[0]!;
}

/** A demo score, taken in. */
export async function taken(studio: Access, name: string) {
  const piece = await takeIn(studio, `${name}.musicxml`, bytesOf(name), OURSELVES);
  if (!piece.ok) throw new Error(piece.problem.what);
  return piece.value;
}

/** One finger, from what it was to what it shall be. */
export const fingerSet = (target: string, from: string | null, to: string | null, more: Partial<ChangeSet> = {}): ChangeSet => ({
  id: randomUUID(),
  at: '2030-01-01T10:00:00.000Z',
  reason: 'Finger',
  undoes: null,
  version: 2,
  changes: [{ target, kind: 'finger', from: from === null ? null : { value: from, origin: 'coach' }, to: to === null ? null : { value: to, origin: 'coach' } }],
  ...more,
});
