/**
 * For whom something is done, and who may do what: every query takes an `Access` and filters by its studio. It is made anew for each
 * request and kept nowhere; what lets a browser in is in `doors/`.
 */
import { db, pool } from './db';
import { digest } from './doors/token';

export type Role = 'owner' | 'coach' | 'player';

export interface Access {
  /** Id of the studio. */
  studio: string;
  /** Whose name stands under what is done. */
  person: string;
  role: Role;
  /** Null for a player, who comes in by a link and has no account. */
  personId: string | null;
  /** The player whose link it is. */
  playerId: string | null;
  /** Id of the browser that was let in; null where the server itself does something. */
  session: string | null;
}

/** What a page or a route is for. */
export type Need =
  /** Seeing and marking everything of the studio. */
  | 'teach'
  /** People, doors, and what cannot be taken back. */
  | 'own'
  /** What was handed out. */
  | 'stand';

const MAY: Readonly<Record<Need, ReadonlySet<Role>>> = {
  teach: new Set<Role>(['owner', 'coach']),
  own: new Set<Role>(['owner']),
  stand: new Set<Role>(['owner', 'coach', 'player']),
};

export const may = ({ role }: Pick<Access, 'role'>, need: Need): boolean => MAY[need].has(role);

/** Whose browser it is, by what its cookie says; null where it was not let in, or is not any more. */
export async function accessOf(token: string | undefined): Promise<Access | null> {
  if (!token) return null;
  const { rows } = await pool().query<{ id: string; studio_id: string; person_id: string | null; player_id: string | null; name: string; role: Role }>(
    'SELECT * FROM door_session($1)',
    [digest(token)],
  );
  const found = rows[0];
  if (!found) return null;
  return { studio: found.studio_id, person: found.name, role: found.role, personId: found.person_id, playerId: found.player_id, session: found.id };
}

/** Who made the studio, as the demo and tests need it. */
export const ownerOf = (studio: string, person = 'Coach'): Access => ({ studio, person, role: 'owner', personId: null, playerId: null, session: null });

/** Its name, as the shelf shows it. */
export async function studioName(access: Access): Promise<string> {
  const { rows } = await db(access).query<{ name: string }>('SELECT name FROM studios WHERE id = $1', [access.studio]);
  return rows[0]?.name ?? '';
}
