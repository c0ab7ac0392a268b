/** Checks every part that lies on the shelf, as it is marked now, for the player and the tempo that its Desk has. */
import { randomUUID } from 'node:crypto';
import { toldOf } from '../../core/instruments/as-told';
import type { Access } from '../access';
import { db, inTransaction, type OfStudio, type Queryable } from '../db';
import { musicOf, partSettings, VERSION_OF_PART } from '../parts';
import { players } from '../players';
import { markingFor } from '../variants';
import { inWorker, TaskTooMuch } from '../workers';
import { CHECK_PART, queue, type PartJob } from './queue';

/** What the check of a part depends on, as far as it is stored: its music, its settings, its marks and its player. Of `parts` joined with `pieces`. */
const STATE = `md5(concat_ws(' ', ${VERSION_OF_PART},
  (SELECT jsonb_object_agg(key, value) FROM settings WHERE scope = 'part' AND scope_id = parts.id),
  (SELECT max(sequence) FROM change_sets JOIN markings ON markings.id = marking_id WHERE part_id = parts.id),
  (SELECT to_jsonb(players) FROM players JOIN settings ON scope = 'part' AND scope_id = parts.id AND key = 'playerId' AND value = to_jsonb(players.id::text))))`;

export interface RoundNow {
  id: string;
  done: number;
  of: number;
  begunBy: string;
}

/** The round that is under way; null where there is none. */
export async function roundNow(access: OfStudio): Promise<RoundNow | null> {
  const { rows } = await db(access).query<RoundNow>(
    `SELECT rounds.id, begun_by AS "begunBy", count(*)::int AS of, count(done_at)::int AS done FROM rounds JOIN round_parts ON round_id = rounds.id
      WHERE rounds.studio_id = $1 AND ended_at IS NULL GROUP BY rounds.id`,
    [access.studio],
  );
  return rows[0] ?? null;
}

/** Begins one over the parts that have no check of how they are now; the one that is under way where there is one. Null where nothing is to be checked. */
export async function beginRound(access: Access): Promise<RoundNow | null> {
  const { rows } = await db(access).query<{ id: string }>(
    `SELECT parts.id FROM parts JOIN pieces ON pieces.id = piece_id LEFT JOIN checks ON part_id = parts.id
      WHERE parts.studio_id = $1 AND removed_at IS NULL AND state IS DISTINCT FROM ${STATE} ORDER BY pieces.created_at DESC, parts.position`,
    [access.studio],
  );
  const stale = rows.map(({ id }) => id);
  const under = await roundNow(access);
  if (under || stale.length === 0) return under;
  const id = randomUUID();
  const boss = await queue();
  try {
    await inTransaction(access, async (client) => {
      await client.query('INSERT INTO rounds (id, studio_id, begun_by) VALUES ($1, $2, $3)', [id, access.studio, access.person]);
      await client.query('INSERT INTO round_parts (round_id, studio_id, part_id) SELECT $1, $2, unnest($3::uuid[])', [id, access.studio, stale]);
      const jobs = stale.map((part) => ({ name: CHECK_PART, data: { studio: access.studio, round: id, part } satisfies PartJob }));
      // Either the round and its work are there, or neither.
      await boss.insert(jobs, { db: { executeSql: (text, values) => client.query(text, values) } });
    });
  } catch (error) {
    // Begun by somebody else at the same moment.
    if ((error as { constraint?: string }).constraint !== 'one_round_at_a_time') throw error;
  }
  return roundNow(access);
}

/** Ends a round: what is being checked is checked to its end, the rest is left. False where none is under way. */
export async function endRound(access: OfStudio): Promise<boolean> {
  const { rowCount } = await db(access).query('UPDATE rounds SET ended_at = now() WHERE studio_id = $1 AND ended_at IS NULL', [access.studio]);
  return Boolean(rowCount);
}

async function stateOf(of: OfStudio, partId: string): Promise<string | null> {
  const { rows } = await db(of).query<{ state: string }>(
    `SELECT ${STATE} AS state FROM parts JOIN pieces ON pieces.id = piece_id WHERE parts.studio_id = $1 AND parts.id = $2`,
    [of.studio, partId],
  );
  return rows[0]?.state ?? null;
}

