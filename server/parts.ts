/** One part: its music, its passages, and the player and tempo it is checked for. */
import { handPreferencesShape, USUAL_PREFERENCES } from '@/core/left-hand/preferences';
import { intonationShape, USUAL_INTONATION } from '../core/checks/target';
import { DENSITIES } from '@/core/left-hand/worth-writing';
import { z } from 'zod';
import { NOTHING_TOLD, SOUNDS } from '../core/instruments/as-told';
import { INSTRUMENT_KINDS } from '../core/instruments/instrument';
import { inTransaction, pool, type Queryable } from './db';

const partRow = z.object({
  id: z.uuid(),
  pieceId: z.uuid(),
  filePartId: z.string(),
  name: z.string(),
  instrument: z.enum(['violin', 'viola', 'cello', 'bass']).nullable(),
  bars: z.number(),
  barLabels: z.array(z.string()),
  title: z.string(),
  composer: z.string().nullable(),
  warnings: z.array(z.object({ place: z.string(), text: z.string() })),
  fileName: z.string(),
});
export type PartRow = z.infer<typeof partRow>;

export async function partById(studioId: string, partId: string): Promise<PartRow | null> {
  if (!z.uuid().safeParse(partId).success) return null;
  const { rows } = await pool().query(
    `SELECT parts.id, piece_id AS "pieceId", file_part_id AS "filePartId", name, instrument, bars, bar_labels AS "barLabels", title, composer, warnings, file_name AS "fileName"
       FROM parts JOIN pieces ON pieces.id = piece_id JOIN sources ON sources.id = coalesce(parts.source_id, pieces.source_id) WHERE parts.studio_id = $1 AND parts.id = $2`,
    [studioId, partId],
  );
  return rows[0] ? partRow.parse(rows[0]) : null;
}

/** Parts of one piece, for moving between them. */
export async function partsOfPiece(studioId: string, pieceId: string): Promise<Array<{ id: string; name: string }>> {
  const { rows } = await pool().query<{ id: string; name: string }>('SELECT id, name FROM parts WHERE studio_id = $1 AND piece_id = $2 ORDER BY position', [
    studioId,
    pieceId,
  ]);
  return rows;
}

export interface Music {
  text: string;
  /** Changes when the part's file is replaced. */
  version: string;
}

/** The latest parts are kept, by version: a part whose file was replaced is read anew. */
const KEPT = 16;
const music = new Map<string, string>();

/** The part as a MusicXML document of its own. */
export async function musicOf(studioId: string, partId: string): Promise<Music | null> {
  const { rows } = await pool().query<{ version: string }>(
    "SELECT substr(md5(coalesce(parts.source_id, pieces.source_id) || ' ' || file_part_id || ' ' || parts.id), 1, 16) AS version FROM parts JOIN pieces ON pieces.id = piece_id WHERE parts.studio_id = $1 AND parts.id = $2",
    [studioId, partId],
  );
  const version = rows[0]?.version;
  if (version === undefined) return null;
  const kept = music.get(version);
  if (kept !== undefined) return { text: kept, version };
  const read = await pool().query<{ music: string }>('SELECT music FROM parts WHERE studio_id = $1 AND id = $2', [studioId, partId]);
  const text = read.rows[0]!.music;
  music.set(version, text);
  if (music.size > KEPT) music.delete(music.keys().next().value!);
  return { text, version };
}

export const passageShape = z
  .object({ name: z.string().trim().min(1).max(80), fromBar: z.int().nonnegative(), toBar: z.int().nonnegative() })
  .refine((passage) => passage.toBar >= passage.fromBar, 'a passage ends before it begins');
export type PassageRow = z.infer<typeof passageShape>;

export async function passagesOf(studioId: string, partId: string): Promise<PassageRow[]> {
  const { rows } = await pool().query(
    'SELECT name, from_bar AS "fromBar", to_bar AS "toBar" FROM passages WHERE studio_id = $1 AND part_id = $2 ORDER BY position',
    [studioId, partId],
  );
  return z.array(passageShape).parse(rows);
}

/** Replaces all passages of a part, in bar order. */
export async function setPassages(studioId: string, partId: string, passages: readonly PassageRow[]): Promise<void> {
  await inTransaction((client) => writePassages(client, studioId, partId, passages));
}

export async function writePassages(client: Queryable, studioId: string, partId: string, passages: readonly PassageRow[]): Promise<void> {
  const inOrder = [...passages].sort((a, b) => a.fromBar - b.fromBar || a.toBar - b.toBar);
  await client.query('DELETE FROM passages WHERE studio_id = $1 AND part_id = $2', [studioId, partId]);
  await client.query(
    `INSERT INTO passages (studio_id, part_id, position, name, from_bar, to_bar)
     SELECT $1, $2, position, name, from_bar, to_bar FROM jsonb_to_recordset($3) AS row (position int, name text, from_bar int, to_bar int)`,
    [studioId, partId, JSON.stringify(inOrder.map(({ name, fromBar, toBar }, position) => ({ position, name, from_bar: fromBar, to_bar: toBar })))],
  );
}

export const partSettingsShape = z.object({
  playerId: z.uuid().nullable(),
  tempo: z.number().min(20).max(320).nullable(),
  /** What the coach says about the part itself. */
  instrument: z.enum(INSTRUMENT_KINDS).nullable(),
  sounds: z.enum(SOUNDS),
  section: z.boolean().nullable(),
  /** Which line of a divided part is planned. */
  line: z.int().min(0).max(20),
  /** How the left hand likes to play this part. */
  preferences: handPreferencesShape,
  /** How many fingers are written when a suggestion is taken. */
  density: z.enum(DENSITIES),
  /** How in tune it is wanted. */
  intonation: intonationShape,
  /** Findings that the coach accepted as they are: what they depended on then, and why. */
  accepted: z.array(z.object({ id: z.string(), key: z.string(), why: z.string().max(600) })).max(2000),
});
export type PartSettings = z.infer<typeof partSettingsShape>;

const NO_SETTINGS: PartSettings = {
  playerId: null,
  tempo: null,
  ...NOTHING_TOLD,
  line: 0,
  preferences: USUAL_PREFERENCES,
  density: 'usual',
  intonation: USUAL_INTONATION,
  accepted: [],
};

export async function partSettings(studioId: string, partId: string): Promise<PartSettings> {
  const { rows } = await pool().query<{ key: string; value: unknown }>(
    "SELECT key, value FROM settings WHERE studio_id = $1 AND scope = 'part' AND scope_id = $2",
    [studioId, partId],
  );
  return partSettingsShape.parse({ ...NO_SETTINGS, ...Object.fromEntries(rows.map((row) => [row.key, row.value])) });
}

export async function setPartSettings(studioId: string, partId: string, settings: Partial<PartSettings>): Promise<void> {
  for (const [key, value] of Object.entries(settings)) {
    await pool().query(
      `INSERT INTO settings (studio_id, scope, scope_id, key, value) VALUES ($1, 'part', $2, $3, $4)
       ON CONFLICT (studio_id, scope, scope_id, key) DO UPDATE SET value = excluded.value`,
      [studioId, partId, key, JSON.stringify(value)],
    );
  }
}
