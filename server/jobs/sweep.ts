/** What has had its time: erased from the bin, and doors that nobody can come through any more. */
import { ownerOf } from '../access';
import { emptyBin } from '../bin';
import { db, pool } from '../db';

/** Goes through all studios. @returns how many pieces and players were erased */
export async function sweep(): Promise<number> {
  const { rows } = await pool().query<{ id: string }>('SELECT studio_ids() AS id');
  let erased = 0;
  for (const { id } of rows) {
    const access = ownerOf(id, 'Omaggio');
    erased += await emptyBin(access);
    await db(access).query("DELETE FROM sessions WHERE studio_id = $1 AND expires_at < now() - interval '1 day'", [id]);
    await db(access).query('DELETE FROM keys WHERE studio_id = $1 AND expires_at < now()', [id]);
    await db(access).query("DELETE FROM printings WHERE studio_id = $1 AND begun_at < now() - interval '7 days'", [id]);
    await db(access).query("DELETE FROM rounds WHERE studio_id = $1 AND ended_at < now() - interval '7 days'", [id]);
  }
  await pool().query('DELETE FROM knocks WHERE expire < extract(epoch FROM now()) * 1000');
  return erased;
}
