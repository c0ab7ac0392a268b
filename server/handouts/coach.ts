/** Hand-outs as the coach sees them: what is out, who has seen it, what was answered, and what would go out now. */
import { forPlayer } from '../../core/handout/frozen';
import type { ChangedBar } from '../../core/handout/in-words';
import type { AnswerKind } from '../../core/handout/shapes';
import type { InstrumentKind } from '../../core/score/score';
import type { Access } from '../access';
import { db, type OfStudio } from '../db';
import { noteDoing } from '../doors/doings';
import { isId } from '../id';
import { partsOfPiece } from '../parts';
import type { Asker } from '../workers';
import { outNow } from './hand-out';
import { changedFor } from './on-the-stand';

export interface HasIt {
  playerId: string;
  name: string;
  openedAt: Date | null;
  /** How many of the changed bars are copied. */
  copied: number;
}

export interface AnswerShown {
  id: string;
  partId: string;
  part: string;
  number: number;
  player: string;
  /** As people say the bar; null for the whole part. */
  bar: string | null;
  barIndex: number | null;
  kind: AnswerKind;
  words: string;
  at: Date;
  settledAt: Date | null;
}

export interface OutOfPart {
  partId: string;
  part: string;
  instrument: InstrumentKind | null;
  last: { number: number; madeAt: Date; madeBy: string; word: string } | null;
  has: HasIt[];
  /** What the next one would say, for everybody; null where nothing changed. */
  next: { number: number; changes: ChangedBar[]; ownMarks: number } | null;
  /** Who would get it. */
  usual: string[];
}

async function whoHas(access: OfStudio, partIds: readonly string[]): Promise<Array<HasIt & { partId: string }>> {
  const { rows } = await db(access).query<HasIt & { partId: string }>(
    `SELECT part_id AS "partId", players.id AS "playerId", players.name, opened_at AS "openedAt", cardinality(copied) AS copied
       FROM handout_players JOIN handouts ON handouts.id = handout_id JOIN players ON players.id = player_id
      WHERE handouts.studio_id = $1 AND part_id = ANY($2) AND players.removed_at IS NULL
        AND number = (SELECT max(number) FROM handouts AS latest WHERE latest.part_id = handouts.part_id) ORDER BY players.name, players.id`,
    [access.studio, partIds],
  );
  return rows;
}

/** Of every part of a piece; null where there is no such piece. */
export async function outOfPiece(access: Access, pieceId: string, asker: Asker): Promise<OutOfPart[] | null> {
  if (!isId(pieceId)) return null;
  const parts = await partsOfPiece(access, pieceId);
  if (parts.length === 0) return null;
  const has = await whoHas(
    access,
    parts.map(({ id }) => id),
  );
  return Promise.all(
    parts.map(async ({ id, name }): Promise<OutOfPart> => {
      const out = (await outNow(access, id))!;
      const { last, before, now } = out;
      const mine = has.filter(({ partId }) => partId === id);
      const changes = before && out.isChanged ? await changedFor(access, forPlayer(before, EVERYBODY), forPlayer(now.frozen, EVERYBODY), asker, now.music) : [];
      return {
        partId: id,
        part: name,
        instrument: now.instrument,
        last: last && { number: last.number, madeAt: last.madeAt, madeBy: last.madeBy, word: last.word },
        has: mine.map(({ partId: _, ...each }) => each),
        next: out.isChanged ? { number: (last?.number ?? 0) + 1, changes, ownMarks: Object.keys(now.frozen.own).length } : null,
        usual: [...new Set([...mine.map(({ playerId }) => playerId), ...now.usual])],
      };
    }),
  );
}

/** Nobody's id: what everybody reads. */
const EVERYBODY = '';

/** What was answered to the hand-outs of a part, or of every part of the studio; what hurts first, then the latest. */
export async function answersTo(access: OfStudio, of: { partId?: string; open?: boolean } = {}): Promise<AnswerShown[]> {
  const { rows } = await db(access).query<AnswerShown>(
    `SELECT answers.id, part_id AS "partId", parts.name AS part, number, players.name AS player, bar_labels[bar + 1] AS bar, bar AS "barIndex", kind, words, at,
            settled_at AS "settledAt"
       FROM answers JOIN handouts ON handouts.id = handout_id JOIN parts ON parts.id = part_id JOIN pieces ON pieces.id = piece_id
       JOIN players ON players.id = player_id
      WHERE answers.studio_id = $1 AND ($2::uuid IS NULL OR part_id = $2) AND pieces.removed_at IS NULL AND ($3 = false OR settled_at IS NULL)
      ORDER BY (settled_at IS NULL) DESC, (kind = 'hurts') DESC, received_at DESC, answers.id LIMIT 500`,
    [access.studio, of.partId ?? null, of.open ?? false],
  );
  return rows;
}

/** Says that an answer is dealt with, or open again. False where it is not there. */
export async function settle(access: Access, answerId: string, isSettled: boolean): Promise<boolean> {
  if (!isId(answerId)) return false;
  const { rowCount } = await db(access).query(
    `UPDATE answers SET settled_at = CASE WHEN $3 THEN coalesce(settled_at, now()) END, settled_by = CASE WHEN $3 THEN $4 END WHERE studio_id = $1 AND id = $2`,
    [access.studio, answerId, isSettled, access.person],
  );
  if (rowCount) await noteDoing(db(access), access, isSettled ? 'dealt with an answer' : 'took up an answer again', '');
  return Boolean(rowCount);
}

export interface OutOfShelf {
  /** Of the piece's parts that are out: how many players have the latest, and how many of them have opened it. */
  players: number;
  opened: number;
  open: number;
  hurts: boolean;
  lastAt: Date;
}

/** Of these pieces what is out; a piece of which nothing is out is not in it. */
export async function outOfShelf(access: Access, pieceIds: readonly string[]): Promise<Record<string, OutOfShelf>> {
  const { rows } = await db(access).query<OutOfShelf & { pieceId: string }>(
    `WITH latest AS (
       SELECT DISTINCT ON (part_id) handouts.id, piece_id, made_at FROM handouts JOIN parts ON parts.id = part_id
        WHERE handouts.studio_id = $1 AND piece_id = ANY($2) ORDER BY part_id, number DESC)
     SELECT piece_id AS "pieceId", max(latest.made_at) AS "lastAt",
            (SELECT count(*)::int FROM handout_players WHERE handout_id = ANY(array_agg(latest.id))) AS players,
            (SELECT count(opened_at)::int FROM handout_players WHERE handout_id = ANY(array_agg(latest.id))) AS opened,
            (SELECT count(*)::int FROM answers JOIN handouts ON handouts.id = handout_id JOIN parts ON parts.id = part_id
              WHERE parts.piece_id = latest.piece_id AND settled_at IS NULL) AS open,
            EXISTS (SELECT 1 FROM answers JOIN handouts ON handouts.id = handout_id JOIN parts ON parts.id = part_id
              WHERE parts.piece_id = latest.piece_id AND settled_at IS NULL AND kind = 'hurts') AS hurts
       FROM latest GROUP BY piece_id`,
    [access.studio, pieceIds],
  );
  return Object.fromEntries(rows.map(({ pieceId, ...out }) => [pieceId, out]));
}
