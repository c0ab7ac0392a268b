/** One part: its music, its passages, and the player and tempo it is checked for. */
import type { Access } from './access';
import { FASTEST_TEMPO, SLOWEST_TEMPO } from '@/core/score/time';
import { handPreferencesShape, USUAL_PREFERENCES } from '@/core/left-hand/preferences';
import { intonationShape, USUAL_INTONATION } from '../core/checks/target';
import { DENSITIES } from '@/core/left-hand/worth-writing';
import { z } from 'zod';
import { ByteCache } from '../core/util/byte-cache';
import { LIMITS } from '../core/util/limits';
import { bad, good, type Result } from '../core/util/result';
import { cleanLine, cleanText, titleText } from '../core/util/text';
import { NOTHING_TOLD, SOUNDS } from '../core/instruments/as-told';
import { INSTRUMENT_KINDS } from '../core/instruments/instrument';
import { RECORD_VERSION } from '../core/marking/versions';
import { db, inTransaction, type OfStudio, type Queryable } from './db';
import { writeDeed, type Deed } from './deeds';
import { acceptedFindingForward, resolutionOf } from './forward';

const partRow = z.object({
  id: z.uuid(),
  pieceId: z.uuid(),
  filePartId: z.string(),
  name: z.string(),
  instrument: z.enum(INSTRUMENT_KINDS).nullable(),
  bars: z.number(),
  barLabels: z.array(z.string()),
  title: z.string(),
  composer: z.string().nullable(),
  warnings: z.array(z.object({ place: z.string(), text: z.string() })),
  fileName: z.string(),
});
export type PartRow = z.infer<typeof partRow>;

export async function partById(access: Access, partId: string): Promise<PartRow | null> {
  if (!z.uuid().safeParse(partId).success) return null;
  const { rows } = await db(access).query(
    `SELECT parts.id, piece_id AS "pieceId", file_part_id AS "filePartId", name, instrument, bars, bar_labels AS "barLabels", title, composer, warnings, file_name AS "fileName"
       FROM parts JOIN pieces ON pieces.id = piece_id JOIN sources ON sources.id = coalesce(parts.source_id, pieces.source_id) WHERE parts.studio_id = $1 AND parts.id = $2`,
    [access.studio, partId],
  );
  return rows[0] ? partRow.parse(rows[0]) : null;
}

/** Parts of one piece, for moving between them. */
export async function partsOfPiece(access: Access, pieceId: string): Promise<Array<{ id: string; name: string }>> {
  const { rows } = await db(access).query<{ id: string; name: string }>(
    'SELECT id, name FROM parts WHERE studio_id = $1 AND piece_id = $2 ORDER BY (instrument IS NULL), position',
    [access.studio, pieceId],
  );
  return rows;
}

export interface Music {
  text: string;
  /** Changes when the part's file is replaced. */
  version: string;
}

/** The latest parts are kept, by version: a part whose file was replaced is read anew. */
const music = new ByteCache<string>(32 * 1024 * 1024);

/** Says which file a part stands in. Of `parts` joined with `pieces`. */
export const VERSION_OF_PART =
  "substr(md5(coalesce(parts.source_id, pieces.source_id) || ' ' || file_part_id || ' ' || parts.id || ' ' || parts.version), 1, 16)";
const VERSION = `${VERSION_OF_PART} AS version`;

/** In which version a part stands; null where it is not there. */
export async function musicVersion(access: OfStudio, partId: string): Promise<string | null> {
  const { rows } = await db(access).query<{ version: string }>(
    `SELECT ${VERSION} FROM parts JOIN pieces ON pieces.id = piece_id WHERE parts.studio_id = $1 AND parts.id = $2`,
    [access.studio, partId],
  );
  return rows[0]?.version ?? null;
}

/** The part as a MusicXML document of its own. */
export async function musicOf(access: OfStudio, partId: string): Promise<Music | null> {
  const version = await musicVersion(access, partId);
  if (version === null) return null;
  const known = music.get(version);
  if (known !== undefined) return { text: known, version };
  // Text and version in one look, so that they belong together while the file is being replaced.
  const read = await db(access).query<Music>(
    `SELECT music AS text, ${VERSION} FROM parts JOIN pieces ON pieces.id = piece_id WHERE parts.studio_id = $1 AND parts.id = $2`,
    [access.studio, partId],
  );
  const found = read.rows[0];
  if (!found) return null;
  music.set(found.version, found.text, 2 * found.text.length);
  return { text: found.text, version: found.version };
}

