/** Markings of one player: what differs from the marking for everybody. */
import type { Access } from './access';
import type { ChangeSet } from '../core/marking/change';
import type { Marking } from '../core/marking/mark';
import { withVariant } from '../core/marking/variant';
import { db, type OfStudio } from './db';
import { isId } from './id';
import { history, markingOfPart, marksOf } from './markings';
import { partById } from './parts';
import { playerById } from './players';

export interface Variant {
  playerId: string;
  markingId: string;
  marking: Marking;
  history: ChangeSet[];
}

/** Those of all players that have one for a part, without their histories. */
export async function variantsOf(access: Access, partId: string): Promise<Array<Omit<Variant, 'history'>>> {
  const { rows } = await db(access).query<{ id: string; player_id: string }>(
    'SELECT id, player_id FROM markings WHERE studio_id = $1 AND part_id = $2 AND player_id IS NOT NULL ORDER BY created_at',
    [access.studio, partId],
  );
  return Promise.all(rows.map(async ({ id, player_id: playerId }) => ({ playerId, markingId: id, marking: await marksOf(db(access), access, id) })));
}

/** One player's; null where nothing was ever marked for them alone. */
export async function variantOf(access: OfStudio, partId: string, playerId: string | null): Promise<Variant | null> {
  if (!isId(partId) || !isId(playerId)) return null;
  const { rows } = await db(access).query<{ id: string }>('SELECT id FROM markings WHERE studio_id = $1 AND part_id = $2 AND player_id = $3', [
    access.studio,
    partId,
    playerId,
  ]);
  const markingId = rows[0]?.id;
  if (!markingId) return null;
  const [marking, sets] = await Promise.all([marksOf(db(access), access, markingId), history(access, markingId)]);
  return { playerId, markingId, marking, history: sets.map(({ author: _, ...set }) => set) };
}

/** One player's, begun where there is none; null where the part or the player is not there. */
export async function openVariant(access: Access, partId: string, playerId: string): Promise<Variant | null> {
  if (!isId(playerId)) return null;
  const [part, player] = await Promise.all([partById(access, partId), playerById(access, playerId)]);
  if (!part || !player) return null;
  await db(access).query(
    `INSERT INTO markings (studio_id, part_id, name, player_id) VALUES ($1, $2, $3, $4)
     ON CONFLICT (part_id, player_id) WHERE player_id IS NOT NULL DO NOTHING`,
    [access.studio, part.id, player.name, player.id],
  );
  return variantOf(access, part.id, player.id);
}

/** The marks of a part as one player has them; as everybody has them for null or for a player without own marks. */
export async function markingFor(access: OfStudio, partId: string, playerId: string | null): Promise<Marking> {
  const [everybody, own] = await Promise.all([markingOfPart(access, partId), variantOf(access, partId, playerId)]);
  return own ? withVariant(everybody.marking, own.marking) : everybody.marking;
}
