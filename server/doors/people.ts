/** The people of a studio who teach, their browsers, keys for others, and the personal links of players. */
import { randomUUID } from 'node:crypto';
import { bad, good, type Result } from '@/core/util/result';
import type { Access } from '../access';
import { db, inTransaction, type Queryable } from '../db';
import { isId } from '../id';
import { signInForm } from './come-in';
import { noteDoing } from './doings';
import { hashOf, isPhrase, phraseProblem } from './phrase';
import { digest, newToken } from './token';

export interface PersonRow {
  id: string;
  name: string;
  role: 'owner' | 'coach';
  signIn: string | null;
  hasPhrase: boolean;
}

export interface BrowserRow {
  id: string;
  /** Whose it is: a person who teaches, or a player. */
  name: string;
  isPlayer: boolean;
  device: string;
  madeAt: Date;
  seenAt: Date;
}

export interface LinkRow {
  id: string;
  playerId: string;
  madeAt: Date;
  expiresAt: Date | null;
  usedAt: Date | null;
}

export async function peopleOf(access: Access): Promise<PersonRow[]> {
  const { rows } = await db(access).query<PersonRow>(
    `SELECT id, name, role, sign_in AS "signIn", pass_hash IS NOT NULL AS "hasPhrase" FROM people WHERE studio_id = $1 ORDER BY (role <> 'owner'), name, id`,
    [access.studio],
  );
  return rows;
}

/** Everybody's for the owner, one's own for a coach. */
export async function browsersOf(access: Access): Promise<BrowserRow[]> {
  const { rows } = await db(access).query<BrowserRow>(
    `SELECT sessions.id, coalesce(people.name, players.name) AS name, link_id IS NOT NULL AS "isPlayer", device, sessions.made_at AS "madeAt", seen_at AS "seenAt"
       FROM sessions LEFT JOIN people ON people.id = person_id LEFT JOIN links ON links.id = link_id LEFT JOIN players ON players.id = links.player_id
      WHERE sessions.studio_id = $1 AND sessions.expires_at > now() AND ($2 OR person_id = $3) AND links.revoked_at IS NULL ORDER BY seen_at DESC`,
    [access.studio, access.role === 'owner', access.personId],
  );
  return rows;
}

/** Lets a browser be a stranger again: one's own, or for the owner anybody's. False where there is no such one. */
export async function endBrowser(access: Access, id: string): Promise<boolean> {
  if (!isId(id)) return false;
  return inTransaction(access, async (client) => {
    const { rows } = await client.query<{ device: string }>(
      'DELETE FROM sessions WHERE studio_id = $1 AND id = $2 AND ($3 OR id = $4 OR person_id = $5) RETURNING device',
      [access.studio, id, access.role === 'owner', access.session, access.personId],
    );
    if (rows[0]) await noteDoing(client, access, id === access.session ? 'went out' : 'closed the door to a browser', rows[0].device);
    return rows.length > 0;
  });
}

/** Minutes that a key waits for its browser. */
export const KEY_MINUTES = 15;

/** A key for one further browser of a person: one's own, or for the owner anybody's. Null where there is no such person. */
export async function keyFor(access: Access, personId: string): Promise<string | null> {
  if (!isId(personId) || (access.role !== 'owner' && personId !== access.personId)) return null;
  const key = newToken();
  return inTransaction(access, async (client) => {
    const { rows } = await client.query<{ name: string }>(
      `WITH made AS (INSERT INTO keys (token_hash, studio_id, person_id, expires_at)
                     SELECT $3, studio_id, id, now() + $4 * interval '1 minute' FROM people WHERE studio_id = $1 AND id = $2 RETURNING person_id)
       SELECT name FROM made JOIN people ON people.id = person_id`,
      [access.studio, personId, digest(key), KEY_MINUTES],
    );
    if (!rows[0]) return null;
    await noteDoing(client, access, 'made a key', rows[0].name);
    return key;
  });
}

export interface NewPerson {
  name: string;
  role: 'owner' | 'coach';
}

export async function addPerson(access: Access, { name, role }: NewPerson): Promise<string> {
  const id = randomUUID();
  await inTransaction(access, async (client) => {
    await client.query('INSERT INTO people (id, studio_id, name, role) VALUES ($1, $2, $3, $4)', [id, access.studio, name, role]);
    await noteDoing(client, access, `let in as ${role}`, name);
  });
  return id;
}

export interface PersonChange {
  name?: string | undefined;
  role?: 'owner' | 'coach' | undefined;
  signIn?: string | undefined;
  phrase?: string | undefined;
  /** The pass phrase of today, where one sets another for oneself. */
  current?: string | undefined;
}

const NOBODY_LEFT = bad(null, 'A studio needs an owner.', 'Make somebody else the owner first.');

const ownersLeft = async (client: Queryable, access: Access): Promise<boolean> => {
  const { rows } = await client.query<{ n: number }>("SELECT count(*)::int AS n FROM people WHERE studio_id = $1 AND role = 'owner'", [access.studio]);
  return rows[0]!.n > 0;
};

class Refused extends Error {
  constructor(readonly result: Result<never>) {
    super('refused');
  }
}

/** Either all of it or none. */
async function orRefused<T>(work: () => Promise<Result<T> | null>): Promise<Result<T> | null> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof Refused) return error.result;
    if ((error as { constraint?: string }).constraint === 'people_sign_in_key')
      return bad('name to sign in with', 'Somebody signs in with this name already.', 'Take another one.');
    throw error;
  }
}

