/** What a database holds, in numbers that a person can compare before and after. */
import type pg from 'pg';

export interface Contents {
  studios: number;
  players: number;
  pieces: number;
  parts: number;
  marks: number;
  changeSets: number;
}

/** Null where our tables are not there. */
export async function contentsOf(client: pg.Client): Promise<Contents | null> {
  const there = await client.query<{ there: boolean }>("SELECT to_regclass('public.change_sets') IS NOT NULL AS there");
  if (!there.rows[0]!.there) return null;
  const { rows } = await client.query<Contents>(
    `SELECT (SELECT count(*)::int FROM studios) AS studios, (SELECT count(*)::int FROM players) AS players, (SELECT count(*)::int FROM pieces) AS pieces,
            (SELECT count(*)::int FROM parts) AS parts, (SELECT count(*)::int FROM marks) AS marks, (SELECT count(*)::int FROM change_sets) AS "changeSets"`,
  );
  return rows[0]!;
}

const counted = (n: number, one: string): string => `${n} ${one}${n === 1 ? '' : 's'}`;

export const contentsText = ({ players, pieces, parts, marks, changeSets }: Contents): string =>
  [counted(pieces, 'piece'), counted(parts, 'part'), counted(marks, 'mark'), counted(changeSets, 'change set'), counted(players, 'player')].join(', ');

export const megabytes = (bytes: number): string => `${(bytes / 1_048_576).toFixed(1)} MB`;
