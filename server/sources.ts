/** Files as they were received, byte for byte, each kept once. */
import type { Access } from './access';
import { createHash } from 'node:crypto';
import type { Queryable } from './db';

export const digestOf = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/** Keeps a file; the same bytes again are the same source. Returns its id. */
export async function keepSource(client: Queryable, access: Access, fileName: string, bytes: Uint8Array): Promise<string> {
  const sha256 = digestOf(bytes);
  await client.query('INSERT INTO sources (studio_id, sha256, file_name, bytes) VALUES ($1, $2, $3, $4) ON CONFLICT (studio_id, sha256) DO NOTHING', [
    access.studio,
    sha256,
    fileName,
    Buffer.from(bytes),
  ]);
  const { rows } = await client.query<{ id: string }>('SELECT id FROM sources WHERE studio_id = $1 AND sha256 = $2', [access.studio, sha256]);
  return rows[0]!.id;
}

/** Files that nothing needs any more. */
export async function dropUnusedSources(client: Queryable, access: Access): Promise<void> {
  await client.query(
    `DELETE FROM sources WHERE studio_id = $1 AND NOT EXISTS (SELECT 1 FROM papers WHERE source_id = sources.id)
        AND NOT EXISTS (SELECT 1 FROM pieces WHERE source_id = sources.id) AND NOT EXISTS (SELECT 1 FROM parts WHERE source_id = sources.id)
        AND NOT EXISTS (SELECT 1 FROM editions WHERE source_id = sources.id)`,
    [access.studio],
  );
}
