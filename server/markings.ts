/** Markings: the marks in force, and the change sets that led to them. */
import type { Access } from './access';
import { applyChanges, squashed, type Change, type ChangeSet } from '../core/marking/change';
import { markKey, type Mark, type Marking } from '../core/marking/mark';
import type { MarkKind } from '../core/marking/kinds';
import { changeSetShape, type StoreAnswer } from '../core/marking/wire';
import { changesForward, RECORD_VERSION } from '../core/marking/versions';
import { db, inTransaction, type OfStudio, type Queryable } from './db';
import { resolutionOf } from './forward';

export interface StoredMarking {
  id: string;
  name: string;
  marking: Marking;
}

/** The marking of a part for everybody; there is one from the moment the part is taken in. */
export async function markingOfPart(access: OfStudio, partId: string): Promise<StoredMarking> {
  const { rows } = await db(access).query<{ id: string; name: string }>(
    'SELECT id, name FROM markings WHERE studio_id = $1 AND part_id = $2 AND player_id IS NULL ORDER BY created_at LIMIT 1',
    [access.studio, partId],
  );
  const row = rows[0];
  if (!row) throw new Error(`part ${partId} has no marking`);
  return { ...row, marking: await marksOf(db(access), access, row.id) };
}

interface MarkRow {
  target: string;
  kind: MarkKind;
  value: string;
  origin: Mark['origin'];
  why: string | null;
  off: boolean;
  author: string | null;
}

const markOf = ({ value, origin, why, off, author }: MarkRow): Mark => ({
  value,
  origin,
  ...(why === null ? {} : { why }),
  ...(off ? { off } : {}),
  ...(author === null ? {} : { by: author }),
});

export async function marksOf(client: Queryable, access: OfStudio, markingId: string): Promise<Marking> {
  const { rows } = await client.query<MarkRow>('SELECT target, kind, value, origin, why, off, author FROM marks WHERE studio_id = $1 AND marking_id = $2', [
    access.studio,
    markingId,
  ]);
  return Object.fromEntries(rows.map((row) => [markKey(row.target, row.kind), markOf(row)]));
}

export type HistoryEntry = ChangeSet & { author: string };

export const SET_COLUMNS = 'change_sets.id, author, at, reason, changes, undoes, together, from_part, boundary, sequence';
export interface SetRow extends Pick<ChangeSet, 'id' | 'reason' | 'changes' | 'undoes'> {
  author: string;
  at: Date;
  together: string | null;
  from_part: string | null;
  boundary: boolean;
}

export const setOf = ({ id, at, reason, changes, undoes, together, from_part: fromPart, boundary }: SetRow): ChangeSet => ({
  id,
  at: at.toISOString(),
  reason,
  changes,
  undoes,
  ...(together === null ? {} : { together }),
  ...(fromPart === null ? {} : { fromPart }),
  ...(boundary ? { boundary } : {}),
});

/** The latest change sets, oldest first. */
export async function history(access: OfStudio, markingId: string, limit = 200): Promise<HistoryEntry[]> {
  const { rows } = await db(access).query<SetRow>(
    `SELECT * FROM (SELECT ${SET_COLUMNS} FROM change_sets WHERE studio_id = $1 AND marking_id = $2 ORDER BY sequence DESC LIMIT $3) latest ORDER BY sequence`,
    [access.studio, markingId, limit],
  );
  return rows.map((row) => ({ ...setOf(row), author: row.author }));
}

/**
 * Stores change sets in order, up to the first that is refused or clashes with what is stored. A set that is stored already is
 * passed over, so that sending again after a lost answer does no harm. Null where there is no such marking.
 * @param sent as they came; each is parsed by itself, so that one that cannot be stored does not hold up those before it
 */
export async function storeChanges(access: Access, markingId: string, sent: readonly unknown[]): Promise<StoreAnswer | null> {
  const { sets, refused } = parsedSets(sent);
  return inTransaction(access, async (client) => {
    // The part before its markings, as everywhere: one after the other on a part, rows are numbered as they come to be seen.
    const owner = await client.query<{ part_id: string }>(
      'SELECT parts.id AS part_id FROM parts JOIN markings ON part_id = parts.id WHERE markings.studio_id = $1 AND markings.id = $2 FOR NO KEY UPDATE OF parts',
      [access.studio, markingId],
    );
    if (owner.rowCount === 0) return null;
    await client.query('SELECT id FROM markings WHERE studio_id = $1 AND id = $2 FOR UPDATE', [access.studio, markingId]);
    const stored = await client.query<{ id: string }>('SELECT id FROM change_sets WHERE studio_id = $1 AND marking_id = $2 AND id = ANY($3)', [
      access.studio,
      markingId,
      sets.map((set) => set.id),
    ]);
    const before = new Set(stored.rows.map((row) => row.id));
    const partId = owner.rows[0]!.part_id;
    const fresh = await asToday(
      client,
      partId,
      sets.filter((set) => !before.has(set.id)),
    );
    let marking = await marksThere(client, access, markingId, fresh);
    const taken: ChangeSet[] = [];
    let clash: StoreAnswer['clash'] = null;
    for (const set of fresh) {
      const applied = applyChanges(marking, set.changes);
      if (applied.conflicts.length) {
        const conflicts = applied.conflicts.map(({ change, stored: there }) => ({ target: change.target, kind: change.kind, stored: there }));
        clash = { id: set.id, conflicts, marking: {} };
        break;
      }
      marking = applied.marking;
      taken.push(set);
    }
    await writeSets(client, access, markingId, taken);
    // As it is after what could be stored: what the coach decides about is put on top of that.
    if (clash) clash.marking = await marksOf(client, access, markingId);
    const until = clash ? sets.findIndex((set) => set.id === clash!.id) : sets.length;
    return { stored: sets.slice(0, until).map((set) => set.id), refused: clash ? null : refused, clash };
  });
}

