import { partById, partSettingsShape, setPartSettings } from '@/server/parts';
import { answer, body } from '../../../respond';

/** Player and tempo that a part is checked for. */
export async function PUT(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This part', async (studioId) => {
    const part = await partById(studioId, (await params).id);
    if (!part) return null;
    const sent = await body(request, partSettingsShape.partial());
    if (!sent.ok) return sent.response;
    await setPartSettings(studioId, part.id, sent.value);
    return Response.json({ ok: true });
  });
}
