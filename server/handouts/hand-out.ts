/** Handing out: a numbered state for each part that differs from what its players have; nothing where nothing changed. */
import { randomUUID } from 'node:crypto';
import { changesBetween } from '../../core/handout/changes';
import type { Frozen } from '../../core/handout/frozen';
import type { HandOutAsked } from '../../core/handout/shapes';
import { bad, good, type Result } from '../../core/util/result';
import type { Access } from '../access';
import { db, inTransaction, type OfStudio, type Queryable } from '../db';
import { noteDoing } from '../doors/doings';
import { forPlayersOnly, frozenFrom, frozenNow, frozenTexts, keepFrozen, type FrozenNow, type GivenTo } from './frozen';

export interface HandoutRow {
  id: string;
  partId: string;
  number: number;
  madeAt: Date;
  madeBy: string;
  word: string;
  state: string;
  music: string;
}

/** @param word where a player may have got a word of their own */
export const handoutColumns = (word = 'handouts.word'): string =>
  `handouts.id, part_id AS "partId", number, made_at AS "madeAt", made_by AS "madeBy", ${word} AS word, state, handouts.music`;

/** The latest hand-out of each of these parts, by part. */
export async function latestOf(access: OfStudio, partIds: readonly string[]): Promise<Map<string, HandoutRow>> {
  const { rows } = await db(access).query<HandoutRow>(
    `SELECT DISTINCT ON (part_id) ${handoutColumns()} FROM handouts WHERE studio_id = $1 AND part_id = ANY($2) ORDER BY part_id, number DESC`,
    [access.studio, partIds],
  );
  return new Map(rows.map((row) => [row.partId, row]));
}

export async function givenTo(client: Queryable, access: OfStudio, handoutId: string): Promise<GivenTo[]> {
  const { rows } = await client.query<GivenTo>(
    'SELECT player_id AS "playerId", own, line FROM handout_players WHERE studio_id = $1 AND handout_id = $2 ORDER BY given_at, player_id',
    [access.studio, handoutId],
  );
  return rows;
}

export interface HandedOut {
  partId: string;
  part: string;
  /** Of the hand-out that its players have now. */
  number: number;
  /** False where nothing had changed: who is new to it got the one that the others have. */
  isNew: boolean;
  players: number;
}

const NOT_THERE = (place: string | null) =>
  bad(place, 'A part or a player of it is no longer there.', 'Nothing was handed out. Reload the page and choose again.');

/** All of it or nothing. */
export async function handOut(access: Access, { word, parts }: HandOutAsked): Promise<Result<HandedOut[]>> {
  const wanted = new Map(parts.map(({ partId, players }) => [partId, [...new Set(players)]]));
  const now: Array<{ partId: string; players: string[]; now: FrozenNow }> = [];
  for (const [partId, players] of wanted) {
    const frozen = await frozenNow(access, partId);
    if (!frozen) return NOT_THERE(null);
    now.push({ partId, players, now: frozen });
  }
  const together = randomUUID();
  return inTransaction(access, async (client) => {
    const known = await client.query<{ id: string }>('SELECT id FROM players WHERE studio_id = $1 AND id = ANY($2) AND removed_at IS NULL', [
      access.studio,
      [...new Set(parts.flatMap(({ players }) => players))],
    ]);
    const there = new Set(known.rows.map(({ id }) => id));
    const done: HandedOut[] = [];
    for (const { partId, players, now: state } of now) {
      if (players.some((id) => !there.has(id))) return NOT_THERE(state.frozen.part);
      done.push(await handOutOne(client, access, { partId, players, word, together, ...state }));
    }
    const titles = [...new Set(now.map(({ now: { frozen } }) => frozen.title))].join(', ');
    await noteDoing(client, access, 'handed out', `${titles}: ${done.map(({ part, number }) => `${part} ${number}`).join(', ')}`);
    return good(done);
  });
}

interface ToHandOut extends FrozenNow {
  partId: string;
  players: readonly string[];
  word: string;
  together: string;
}

async function handOutOne(client: Queryable, access: Access, { partId, players, word, together, frozen, music }: ToHandOut): Promise<HandedOut> {
  await client.query('SELECT id FROM parts WHERE studio_id = $1 AND id = $2 FOR NO KEY UPDATE', [access.studio, partId]);
  const { rows } = await client.query<HandoutRow & { text: string }>(
    `SELECT ${handoutColumns()}, text FROM handouts JOIN frozen ON frozen.studio_id = handouts.studio_id AND sha256 = state
      WHERE handouts.studio_id = $1 AND part_id = $2 ORDER BY number DESC LIMIT 1`,
    [access.studio, partId],
  );
  const last = rows[0];
  const before = last ? await givenTo(client, access, last.id) : [];
  const has = before.map(({ playerId }) => playerId);
  const told = { partId, part: frozen.part, players: players.length };
  // Who has it already decides whether something changed: for who is new all is new.
  const changed = !last || changesBetween(frozenFrom(last.text, before), forPlayersOnly(frozen, has)).length > 0;
  if (last && !changed) {
    // Who is new to it reads the word that came with it this time.
    await give(
      client,
      access,
      last.id,
      frozen,
      players.filter((id) => !has.includes(id)),
      word,
    );
    return { ...told, number: last.number, isNew: false };
  }
  const kept = await keepFrozen(client, access, frozen, music);
  const made = await client.query<{ id: string; number: number }>(
    `INSERT INTO handouts (studio_id, part_id, number, made_by, word, state, music, together) VALUES ($1, $2, $3, $4, $5, $6, $7, $8) RETURNING id, number`,
    [access.studio, partId, (last?.number ?? 0) + 1, access.person, word, kept.state, kept.music, together],
  );
  const { id, number } = made.rows[0]!;
  await give(client, access, id, frozen, players);
  return { ...told, number, isNew: true };
}

async function give(client: Queryable, access: OfStudio, handoutId: string, { own, lines }: Frozen, players: readonly string[], word = ''): Promise<void> {
  const rows = players.map((id) => ({ player_id: id, own: own[id] ?? {}, line: lines[id] ?? null }));
  await client.query(
    `INSERT INTO handout_players (studio_id, handout_id, player_id, own, line, word)
     SELECT $1, $2, player_id, own, line, $4 FROM jsonb_to_recordset($3) AS row (player_id uuid, own jsonb, line int) ON CONFLICT DO NOTHING`,
    [access.studio, handoutId, JSON.stringify(rows), word],
  );
}

export interface OutNow {
  /** Null where nothing was ever handed out. */
  last: HandoutRow | null;
  /** Who has it. */
  has: GivenTo[];
  before: Frozen | null;
  now: FrozenNow;
  /** Something changed for who has it. */
  isChanged: boolean;
}

/** What is out of a part, beside what it is now; null where the part is not there. */
export async function outNow(access: Access, partId: string): Promise<OutNow | null> {
  const now = await frozenNow(access, partId);
  if (!now) return null;
  const last = (await latestOf(access, [partId])).get(partId) ?? null;
  if (!last) return { last, has: [], before: null, now, isChanged: true };
  const [texts, has] = await Promise.all([frozenTexts(access, [last.state]), givenTo(db(access), access, last.id)]);
  const before = frozenFrom(texts.get(last.state)!, has);
  const players = has.map(({ playerId }) => playerId);
  return { last, has, before, now, isChanged: changesBetween(before, forPlayersOnly(now.frozen, players)).length > 0 };
}
