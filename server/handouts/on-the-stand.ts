/** What lies on a player's stand. A player is given nothing but what was handed out to them. */
import { forPlayer, type FrozenForPlayer } from '../../core/handout/frozen';
import { ByteCache } from '../../core/util/byte-cache';
import type { ChangedBar } from '../../core/handout/in-words';
import type { HandShown, StandPart } from '../../workers/server/stand';
import { db, type OfStudio } from '../db';
import { isId } from '../id';
import { SharedWork } from '../shared-work';
import { digestOf } from '../sources';
import { inWorker, type Asker } from '../workers';
import { frozenFrom, frozenTexts, type GivenTo } from './frozen';
import { handoutColumns, type HandoutRow } from './hand-out';

/** A hand-out as one player has it. */
export interface Given extends HandoutRow, GivenTo {
  openedAt: Date | null;
  copied: number[];
}

const GIVEN = `${handoutColumns("coalesce(nullif(handout_players.word, ''), handouts.word)")}, player_id AS "playerId", own, line, opened_at AS "openedAt", copied
  FROM handout_players JOIN handouts ON handouts.id = handout_id JOIN parts ON parts.id = part_id JOIN pieces ON pieces.id = piece_id AND pieces.removed_at IS NULL`;

export interface OnStand {
  partId: string;
  title: string;
  part: string;
  number: number;
  madeAt: Date;
  word: string;
  isOpened: boolean;
}

/** The latest hand-out of each part that a player was given, the latest first. */
export async function standOf(access: OfStudio, playerId: string): Promise<OnStand[]> {
  const { rows } = await db(access).query<Given & { text: string }>(
    `SELECT DISTINCT ON ("partId") handed.*, text FROM (SELECT ${GIVEN} WHERE handout_players.studio_id = $1 AND player_id = $2) AS handed
       JOIN frozen ON frozen.studio_id = $1 AND sha256 = state ORDER BY "partId", number DESC`,
    [access.studio, playerId],
  );
  return rows
    .sort((a, b) => b.madeAt.getTime() - a.madeAt.getTime())
    .map(({ partId, number, madeAt, word, openedAt, text }) => {
      const { title, part } = frozenFrom(text, []);
      return { partId, title, part, number, madeAt, word, isOpened: openedAt !== null };
    });
}

export interface StandSheet {
  given: Given;
  /** As this player reads it. */
  frozen: FrozenForPlayer;
  /** The one that they had before, where there is one. */
  earlier: { number: number; frozen: FrozenForPlayer } | null;
}

/** The latest that a player was given of a part; null where nothing was. */
export async function sheetOf(access: OfStudio, partId: string, playerId: string): Promise<StandSheet | null> {
  if (!isId(partId) || !isId(playerId)) return null;
  const { rows } = await db(access).query<Given>(
    `SELECT ${GIVEN} WHERE handout_players.studio_id = $1 AND player_id = $2 AND part_id = $3 ORDER BY number DESC LIMIT 2`,
    [access.studio, playerId, partId],
  );
  const [given, earlier] = rows;
  if (!given) return null;
  const texts = await frozenTexts(
    access,
    rows.map(({ state }) => state),
  );
  const read = (row: Given): FrozenForPlayer => forPlayer(frozenFrom(texts.get(row.state)!, [row]), playerId);
  return { given, frozen: read(given), earlier: earlier ? { number: earlier.number, frozen: read(earlier) } : null };
}

/** One hand-out as this player was given it; null where they were not. */
export async function givenOf(access: OfStudio, handoutId: string, playerId: string): Promise<FrozenForPlayer | null> {
  const { rows } = await db(access).query<Given>(`SELECT ${GIVEN} WHERE handout_players.studio_id = $1 AND player_id = $2 AND handout_id = $3`, [
    access.studio,
    playerId,
    handoutId,
  ]);
  const [given] = rows;
  const text = given && (await frozenTexts(access, [given.state])).get(given.state);
  return given && text ? forPlayer(frozenFrom(text, [given]), playerId) : null;
}

const utf8 = new TextEncoder();
const KEPT_BYTES = 24 * 1024 * 1024;
const engravings = new ByteCache<StandPart>(KEPT_BYTES);
const underWay = new SharedWork<StandPart>();

const bytesOf = ({ systems }: StandPart): number => systems.reduce((sum, { svg, heads }) => sum + 2 * svg.length + 200 * Object.keys(heads).length, 2_000);

/** A frozen part as it lies on the stand, engraved for a width; kept by what is in it. */
export async function engravedFor(access: OfStudio, frozen: FrozenForPlayer, widthPx: number, asker: Asker, hand?: HandShown): Promise<StandPart> {
  const { music, marking, told, tempo, line } = frozen;
  const key = digestOf(utf8.encode(JSON.stringify([access.studio, music, marking, told, tempo, line, widthPx, hand])));
  const known = engravings.get(key);
  if (known) return known;
  return underWay.get(key, asker.signal, async (signal) => {
    const made = await inWorker('engraveStand', { ...(await readAs(access, frozen)), widthPx, ...(hand ? { hand } : {}) }, { client: asker.client, signal });
    engravings.set(key, made, bytesOf(made));
    return made;
  });
}

/** What a worker needs of a frozen part. */
export async function readAs(access: OfStudio, { music, marking, told, tempo, line }: FrozenForPlayer, notFrozen = '') {
  const text = (await frozenTexts(access, [music])).get(music) ?? notFrozen;
  if (text === '') throw new Error(`frozen music ${music} is gone`);
  return { music: text, marking, told, tempo, line };
}

const said = new ByteCache<ChangedBar[]>(2 * 1024 * 1024);

/** What changed for one player, bar by bar; kept by what is in both. @param notFrozen the later document, where it is not handed out yet */
export async function changedFor(access: OfStudio, before: FrozenForPlayer, after: FrozenForPlayer, asker: Asker, notFrozen = ''): Promise<ChangedBar[]> {
  const key = digestOf(utf8.encode(JSON.stringify([access.studio, before, after])));
  const known = said.get(key);
  if (known) return known;
  const [was, now] = await Promise.all([readAs(access, before), readAs(access, after, notFrozen)]);
  const made = await inWorker('changedForReader', { before: was, after: now }, { client: asker.client, signal: asker.signal });
  said.set(key, made, 200 + 2 * JSON.stringify(made).length);
  return made;
}