export const passageShape = z
  .object({ name: z.string().transform(cleanLine).pipe(z.string().min(1).max(LIMITS.name)), fromBar: z.int().nonnegative(), toBar: z.int().nonnegative() })
  .refine((passage) => passage.toBar >= passage.fromBar, 'a passage ends before it begins');
export type PassageRow = z.infer<typeof passageShape>;
/** As it lies in the database, whatever limits were when it was stored. */
const storedPassageShape = z.object({ name: z.string(), fromBar: z.number(), toBar: z.number() });

export const passagesOf = (access: Access, partId: string): Promise<PassageRow[]> => readPassages(db(access), access, partId);

export async function readPassages(client: Queryable, access: Access, partId: string): Promise<PassageRow[]> {
  const { rows } = await client.query(
    'SELECT name, from_bar AS "fromBar", to_bar AS "toBar" FROM passages WHERE studio_id = $1 AND part_id = $2 ORDER BY position',
    [access.studio, partId],
  );
  return z.array(storedPassageShape).parse(rows);
}

/**
 * Replaces all passages of a part, in bar order. Where `from` is given and is not what is stored, nothing is written and what is
 * stored comes back; that it is stored already is no clash.
 */
export async function setPassages(
  access: Access,
  partId: string,
  to: readonly PassageRow[],
  from: readonly PassageRow[] | null = null,
  deed?: Deed,
): Promise<{ ok: boolean; passages: PassageRow[] }> {
  return inTransaction(access, async (client) => {
    await client.query('SELECT id FROM parts WHERE studio_id = $1 AND id = $2 FOR UPDATE', [access.studio, partId]);
    const stored = await readPassages(client, access, partId);
    if (samePassages(stored, to)) return { ok: true, passages: stored };
    if (from && !samePassages(stored, from)) return { ok: false, passages: stored };
    await writePassages(client, access, partId, to);
    if (deed) await writeDeed(client, access, partId, deed, { about: 'passages', before: stored, after: to });
    return { ok: true, passages: await readPassages(client, access, partId) };
  });
}

const inBarOrder = (passages: readonly PassageRow[]): PassageRow[] => [...passages].sort((a, b) => a.fromBar - b.fromBar || a.toBar - b.toBar);

const samePassages = (a: readonly PassageRow[], b: readonly PassageRow[]): boolean => {
  const text = (passages: readonly PassageRow[]) => JSON.stringify(inBarOrder(passages).map(({ name, fromBar, toBar }) => [name, fromBar, toBar]));
  return text(a) === text(b);
};

export async function writePassages(client: Queryable, access: Access, partId: string, passages: readonly PassageRow[]): Promise<void> {
  const inOrder = inBarOrder(passages);
  await client.query('DELETE FROM passages WHERE studio_id = $1 AND part_id = $2', [access.studio, partId]);
  await client.query(
    `INSERT INTO passages (studio_id, part_id, position, name, from_bar, to_bar)
     SELECT $1, $2, position, name, from_bar, to_bar FROM jsonb_to_recordset($3) AS row (position int, name text, from_bar int, to_bar int)`,
    [
      access.studio,
      partId,
      JSON.stringify(
        inOrder.map(({ name, fromBar, toBar }, position) => ({ position, name: titleText(name, LIMITS.name) || 'Passage', from_bar: fromBar, to_bar: toBar })),
      ),
    ],
  );
}

const findingText = z.string().max(2_000).transform(cleanText);
const acceptedShape = z.object({
  id: findingText,
  key: findingText,
  why: z.string().transform(cleanText).pipe(z.string().max(LIMITS.acceptedWhy)),
  /** How its notes are named (`core/marking/versions.ts`); absent in the first version. */
  version: z.int().min(1).max(RECORD_VERSION).optional(),
});

