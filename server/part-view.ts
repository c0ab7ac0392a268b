/** Everything that a page about one part starts from. */
import { markingOfPart } from './markings';
import { musicOf, partById, partSettings, passagesOf } from './parts';
import { players } from './players';

export async function partView(studioId: string, partId: string) {
  const part = await partById(studioId, partId);
  if (!part) return null;
  const [marking, passages, people, settings, music] = await Promise.all([
    markingOfPart(studioId, part.id),
    passagesOf(studioId, part.id),
    players(studioId),
    partSettings(studioId, part.id),
    musicOf(studioId, part.id),
  ]);
  return { part, marking, passages, players: people, settings, musicVersion: music?.version ?? '' };
}
