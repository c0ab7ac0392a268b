import { typedText } from '@/server/editions';
import { answer } from '../../../respond';

/** The text that a part was typed as; 404 where its file is none. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'The text of this part', async (studioId) => {
    const text = await typedText(studioId, (await params).id);
    return text === null ? null : Response.json({ text });
  });
}
