import { z } from 'zod';
import { pieceNamesShape } from '@/core/util/names-shape';
import { rename } from '@/server/pieces';
import { answer, body } from '../../../respond';

/** What the coach calls a piece, its composer and its parts; the file keeps its own names. */
export async function PUT(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This piece', async (access) => {
    const { id } = await params;
    if (!z.uuid().safeParse(id).success) return null;
    const sent = await body(request, pieceNamesShape);
    if (!sent.ok) return sent.response;
    return (await rename(access, id, sent.value)) ? Response.json({ ok: true }) : null;
  });
}
