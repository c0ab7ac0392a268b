/** Other editions of a part: brought in, compared, and taken in the part's place with all marks carried over. */
import type { Access } from './access';
import { abcText } from '../core/formats/read';
import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import type { Difference } from '../core/editions/differences';
import type { Marking } from '../core/marking/mark';
import { LIMITS } from '../core/util/limits';
import { bad, good, type Result } from '../core/util/result';
import { shortened } from '../core/util/text';
import type { CarriedOver } from '../workers/server/editions';
import { db, inTransaction, type Queryable } from './db';
import { forgetDeeds } from './deeds';
import { markingOfPart, marksOf, writeMarks } from './markings';
import { musicOf, partById, passagesOf, readPassages, writePassages, type Music, type PassageRow } from './parts';
import { keepSource } from './sources';
import { inView, type PassageView } from './engraving';
import { inWorker, OURSELVES, type Asker } from './workers';

export async function editionsOf(access: Access, partId: string): Promise<Array<{ id: string; name: string }>> {
  const { rows } = await db(access).query<{ id: string; name: string }>(
    'SELECT id, name FROM editions WHERE studio_id = $1 AND part_id = $2 ORDER BY created_at DESC',
    [access.studio, partId],
  );
  return rows;
}

interface EditionRow {
  id: string;
  name: string;
  source_id: string;
  file_part_id: string;
  music: string;
  left_alone: string[];
}

async function editionById(access: Access, partId: string, editionId: string): Promise<EditionRow | null> {
  if (!z.uuid().safeParse(editionId).success) return null;
  const { rows } = await db(access).query<EditionRow>(
    'SELECT id, name, source_id, file_part_id, music, left_alone FROM editions WHERE studio_id = $1 AND part_id = $2 AND id = $3',
    [access.studio, partId, editionId],
  );
  return rows[0] ?? null;
}

/** Takes another edition of a part in: of a score with several parts the one that is most like ours. */
export async function bringIn(access: Access, partId: string, fileName: string, bytes: Uint8Array, asker: Asker): Promise<Result<{ id: string }> | null> {
  const ours = await musicOf(access, partId);
  if (!ours) return null;
  const found = await inWorker('likestPart', { music: ours.text, bytes }, asker);
  if (!found.ok) return found;
  const { filePartId, name, music } = found.value;
  const id = await inTransaction(access, async (client) => {
    const sourceId = await keepSource(client, access, fileName, bytes);
    const { rows } = await client.query<{ id: string }>(
      `INSERT INTO editions (studio_id, part_id, source_id, file_part_id, name, music) VALUES ($1, $2, $3, $4, $5, $6)
       ON CONFLICT (part_id, source_id, file_part_id) DO UPDATE SET name = excluded.name RETURNING id`,
      [access.studio, partId, sourceId, filePartId, `${fileName}, ${name}`, music],
    );
    return rows[0]!.id;
  });
  return good({ id });
}

/** The text that a part was typed as, or that came as a file in ABC; null where its file is another one. */
export async function typedText(access: Access, partId: string): Promise<string | null> {
  if (!(await partById(access, partId))) return null;
  const { rows } = await db(access).query<{ bytes: Buffer }>(
    `SELECT bytes FROM parts JOIN pieces ON pieces.id = piece_id JOIN sources ON sources.id = coalesce(parts.source_id, pieces.source_id)
      WHERE parts.studio_id = $1 AND parts.id = $2`,
    [access.studio, partId],
  );
  return rows[0] ? abcText(rows[0].bytes) : null;
}

export interface Comparison {
  id: string;
  name: string;
  differences: Difference[];
  leftAlone: string[];
  /** How many bars each edition has. */
  bars: { ours: number; theirs: number };
}

export async function compared(access: Access, partId: string, editionId: string): Promise<Comparison | null> {
  const [ours, edition, marking] = await Promise.all([musicOf(access, partId), editionById(access, partId, editionId), markingOfPart(access, partId)]);
  if (!ours || !edition) return null;
  const found = await inWorker('compareEditions', { ours: ours.text, theirs: edition.music, marking: marking.marking }, OURSELVES);
  return { id: edition.id, name: edition.name, leftAlone: edition.left_alone, ...found };
}

export async function engravedEdition(access: Access, partId: string, editionId: string, view: PassageView, asker: Asker) {
  const edition = await editionById(access, partId, editionId);
  return edition && inWorker('engravePassage', { music: edition.music, marking: {}, ...inView(view) }, asker);
}

export async function leaveAlone(access: Access, partId: string, editionId: string, ids: readonly string[]): Promise<boolean> {
  if (!(await editionById(access, partId, editionId))) return false;
  await db(access).query('UPDATE editions SET left_alone = $4 WHERE studio_id = $1 AND part_id = $2 AND id = $3', [
    access.studio,
    partId,
    editionId,
    JSON.stringify(ids),
  ]);
  return true;
}

export interface Replaced {
  /** Marks that found no place in the new file; they are kept. */
  lost: number;
  moved: number;
}

