/** Everything that a page about one part starts from. */
import { z } from 'zod';
import type { Access } from './access';
import { toldOf } from '../core/instruments/as-told';
import { history, markingOfPart } from './markings';
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
      return { id, name, music: music?.text ?? '', markingId: marking.id, marking: marking.marking, told: toldOf(settings), tempo: settings.tempo };
    }),
  );
}

/** Every part of a piece, for the page that shows them side by side; null where there is no such piece. */
export async function scoreView(access: Access, pieceId: string) {
  const siblings = z.uuid().safeParse(pieceId).success ? await partsOfPiece(access, pieceId) : [];
  const [first] = siblings;
  const about = first && (await partById(access, first.id));
  if (!about) return null;
  const people = await players(access);
  const parts = await Promise.all(
    siblings.map(async ({ id, name }) => {
      const [marking, settings] = await Promise.all([markingOfPart(access, id), partSettings(access, id)]);
      const sets = await history(access, marking.id);
      return {
        id,
        name,
        markingId: marking.id,
        marking: marking.marking,
        history: sets.map(({ author: _, ...set }) => set),
        tempo: settings.tempo,
        seated: settings.seats.flatMap((seat) => {
          const player = people.find((each) => each.id === seat);
          return player ? [{ player, line: settings.divisi[seat] ?? null }] : [];
        }),
      };
    }),
  );
  return { pieceId, title: about.title, parts };
}

/** The music of every part of a piece, and what the coach says about it. */
export async function scoreMusic(access: Access, pieceId: string) {
  const siblings = z.uuid().safeParse(pieceId).success ? await partsOfPiece(access, pieceId) : [];
  if (siblings.length === 0) return null;
  return Promise.all(
    siblings.map(async ({ id, name }) => {
      const [music, marking, settings] = await Promise.all([musicOf(access, id), markingOfPart(access, id), partSettings(access, id)]);
      return { id, name, markingId: marking.id, music: music?.text ?? '', told: toldOf(settings), tempo: settings.tempo };
    }),
  );
}
