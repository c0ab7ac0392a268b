import { scoreMusic } from '@/server/part-view';
import { answer } from '../../../respond';

/** The music of all parts of a piece. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This piece', async (access) => {
    const parts = await scoreMusic(access, (await params).id);
    return parts && Response.json(parts);
  });
}