/** What is said anew about somebody; a new pass phrase ends their other browsers. Null where there is no such person. */
export async function changePerson(access: Access, id: string, change: PersonChange): Promise<Result<null> | null> {
  if (!isId(id)) return null;
  const { name, role, signIn, phrase, current } = change;
  return orRefused(() =>
    inTransaction(access, async (client) => {
      const there = await client.query<{ name: string; sign_in: string | null; pass_hash: string | null }>(
        'SELECT name, sign_in, pass_hash FROM people WHERE studio_id = $1 AND id = $2 FOR UPDATE',
        [access.studio, id],
      );
      const before = there.rows[0];
      if (!before) return null;
      if (Object.values(change).every((said) => said === undefined)) return good(null);
      if (phrase !== undefined && !(signIn ?? before.sign_in)) return bad('name to sign in with', 'It is missing.', 'Say by which name they sign in.');
      if (phrase !== undefined && id === access.personId && before.pass_hash && !(await isPhrase(before.pass_hash, current ?? '')))
        return bad('pass phrase of today', 'It is not this one.', 'Say the one that you sign in with now; the owner of the studio can set a new one for you.');
      const passHash = phrase === undefined ? null : await newHash(phrase, [signIn ?? before.sign_in ?? '', name ?? before.name]);
      if (passHash && !passHash.ok) return passHash;
      await client.query(
        'UPDATE people SET name = coalesce($3, name), role = coalesce($4, role), sign_in = coalesce($5, sign_in), pass_hash = coalesce($6, pass_hash) WHERE studio_id = $1 AND id = $2',
        [access.studio, id, name ?? null, role ?? null, signIn === undefined ? null : signInForm(signIn), passHash?.value ?? null],
      );
      if (!(await ownersLeft(client, access))) throw new Refused(NOBODY_LEFT);
      if (passHash)
        await client.query('DELETE FROM sessions WHERE studio_id = $1 AND person_id = $2 AND id IS DISTINCT FROM $3', [access.studio, id, access.session]);
      const said = [name && 'name', role && `role: ${role}`, signIn && 'name to sign in with', phrase && 'pass phrase'].filter(Boolean).join(', ');
      await noteDoing(client, access, `changed ${said} of`, name ?? before.name);
      return good(null);
    }),
  );
}

async function newHash(phrase: string, about: readonly string[]): Promise<Result<string>> {
  const problem = phraseProblem(phrase, about.filter(Boolean));
  return problem.ok ? good(await hashOf(phrase)) : problem;
}

/** Takes somebody out of the studio: their browsers and keys end with it. Null where there is no such person. */
export async function removePerson(access: Access, id: string): Promise<Result<null> | null> {
  if (!isId(id)) return null;
  return orRefused(() =>
    inTransaction(access, async (client) => {
      const { rows } = await client.query<{ name: string }>('DELETE FROM people WHERE studio_id = $1 AND id = $2 RETURNING name', [access.studio, id]);
      if (!rows[0]) return null;
      if (!(await ownersLeft(client, access))) throw new Refused(NOBODY_LEFT);
      await noteDoing(client, access, 'took out of the studio', rows[0].name);
      return good(null);
    }),
  );
}

// ---- players' links -----------------------------------------------------------------------------

/** The link of each player that has one in force. */
export async function linksOf(access: Access): Promise<LinkRow[]> {
  const { rows } = await db(access).query<LinkRow>(
    `SELECT DISTINCT ON (player_id) id, player_id AS "playerId", made_at AS "madeAt", expires_at AS "expiresAt", used_at AS "usedAt" FROM links
      WHERE studio_id = $1 AND revoked_at IS NULL AND (expires_at IS NULL OR expires_at > now()) ORDER BY player_id, made_at DESC`,
    [access.studio],
  );
  return rows;
}

/** A new link for a player; the one before opens nothing any more. @param days null where it is to last @returns null where there is no such player */
export async function newLink(access: Access, playerId: string, days: number | null): Promise<string | null> {
  if (!isId(playerId)) return null;
  const token = newToken();
  return inTransaction(access, async (client) => {
    const { rows } = await client.query<{ name: string }>('SELECT name FROM players WHERE studio_id = $1 AND id = $2 AND removed_at IS NULL FOR UPDATE', [
      access.studio,
      playerId,
    ]);
    if (!rows[0]) return null;
    await endLinks(client, access, playerId);
    await client.query(
      "INSERT INTO links (studio_id, player_id, token_hash, made_by, expires_at) VALUES ($1, $2, $3, $4, now() + $5::int * interval '1 day')",
      [access.studio, playerId, digest(token), access.person, days],
    );
    await noteDoing(client, access, 'made a personal link for', rows[0].name);
    return token;
  });
}

const endLinks = (client: Queryable, access: Access, playerId: string) =>
  client.query('UPDATE links SET revoked_at = now() WHERE studio_id = $1 AND player_id = $2 AND revoked_at IS NULL', [access.studio, playerId]);

/** False where the player has none. */
export async function endLink(access: Access, playerId: string): Promise<boolean> {
  if (!isId(playerId)) return false;
  return inTransaction(access, async (client) => {
    const { rowCount } = await endLinks(client, access, playerId);
    if (rowCount) {
      const { rows } = await client.query<{ name: string }>('SELECT name FROM players WHERE studio_id = $1 AND id = $2', [access.studio, playerId]);
      await noteDoing(client, access, 'ended the personal link of', rows[0]!.name);
    }
    return Boolean(rowCount);
  });
}
