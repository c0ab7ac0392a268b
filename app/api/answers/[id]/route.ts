import { z } from 'zod';
import { settle } from '@/server/handouts/coach';
import { answer, body } from '../../respond';

/** Says that a player's answer is dealt with, or open again. */
export async function PUT(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This answer', async (access) => {
    const sent = await body(request, z.object({ settled: z.boolean() }));
    if (!sent.ok) return sent.response;
    return (await settle(access, (await params).id, sent.value.settled)) ? Response.json({ ok: true }) : null;
  });
}
