/** Whose stand is looked at: a player's own; one who teaches may look at anybody's. */
import { may, type Access } from '@/server/access';
import { isId } from '@/server/id';

/** @param as a player's id, as the address says @returns null where nobody's is meant */
export function readerOf(access: Access, as: string | null): string | null {
  if (access.playerId !== null) return access.playerId;
  return may(access, 'teach') && isId(as) ? as : null;
}
