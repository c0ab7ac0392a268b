import { z } from 'zod';
import { partById, passageShape, passagesOf, setPassages } from '@/server/parts';
import { answer, body, problemResponse } from '../../../respond';

/** Replaces all passages of a part. */
export async function PUT(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This part', async (studioId) => {
    const part = await partById(studioId, (await params).id);
    if (!part) return null;
    const sent = await body(request, z.array(passageShape).max(500));
    if (!sent.ok) return sent.response;
    const outside = sent.value.find((passage) => passage.toBar >= part.bars);
    if (outside) return problemResponse({ place: outside.name, what: 'The passage ends after the last bar.', remedy: 'Choose bars of this part.' });
    await setPassages(studioId, part.id, sent.value);
    return Response.json(await passagesOf(studioId, part.id));
  });
}