export const partSettingsShape = z.object({
  playerId: z.uuid().nullable(),
  tempo: z.number().min(SLOWEST_TEMPO).max(FASTEST_TEMPO).nullable(),
  /** What the coach says about the part itself. */
  instrument: z.enum(INSTRUMENT_KINDS).nullable(),
  sounds: z.enum(SOUNDS),
  section: z.boolean().nullable(),
  octaves: z.int().min(-3).max(3),
  /** The only staff that is played. */
  staff: z.int().min(1).max(4).nullable(),
  /** Which line of a divided part is planned. */
  line: z.int().min(0).max(20),
  /** How the left hand likes to play this part. */
  preferences: handPreferencesShape,
  /** How many fingers are written when a suggestion is taken. */
  density: z.enum(DENSITIES),
  /** How in tune it is wanted. */
  intonation: intonationShape,
  /** Players of the section in the order of their seats, two at a desk. */
  seats: z
    .array(z.uuid())
    .max(LIMITS.seats)
    .refine((ids) => new Set(ids).size === ids.length, 'Somebody sits in two places'),
  /** Who has which line of a divided part, from 0; who is not in it plays what can be played of all. */
  divisi: z.record(z.uuid(), z.int().min(0).max(20)),
  /** Findings that the coach accepted as they are: what they depended on then, and why. */
  accepted: z.array(acceptedShape),
});
export type PartSettings = z.infer<typeof partSettingsShape>;

/** What may be said anew: settings one by one, and findings that are accepted or taken up again. */
export const settingsChangeShape = partSettingsShape
  .omit({ accepted: true })
  .partial()
  .extend({ accept: z.array(acceptedShape).max(LIMITS.accepted).optional(), release: z.array(findingText).max(LIMITS.accepted).optional() });
export type SettingsChange = z.infer<typeof settingsChangeShape>;

const NO_SETTINGS: PartSettings = {
  playerId: null,
  tempo: null,
  ...NOTHING_TOLD,
  line: 0,
  preferences: USUAL_PREFERENCES,
  density: 'usual',
  intonation: USUAL_INTONATION,
  seats: [],
  divisi: {},
  accepted: [],
};

export const partSettings = (access: OfStudio, partId: string): Promise<PartSettings> => readSettings(db(access), access, partId);

async function readSettings(client: Queryable, access: OfStudio, partId: string): Promise<PartSettings> {
  const { rows } = await client.query<{ key: string; value: unknown }>(
    "SELECT key, value FROM settings WHERE studio_id = $1 AND scope = 'part' AND scope_id = $2",
    [access.studio, partId],
  );
  return partSettingsShape.parse({ ...NO_SETTINGS, ...Object.fromEntries(rows.map((row) => [row.key, row.value])) });
}

/** Each setting by its name; those that are undefined stay as they are. */
export async function writeSettings(client: Queryable, access: Access, partId: string, values: Readonly<Record<string, unknown>>): Promise<void> {
  const rows = Object.entries(values)
    .filter(([, value]) => value !== undefined)
    .map(([key, value]) => ({ key, value }));
  await client.query(
    `INSERT INTO settings (studio_id, scope, scope_id, key, value)
     SELECT $1, 'part', $2, said->>'key', said->'value' FROM jsonb_array_elements($3::jsonb) AS said
     ON CONFLICT (studio_id, scope, scope_id, key) DO UPDATE SET value = excluded.value`,
    [access.studio, partId, JSON.stringify(rows)],
  );
}

/** Says settings anew, all of them or none. @param deed kept so that it can be taken back, with what takes it back */
export async function setPartSettings(
  access: Access,
  partId: string,
  { accept, release, ...settings }: SettingsChange,
  deed?: Deed & { before: SettingsChange },
): Promise<Result<null>> {
  return inTransaction(access, async (client) => {
    const values: Record<string, unknown> = settings;
    if (accept || release) {
      await client.query('SELECT id FROM parts WHERE studio_id = $1 AND id = $2 FOR UPDATE', [access.studio, partId]);
      const { accepted } = await readSettings(client, access, partId);
      const earlier = accept?.some(({ version }) => version === undefined);
      const resolution = earlier ? await resolutionOf(client, partId) : 1;
      const added = (accept ?? []).map((each) => acceptedFindingForward(each, resolution));
      const gone = new Set([...(release ?? []), ...added.map(({ id }) => id)]);
      const next = [...accepted.filter(({ id }) => !gone.has(id)), ...added];
      if (next.length > LIMITS.accepted) {
        return bad('accepted findings', `A part can have ${LIMITS.accepted} of them.`, 'Take up again those that are of no more use, then accept this one.');
      }
      values.accepted = next;
    }
    await writeSettings(client, access, partId, values);
    if (deed) {
      const after = { ...settings, ...(accept ? { accept } : {}), ...(release ? { release } : {}) };
      await writeDeed(client, access, partId, deed, { about: 'settings', before: deed.before, after });
    }
    return good(null);
  });
}
