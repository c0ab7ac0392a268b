import { typedText } from '@/server/editions';
import { partById } from '@/server/parts';
import { answer, problemResponse } from '../../../respond';

/** The text that a part was typed as. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'The text of this part', async (access) => {
    const part = await partById(access, (await params).id);
    if (!part) return null;
    const text = await typedText(access, part.id);
    const what = `${part.fileName} was not typed here: it is a file of notes.`;
    return text === null
      ? problemResponse({ place: part.name, what, remedy: 'Edit it in the program that made it, and bring it in as another edition.' })
      : Response.json({ text });
  });
}