/** Sets that a browser has kept since an earlier version name their notes as it did. */
async function asToday(client: Queryable, partId: string, sets: readonly ChangeSet[]): Promise<ChangeSet[]> {
  if (sets.every(({ version = 1 }) => version === RECORD_VERSION)) return [...sets];
  const resolution = await resolutionOf(client, partId);
  return sets.map((set) => (set.version === RECORD_VERSION ? set : { ...set, version: RECORD_VERSION, changes: changesForward(set.changes, resolution) }));
}

/** The sets up to the first one that is none, and what is wrong with that one. */
function parsedSets(sent: readonly unknown[]): { sets: ChangeSet[]; refused: StoreAnswer['refused'] } {
  const sets: ChangeSet[] = [];
  for (const each of sent) {
    const parsed = changeSetShape.safeParse(each);
    if (!parsed.success) {
      const issue = parsed.error.issues[0]!;
      const id = (each as { id?: unknown } | null)?.id;
      const place = issue.path.filter((step) => typeof step === 'string').at(-1);
      const problem = {
        place: place === undefined ? null : String(place),
        what: `This change cannot be stored: ${place ?? 'it'} ${issue.message}.`,
        remedy: 'It is set aside, to be copied or dropped; what came after it goes on.',
      };
      return { sets, refused: { id: typeof id === 'string' ? id : '', problem } };
    }
    if (!sets.some((set) => set.id === parsed.data.id)) sets.push(parsed.data as ChangeSet);
  }
  return { sets, refused: null };
}

/** What is stored where change sets want to write. */
export async function marksThere(client: Queryable, access: Access, markingId: string, sets: readonly ChangeSet[]): Promise<Marking> {
  const places = sets.flatMap(({ changes }) => changes.map(({ target, kind }) => ({ target, kind })));
  if (places.length === 0) return {};
  const { rows } = await client.query<MarkRow>(
    `SELECT DISTINCT marks.target, marks.kind, value, origin, why, off, author FROM marks
       JOIN jsonb_to_recordset($3) AS row (target text, kind text) ON marks.target = row.target AND marks.kind = row.kind
      WHERE studio_id = $1 AND marking_id = $2`,
    [access.studio, markingId, JSON.stringify(places)],
  );
  return Object.fromEntries(rows.map((row) => [markKey(row.target, row.kind), markOf(row)]));
}

/** A clock that is ahead makes no change of a year to come: by a minute they may differ. */
export const NOT_TO_COME = "LEAST(at, now() + interval '1 minute')";

async function writeSets(client: Queryable, access: Access, markingId: string, sets: readonly ChangeSet[]): Promise<void> {
  if (sets.length === 0) return;
  await client.query(
    `INSERT INTO change_sets (id, studio_id, marking_id, author, at, reason, changes, undoes, together, from_part)
     SELECT id, $1, $2, $3, ${NOT_TO_COME}, reason, changes, undoes, together, "fromPart"
       FROM jsonb_to_recordset($4) AS row (position int, id uuid, at timestamptz, reason text, changes jsonb, undoes uuid, together uuid, "fromPart" uuid)
      ORDER BY position`,
    [access.studio, markingId, access.person, JSON.stringify(sets.map((set, position) => ({ ...set, position })))],
  );
  await writeMarks(
    client,
    access,
    markingId,
    sets.flatMap(({ changes }) => changes),
  );
}

/** Stores one change set of our own making inside a transaction; nothing else writes to this marking meanwhile. */
export const writeChangeSet = (client: Queryable, access: Access, markingId: string, set: ChangeSet): Promise<void> =>
  writeSets(client, access, markingId, [set]);

/** Writes what a row of changes comes to: the last one of each mark counts. */
export async function writeMarks(client: Queryable, access: Access, markingId: string, changes: readonly Change[]): Promise<void> {
  const last = squashed(changes);
  const gone = last.filter((change) => change.to === null);
  const set = last.filter((change) => change.to !== null);
  if (gone.length) {
    await client.query(
      `DELETE FROM marks USING jsonb_to_recordset($3) AS row (target text, kind text)
        WHERE studio_id = $1 AND marking_id = $2 AND marks.target = row.target AND marks.kind = row.kind`,
      [access.studio, markingId, JSON.stringify(gone.map(({ target, kind }) => ({ target, kind })))],
    );
  }
  if (set.length) {
    await client.query(
      `INSERT INTO marks (studio_id, marking_id, target, kind, value, origin, why, off, author)
       SELECT $1, $2, target, kind, value, origin, why, coalesce(off, false), $4
         FROM jsonb_to_recordset($3) AS row (target text, kind text, value text, origin text, why text, off boolean)
       ON CONFLICT (marking_id, target, kind)
       DO UPDATE SET value = excluded.value, origin = excluded.origin, why = excluded.why, off = excluded.off, author = excluded.author`,
      [access.studio, markingId, JSON.stringify(set.map(({ target, kind, to }) => ({ target, kind, ...to! }))), access.person],
    );
  }
}
