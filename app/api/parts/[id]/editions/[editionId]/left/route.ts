import { z } from 'zod';
import { leaveAlone } from '@/server/editions';
import { answer, body } from '../../../../../respond';

/** Differences that the coach leaves as they are, all of them. */
export async function PUT(request: Request, { params }: { params: Promise<{ id: string; editionId: string }> }): Promise<Response> {
  return answer(request, 'This edition', async (access) => {
    const { id, editionId } = await params;
    const sent = await body(request, z.array(z.string().max(200)).max(50_000));
    if (!sent.ok) return sent.response;
    return (await leaveAlone(access, id, editionId, sent.value)) ? Response.json({ ok: true }) : null;
  });
}
