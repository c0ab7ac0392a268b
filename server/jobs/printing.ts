/** Puts all that is out of a piece on paper, a part at a time; ended it keeps what is done, begun again it goes on. */
import { randomUUID } from 'node:crypto';
import type { PaperName } from '../../workers/server/pdf';
import type { Access } from '../access';
import { db, inTransaction, type OfStudio } from '../db';
import { latestOf } from '../handouts/hand-out';
import { printedHandout, type Printed } from '../handouts/paper';
import { partsOfPiece } from '../parts';
import { inWorker, TaskTooMuch, type Asker } from '../workers';
import { PRINT_PART, queue, type PrintJob } from './queue';

export interface PrintingNow {
  id: string;
  paper: PaperName;
  begunBy: string;
  of: number;
  done: number;
  /** Ended before it was done. */
  isStopped: boolean;
  /** Something of it was handed out anew since. */
  isOld: boolean;
  /** What could not be printed: part and why. */
  troubles: Array<{ part: string; trouble: string }>;
}

/** The printing of a piece: under way, ended or done; null where none was begun. */
export async function printingNow(access: Access, pieceId: string): Promise<PrintingNow | null> {
  const { rows } = await db(access).query<Omit<PrintingNow, 'isOld'>>(
    `SELECT printings.id, paper, begun_by AS "begunBy", stopped_at IS NOT NULL AS "isStopped", count(*)::int AS of, count(done_at)::int AS done,
        coalesce(jsonb_agg(jsonb_build_object('part', parts.name, 'trouble', trouble) ORDER BY printing_parts.position) FILTER (WHERE trouble IS NOT NULL), '[]') AS troubles
      FROM printings JOIN printing_parts ON printing_id = printings.id JOIN parts ON parts.id = part_id
      WHERE printings.studio_id = $1 AND printings.piece_id = $2 GROUP BY printings.id`,
    [access.studio, pieceId],
  );
  const [now] = rows;
  return now ? { ...now, isOld: (await namesOf(access, now.id)).join() !== (await outOf(access, pieceId)).map(({ id }) => id).join() } : null;
}

const outOf = async (access: Access, pieceId: string) => {
  const parts = await partsOfPiece(access, pieceId);
  const latest = await latestOf(
    access,
    parts.map(({ id }) => id),
  );
  return parts.flatMap(({ id }) => latest.get(id) ?? []);
};

/** Of the hand-outs that are in it. */
async function namesOf(access: OfStudio, printingId: string): Promise<string[]> {
  const { rows } = await db(access).query<{ id: string }>(
    'SELECT handout_id AS id FROM printing_parts WHERE studio_id = $1 AND printing_id = $2 ORDER BY position',
    [access.studio, printingId],
  );
  return rows.map(({ id }) => id);
}

/** Begins one, or goes on with the one that was ended, where it is of the same hand-outs. Null where nothing is out. */
export async function beginPrinting(access: Access, pieceId: string, paper: PaperName): Promise<PrintingNow | null> {
  const out = await outOf(access, pieceId);
  if (out.length === 0) return null;
  const boss = await queue();
  await inTransaction(access, async (client) => {
    // One at a time, also where two begin it at the same moment.
    await client.query('SELECT 1 FROM pieces WHERE studio_id = $1 AND id = $2 FOR NO KEY UPDATE', [access.studio, pieceId]);
    const before = await client.query<{ id: string; paper: string; stopped: boolean; of: string[] }>(
      `SELECT printings.id, paper, stopped_at IS NOT NULL AS stopped, array_agg(handout_id::text ORDER BY position) AS of
        FROM printings JOIN printing_parts ON printing_id = printings.id WHERE printings.studio_id = $1 AND piece_id = $2 GROUP BY printings.id`,
      [access.studio, pieceId],
    );
    const names = out.map((each) => each.id).join();
    const known = before.rows.find((each) => each.paper === paper && each.of.join() === names);
    if (known && !known.stopped) return;
    const id = known?.id ?? randomUUID();
    if (known) await client.query('UPDATE printings SET stopped_at = NULL WHERE studio_id = $1 AND id = $2', [access.studio, id]);
    else {
      await client.query('DELETE FROM printings WHERE studio_id = $1 AND piece_id = $2', [access.studio, pieceId]);
      await client.query('INSERT INTO printings (id, studio_id, piece_id, begun_by, paper) VALUES ($1, $2, $3, $4, $5)', [
        id,
        access.studio,
        pieceId,
        access.person,
        paper,
      ]);
      for (const [position, { id: handout, partId }] of out.entries())
        await client.query('INSERT INTO printing_parts (printing_id, studio_id, part_id, handout_id, position) VALUES ($1, $2, $3, $4, $5)', [
          id,
          access.studio,
          partId,
          handout,
          position,
        ]);
    }
    const left = await client.query<{ part: string }>(
      'SELECT part_id AS part FROM printing_parts WHERE printing_id = $1 AND done_at IS NULL ORDER BY position',
      [id],
    );
    const jobs = left.rows.map(({ part }) => ({ name: PRINT_PART, data: { studio: access.studio, printing: id, part } satisfies PrintJob }));
    // Either the printing and its work are there, or neither.
    await boss.insert(jobs, { db: { executeSql: (text, values) => client.query(text, values) } });
  });
  return printingNow(access, pieceId);
}

