import { z } from 'zod';
import { changeSetShape, storeChanges } from '@/server/markings';
import { AUTHOR } from '@/server/studio';
import { answer, body } from '../../../respond';

/** Stores change sets in order, all or none; 409 with what is stored where they clash. */
export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This marking', async (studioId) => {
    const { id } = await params;
    if (!z.uuid().safeParse(id).success) return null;
    const sent = await body(request, z.array(changeSetShape).min(1).max(200));
    if (!sent.ok) return sent.response;
    const outcome = await storeChanges(studioId, id, AUTHOR, sent.value);
    return outcome && Response.json(outcome, { status: outcome.ok ? 200 : 409 });
  });
}
