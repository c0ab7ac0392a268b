/** What was stored of a part since somebody looked. */
import type { Access } from '../access';
import type { News } from '../../core/marking/live';
import { db, type OfStudio } from '../db';
import { setOf, SET_COLUMNS, type SetRow } from '../markings';
import { VERSION_OF_PART } from '../parts';
import { SharedWork } from '../shared-work';

/** How far somebody has seen. Who writes on a part holds it (`FOR NO KEY UPDATE`), so that nothing comes to be seen before the last number that was. */
export interface Seen {
  marks: number;
  deeds: number;
}

/** Rows that are told at once; then the next ones. */
const MOST = 200;

export const seenAsText = ({ marks, deeds }: Seen): string => `${marks}.${deeds}`;

export function seenFrom(text: string | null): Seen | null {
  const [, marks, deeds] = /^(\d{1,15})\.(\d{1,15})$/.exec(text ?? '') ?? [];
  return marks === undefined ? null : { marks: Number(marks), deeds: Number(deeds) };
}

/** How far a page that is read from now on will have seen. */
export async function seenNow(access: Access, partId: string): Promise<Seen> {
  const { rows } = await db(access).query<{ marks: string; deeds: string }>(
    `SELECT coalesce((SELECT max(sequence) FROM change_sets JOIN markings ON markings.id = marking_id WHERE markings.studio_id = $1 AND part_id = $2), 0) AS marks,
            coalesce((SELECT max(sequence) FROM part_deeds WHERE studio_id = $1 AND part_id = $2), 0) AS deeds`,
    [access.studio, partId],
  );
  return { marks: Number(rows[0]!.marks), deeds: Number(rows[0]!.deeds) };
}

type Told = Pick<News, 'marks' | 'deeds' | 'music' | 'onShelf'>;

/** All who follow a part hear of something at the same moment and have seen as much: it is looked up once for them. */
const underWay = new SharedWork<Since | null>();

interface Since {
  news: Told;
  seen: Seen;
}

/**
 * What there is since then, and how far one has seen with it; null where the part is not there any more.
 * @param word the number of the last word that was heard: what was looked up before it may lack what it told of
 */
export const newsSince = (access: OfStudio, partId: string, seen: Seen, word: number | null = null): Promise<Since | null> =>
  word === null
    ? lookedUp(access, partId, seen)
    : underWay.get(`${access.studio} ${partId} ${seenAsText(seen)} ${word}`, undefined, () => lookedUp(access, partId, seen));

async function lookedUp(access: OfStudio, partId: string, seen: Seen): Promise<Since | null> {
  // One question where nothing is new, as it is most of the time.
  const { rows } = await db(access).query<{ version: string; on_shelf: boolean; marks: string; deeds: string }>(
    `SELECT ${VERSION_OF_PART} AS version, removed_at IS NULL AS on_shelf,
            (SELECT coalesce(max(sequence), 0) FROM change_sets JOIN markings ON markings.id = marking_id WHERE part_id = parts.id AND sequence > $3) AS marks,
            (SELECT coalesce(max(sequence), 0) FROM part_deeds WHERE part_id = parts.id AND sequence > $4) AS deeds
       FROM parts JOIN pieces ON pieces.id = piece_id WHERE parts.studio_id = $1 AND parts.id = $2`,
    [access.studio, partId, seen.marks, seen.deeds],
  );
  const [now] = rows;
  if (!now) return null;
  const [sets, deeds] = await Promise.all([
    Number(now.marks) > seen.marks ? setsSince(access, partId, seen.marks) : [],
    Number(now.deeds) > seen.deeds ? deedsSince(access, partId, seen.deeds) : [],
  ]);
  const last = (found: ReadonlyArray<{ sequence: string }>, before: number) => Math.max(before, Number(found.at(-1)?.sequence ?? 0));
  return {
    news: {
      marks: sets.map((row) => ({ markingId: row.marking_id, author: row.author, set: setOf(row) })),
      deeds: deeds.map(({ sequence: _, at, ...deed }) => ({ ...deed, at: at.toISOString() })),
      music: now.version,
      onShelf: now.on_shelf,
    },
    seen: { marks: last(sets, seen.marks), deeds: last(deeds, seen.deeds) },
  };
}

async function setsSince(access: OfStudio, partId: string, seen: number) {
  const { rows } = await db(access).query<SetRow & { marking_id: string; sequence: string }>(
    `SELECT ${SET_COLUMNS}, marking_id FROM change_sets JOIN markings ON markings.id = marking_id
      WHERE markings.studio_id = $1 AND part_id = $2 AND sequence > $3 ORDER BY sequence LIMIT $4`,
    [access.studio, partId, seen, MOST],
  );
  return rows;
}

async function deedsSince(access: OfStudio, partId: string, seen: number) {
  const { rows } = await db(access).query<Omit<News['deeds'][number], 'at'> & { at: Date; sequence: string }>(
    `SELECT id, author, at, reason, about, before, after, undoes, sequence FROM part_deeds
      WHERE studio_id = $1 AND part_id = $2 AND sequence > $3 ORDER BY sequence LIMIT $4`,
    [access.studio, partId, seen, MOST],
  );
  return rows;
}
