import { z } from 'zod';
import { changeHand, handChangeShape } from '@/server/players';
import { answer, body } from '../../respond';

/** A player's hand: preset or measured, and how it was taught. */
export async function PUT(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This player', async (studioId) => {
    const { id } = await params;
    const sent = await body(request, handChangeShape);
    if (!sent.ok) return sent.response;
    if (!z.uuid().safeParse(id).success || !(await changeHand(studioId, id, sent.value))) return null;
    return Response.json({ ok: true });
  });
}
