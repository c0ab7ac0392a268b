/** Everything that a page about one part starts from. */
import type { Access } from './access';
import { toldOf } from '../core/instruments/as-told';
import { markingOfPart } from './markings';
import { musicOf, partById, partSettings, partsOfPiece, passagesOf } from './parts';
import { players } from './players';
import { variantsOf } from './variants';

export async function partView(access: Access, partId: string) {
  const part = await partById(access, partId);
  if (!part) return null;
  const [marking, variants, passages, people, settings, music] = await Promise.all([
    markingOfPart(access, part.id),
    variantsOf(access, part.id),
    passagesOf(access, part.id),
    players(access),
    partSettings(access, part.id),
    musicOf(access, part.id),
  ]);
  return { part, marking, variants, passages, players: people, settings, musicVersion: music?.version ?? '' };
}

/** Every other part of the piece: its music, its marks, and what the coach says about it. */
export async function othersOf(access: Access, partId: string) {
  const part = await partById(access, partId);
  if (!part) return null;
  const siblings = (await partsOfPiece(access, part.pieceId)).filter(({ id }) => id !== part.id);
  return Promise.all(
    siblings.map(async ({ id, name }) => {
      const [music, marking, settings] = await Promise.all([musicOf(access, id), markingOfPart(access, id), partSettings(access, id)]);
      return { id, name, music: music?.text ?? '', markingId: marking.id, marking: marking.marking, told: toldOf(settings) };
    }),
  );
}
