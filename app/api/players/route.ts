import { newPlayerShape } from '@/core/instruments/player-shape';
import { addPlayer, asInstrument } from '@/server/players';
import { answer, body, problemResponse } from '../respond';

/** A new player. */
export async function POST(request: Request): Promise<Response> {
  return answer(request, 'The studio', async (access) => {
    const sent = await body(request, newPlayerShape);
    if (!sent.ok) return sent.response;
    const made = asInstrument(sent.value);
    if (!made.ok) return problemResponse(made.problem);
    return Response.json({ id: await addPlayer(access, sent.value) }, { status: 201 });
  });
}