/** Ends it: what is printed stays, the rest is left. False where none is under way. */
export async function stopPrinting(access: Access, pieceId: string): Promise<boolean> {
  const { rowCount } = await db(access).query(
    `UPDATE printings SET stopped_at = now() WHERE studio_id = $1 AND piece_id = $2 AND stopped_at IS NULL
      AND EXISTS (SELECT 1 FROM printing_parts WHERE printing_id = printings.id AND done_at IS NULL)`,
    [access.studio, pieceId],
  );
  return Boolean(rowCount);
}

/** Prints one part; done once, however often it is begun. */
export async function printOne({ studio, printing, part }: PrintJob): Promise<void> {
  const of: OfStudio = { studio };
  const { rows } = await db(of).query<{ handout: string; paper: PaperName }>(
    `SELECT handout_id AS handout, paper FROM printing_parts JOIN printings ON printings.id = printing_id
      WHERE printing_id = $1 AND part_id = $2 AND done_at IS NULL AND stopped_at IS NULL`,
    [printing, part],
  );
  const [todo] = rows;
  if (!todo) return;
  const { pdf, trouble } = await printed(of, todo.handout, todo.paper);
  await db(of).query('UPDATE printing_parts SET done_at = now(), pdf = $3, trouble = $4 WHERE printing_id = $1 AND part_id = $2 AND done_at IS NULL', [
    printing,
    part,
    pdf,
    trouble,
  ]);
}

/** Before the queue takes its worker for gone (`queue.ts`). */
const WITHIN_MS = 100_000;

async function printed(of: OfStudio, handout: string, paper: PaperName): Promise<{ pdf: Uint8Array | null; trouble: string | null }> {
  try {
    return { pdf: await printedHandout(of, handout, paper, { client: 'jobs', withinMs: WITHIN_MS }), trouble: null };
  } catch (error) {
    // Trying again would take as long.
    if (error instanceof TaskTooMuch) return { pdf: null, trouble: 'It is too large to be printed here.' };
    throw error;
  }
}

/** All of it in one file; null where it is not done, or nothing of it could be printed. */
export async function printedFile(access: Access, pieceId: string, asker: Asker): Promise<Printed | null> {
  const { rows } = await db(access).query<{ title: string; pdf: Buffer | null; done: boolean }>(
    `SELECT title, pdf, done_at IS NOT NULL AS done FROM printing_parts JOIN printings ON printings.id = printing_id JOIN pieces ON pieces.id = piece_id
      WHERE printings.studio_id = $1 AND piece_id = $2 ORDER BY position`,
    [access.studio, pieceId],
  );
  const pdfs = rows.flatMap(({ pdf }) => pdf ?? []);
  if (pdfs.length === 0 || rows.some(({ done }) => !done)) return null;
  const { title } = rows[0]!;
  return { fileName: `${title}, parts.pdf`, bytes: await inWorker('joinPdfs', { title, pdfs }, asker) };
}