/** How often what was carried over is worked out anew because marks were made meanwhile. */
const MOST_TRIES = 5;

/** Puts another edition in the place of the part's file: passages and marks are carried over, the old file is kept. */
export async function replaceFile(access: Access, partId: string, editionId: string, asker: Asker): Promise<Result<Replaced> | null> {
  for (let tries = 0; tries < MOST_TRIES; tries++) {
    const before = await stateBefore(access, partId, editionId);
    if (!before) return null;
    const { ours, edition, passages, markings } = before;
    if (edition.music === ours.text) return bad(edition.name, 'This is the file that the part has already.', 'Choose another edition.');
    // Worked out before anything is locked: it may take seconds.
    const carried = await inWorker('carryOver', { before: ours.text, after: edition.music, markings: markings.map(({ marking }) => marking), passages }, asker);
    const outcome = await inTransaction(access, (client) => putInPlace(client, access, partId, before, carried));
    if (outcome) return good(outcome);
  }
  return bad(null, 'Marks are being made on this part all the time.', 'Nothing was changed. Wait until nobody marks it, then try again.');
}

interface Before {
  ours: Music;
  edition: EditionRow;
  passages: PassageRow[];
  markings: Array<{ id: string; marking: Marking; sequence: string }>;
}

async function stateBefore(access: Access, partId: string, editionId: string): Promise<Before | null> {
  const [part, ours, edition, passages] = await Promise.all([
    partById(access, partId),
    musicOf(access, partId),
    editionById(access, partId, editionId),
    passagesOf(access, partId),
  ]);
  if (!part || !ours || !edition) return null;
  const states = await markingStates(db(access), access, partId, false);
  const markings = await Promise.all(states.map(async ({ id, sequence }) => ({ id, sequence, marking: await marksOf(db(access), access, id) })));
  return { ours, edition, passages, markings };
}

/** Every marking of a part with the number of its latest change set, so that a later change is noticed. */
async function markingStates(client: Queryable, access: Access, partId: string, lock: boolean): Promise<Array<{ id: string; sequence: string }>> {
  if (lock) await client.query('SELECT id FROM parts WHERE studio_id = $1 AND id = $2 FOR NO KEY UPDATE', [access.studio, partId]);
  if (lock) await client.query('SELECT id FROM markings WHERE studio_id = $1 AND part_id = $2 ORDER BY id FOR UPDATE', [access.studio, partId]);
  const { rows } = await client.query<{ id: string; sequence: string }>(
    `SELECT id, coalesce((SELECT max(sequence) FROM change_sets WHERE studio_id = $1 AND marking_id = markings.id), 0)::text AS sequence
       FROM markings WHERE studio_id = $1 AND part_id = $2 ORDER BY id`,
    [access.studio, partId],
  );
  return rows;
}

/** Writes what was worked out; null where something has changed since. */
async function putInPlace(client: Queryable, access: Access, partId: string, before: Before, carried: CarriedOver): Promise<Replaced | null> {
  const { edition, markings, passages } = before;
  const now = await markingStates(client, access, partId, true);
  const same = now.length === markings.length && now.every(({ id, sequence }, i) => markings[i]!.id === id && markings[i]!.sequence === sequence);
  if (!same || JSON.stringify(await readPassages(client, access, partId)) !== JSON.stringify(passages)) return null;
  let lost = 0;
  let moved = 0;
  for (const [i, { id }] of markings.entries()) {
    const { changes, lost: without } = carried.markings[i]!;
    lost += without;
    moved += changes.filter((change) => change.to !== null).length - without;
    if (changes.length === 0) continue;
    await client.query(
      'INSERT INTO change_sets (id, studio_id, marking_id, author, at, reason, changes, undoes, boundary) VALUES ($1, $2, $3, $4, now(), $5, $6, NULL, true)',
      [randomUUID(), access.studio, id, access.person, shortened(`New file: ${edition.name}`, LIMITS.reason), JSON.stringify(changes)],
    );
    await writeMarks(client, access, id, changes);
  }
  // The file that is replaced stays at hand as an edition, so that it can be taken back.
  await client.query(
    `INSERT INTO editions (studio_id, part_id, source_id, file_part_id, name, music)
     SELECT $1, parts.id, sources.id, file_part_id, sources.file_name || ', ' || parts.name, music
       FROM parts JOIN pieces ON pieces.id = piece_id JOIN sources ON sources.id = coalesce(parts.source_id, pieces.source_id)
      WHERE parts.studio_id = $1 AND parts.id = $2 ON CONFLICT (part_id, source_id, file_part_id) DO NOTHING`,
    [access.studio, partId],
  );
  await client.query(
    'UPDATE parts SET source_id = $3, file_part_id = $4, music = $5, bars = $6, notes = $7, bar_labels = $8 WHERE studio_id = $1 AND id = $2',
    [access.studio, partId, edition.source_id, edition.file_part_id, edition.music, carried.bars, carried.notes, carried.barLabels],
  );
  await writePassages(client, access, partId, carried.passages);
  await forgetDeeds(client, access, partId);
  return { lost, moved };
}
