import { z } from 'zod';
import { erasePlayer } from '@/server/bin';
import { playerChangeShape } from '@/core/instruments/player-shape';
import { asInstrument, changePlayer, playerById } from '@/server/players';
import { answer, body, problemResponse } from '../../respond';

/** What is said anew about a player; taken out of the list, and put back. */
export async function PUT(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This player', async (access) => {
    const { id } = await params;
    const sent = await body(request, playerChangeShape);
    if (!sent.ok) return sent.response;
    const player = z.uuid().safeParse(id).success ? await playerById(access, id) : null;
    if (!player) return null;
    const made = asInstrument({ ...player, ...withoutUndefined(sent.value) });
    if (!made.ok) return problemResponse(made.problem);
    await changePlayer(access, id, sent.value);
    return Response.json({ ok: true });
  });
}

/** Erases a player who was taken out of the list, with all that is kept about them. */
export async function DELETE(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(
    request,
    'This player in the bin',
    async (access) => ((await erasePlayer(access, (await params).id)) ? Response.json({ ok: true }) : null),
    'own',
  );
}

const withoutUndefined = <T extends object>(value: T) => Object.fromEntries(Object.entries(value).filter(([, each]) => each !== undefined)) as Partial<T>;
