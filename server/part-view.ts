/** Everything that a page about one part starts from. */
import { toldOf } from '../core/instruments/as-told';
import { markingOfPart } from './markings';
import { musicOf, partById, partSettings, partsOfPiece, passagesOf } from './parts';
import { players } from './players';
import { variantsOf } from './variants';

export async function partView(studioId: string, partId: string) {
  const part = await partById(studioId, partId);
  if (!part) return null;
  const [marking, variants, passages, people, settings, music] = await Promise.all([
    markingOfPart(studioId, part.id),
    variantsOf(studioId, part.id),
    passagesOf(studioId, part.id),
    players(studioId),
    partSettings(studioId, part.id),
    musicOf(studioId, part.id),
  ]);
  return { part, marking, variants, passages, players: people, settings, musicVersion: music?.version ?? '' };
}

/** Every other part of the piece: its music, its marks, and what the coach says about it. */
export async function othersOf(studioId: string, partId: string) {
  const part = await partById(studioId, partId);
  if (!part) return null;
  const siblings = (await partsOfPiece(studioId, part.pieceId)).filter(({ id }) => id !== part.id);
  return Promise.all(
    siblings.map(async ({ id, name }) => {
      const [music, marking, settings] = await Promise.all([musicOf(studioId, id), markingOfPart(studioId, id), partSettings(studioId, id)]);
      return { id, name, music: music?.text ?? '', markingId: marking.id, marking: marking.marking, told: toldOf(settings) };
    }),
  );
}