/** Does one part of a round; done once, however often it is begun. */
export async function checkOne({ studio, round, part }: PartJob): Promise<void> {
  const of: OfStudio = { studio };
  const { rows } = await db(of).query<{ done_at: Date | null; ended_at: Date | null }>(
    'SELECT done_at, ended_at FROM round_parts JOIN rounds ON rounds.id = round_id WHERE round_id = $1 AND part_id = $2',
    [round, part],
  );
  if (!rows[0] || rows[0].done_at || rows[0].ended_at) return;
  const state = await stateOf(of, part);
  const found = state === null ? null : await verdictOn(of, part);
  await inTransaction(of, async (client) => {
    const done = await client.query('UPDATE round_parts SET done_at = now() WHERE round_id = $1 AND part_id = $2 AND done_at IS NULL', [round, part]);
    // A worker that was slow and taken for gone comes with it after the one that did it in its place.
    if (!done.rowCount) return;
    if (state !== null && found) await writeCheck(client, of, part, state, found);
    await client.query(
      'UPDATE rounds SET ended_at = now() WHERE id = $1 AND ended_at IS NULL AND NOT EXISTS (SELECT 1 FROM round_parts WHERE round_id = $1 AND done_at IS NULL)',
      [round],
    );
  });
}

interface Found {
  counts: readonly number[] | null;
  worst: { bar: string; text: string } | null;
  trouble: string | null;
}

/** Before the queue takes its worker for gone (`queue.ts`). */
const WITHIN_MS = 100_000;

async function verdictOn(access: OfStudio, partId: string): Promise<Found | null> {
  const [music, settings, people] = await Promise.all([musicOf(access, partId), partSettings(access, partId), players(access)]);
  if (!music) return null;
  const { tempo, preferences, density, intonation, line, accepted, playerId } = settings;
  const marking = await markingFor(access, partId, playerId);
  const player = people.find(({ id }) => id === playerId) ?? null;
  const conditions = { marking, player, tempo, told: toldOf(settings), preferences, density, intonation, line };
  try {
    return { ...(await inWorker('checkPart', { music: music.text, conditions, accepted }, { client: 'jobs', withinMs: WITHIN_MS })), trouble: null };
  } catch (error) {
    // Trying again would take as long.
    if (error instanceof TaskTooMuch)
      return { counts: null, worst: null, trouble: 'It takes too long to be checked as a whole; its Desk checks it passage by passage.' };
    throw error;
  }
}

async function writeCheck(client: Queryable, { studio }: OfStudio, partId: string, state: string, { counts, worst, trouble }: Found): Promise<void> {
  await client.query(
    `INSERT INTO checks (part_id, studio_id, state, checked_at, counts, worst, trouble) VALUES ($1, $2, $3, now(), $4, $5, $6)
     ON CONFLICT (part_id) DO UPDATE SET state = excluded.state, checked_at = excluded.checked_at, counts = excluded.counts, worst = excluded.worst, trouble = excluded.trouble`,
    [partId, studio, state, counts, worst && JSON.stringify(worst), trouble],
  );
}

export interface CheckOfPart {
  counts: [watch: number, risk: number, fail: number] | null;
  worst: { bar: string; text: string } | null;
  trouble: string | null;
  /** Nothing that it depends on has changed since. */
  isCurrent: boolean;
}

/** Of these parts what the last check came to. */
export async function checksOf(access: Access, partIds: readonly string[]): Promise<Record<string, CheckOfPart>> {
  const { rows } = await db(access).query<CheckOfPart & { id: string }>(
    `SELECT parts.id, counts, worst, trouble, state = ${STATE} AS "isCurrent" FROM checks JOIN parts ON parts.id = part_id JOIN pieces ON pieces.id = piece_id
      WHERE checks.studio_id = $1 AND part_id = ANY($2)`,
    [access.studio, partIds],
  );
  return Object.fromEntries(rows.map(({ id, ...check }) => [id, check]));
}
