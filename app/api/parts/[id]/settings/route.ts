import { partById, setPartSettings, settingsChangeShape } from '@/server/parts';
import { answer, body, problemResponse } from '../../../respond';

/** What a part is checked for, one by one; findings are accepted and taken up again by themselves. */
export async function PUT(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This part', async (studioId) => {
    const part = await partById(studioId, (await params).id);
    if (!part) return null;
    const sent = await body(request, settingsChangeShape);
    if (!sent.ok) return sent.response;
    const done = await setPartSettings(studioId, part.id, sent.value);
    return done.ok ? Response.json({ ok: true }) : problemResponse(done.problem);
  });
}
