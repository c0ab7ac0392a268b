/** The people of a studio: instrument, hand, level, and how they were taught. */
import { z } from 'zod';
import { HAND_SIZES, measuredShape, techniqueShape, type PlayerDescription } from '@/core/instruments/player';
import { pool } from './db';

export type PlayerRow = Omit<PlayerDescription, 'size' | 'tuning'> & { id: string; size: string; tuning: string };

export async function players(studioId: string): Promise<PlayerRow[]> {
  const { rows } = await pool().query<PlayerRow>(
    `SELECT id, name, instrument, size, tuning, hand, measured, technique, level, thumb_position AS "thumbPosition"
     FROM players WHERE studio_id = $1 ORDER BY name`,
    [studioId],
  );
  return rows;
}

/** What can be said about a player's hand on the Desk. */
export const handChangeShape = z
  .object({ hand: z.enum(HAND_SIZES), measured: measuredShape.nullable(), technique: techniqueShape.partial(), thumbPosition: z.boolean() })
  .partial();
export type HandChange = z.infer<typeof handChangeShape>;

/** False where there is no such player. */
export async function changeHand(studioId: string, playerId: string, { hand, measured, technique, thumbPosition }: HandChange): Promise<boolean> {
  const { rowCount } = await pool().query(
    `UPDATE players SET
       hand = COALESCE($3, hand),
       measured = CASE WHEN $4 THEN $5::jsonb ELSE measured END,
       technique = technique || COALESCE($6::jsonb, '{}'),
       thumb_position = COALESCE($7, thumb_position)
     WHERE studio_id = $1 AND id = $2`,
    [
      studioId,
      playerId,
      hand ?? null,
      measured !== undefined,
      measured ? JSON.stringify(measured) : null,
      technique ? JSON.stringify(technique) : null,
      thumbPosition ?? null,
    ],
  );
  return rowCount === 1;
}
