import { z } from 'zod';
import { erasePiece } from '@/server/bin';
import { setOnShelf } from '@/server/pieces';
import { answer, body, problemResponse } from '../../respond';

/** Takes a piece off the shelf or puts it back: { onShelf }. */
export async function PATCH(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This piece', async (access) => {
    const { id } = await params;
    if (!z.uuid().safeParse(id).success) return null;
    const sent = await body(request, z.object({ onShelf: z.boolean() }));
    if (!sent.ok) return sent.response;
    const done = await setOnShelf(access, id, sent.value.onShelf);
    return done.ok ? Response.json({ ok: true }) : problemResponse(done.problem);
  });
}

/** Erases a piece that was taken off the shelf, with its parts and marks. */
export async function DELETE(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(
    request,
    'This piece in the bin',
    async (access) => ((await erasePiece(access, (await params).id)) ? Response.json({ ok: true }) : null),
    'own',
  );
}
