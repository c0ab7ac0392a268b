import { answersTo } from '@/server/handouts/coach';
import { partById } from '@/server/parts';
import { answer } from '../../../respond';

/** What the players answered to the hand-outs of a part. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This part', async (access) => {
    const part = await partById(access, (await params).id);
    return part && Response.json({ answers: await answersTo(access, { partId: part.id }) });
  });
}
