import { bringIn } from '@/server/editions';
import { partById } from '@/server/parts';
import { answer, fileNameOf, fileOf, problemResponse } from '../../../respond';

/** Takes in another edition of the part: its bytes are the body, its name is in the query. */
export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This part', async (access, asker) => {
    const part = await partById(access, (await params).id);
    if (!part) return null;
    const fileName = fileNameOf(request, 'edition.musicxml');
    const sent = await fileOf(request, fileName);
    if (!sent.ok) return sent.response;
    const edition = await bringIn(access, part.id, fileName, sent.value, asker);
    if (!edition) return null;
    if (!edition.ok) return problemResponse({ ...edition.problem, place: [fileName, edition.problem.place].filter(Boolean).join(', ') });
    return Response.json(edition.value, { status: 201 });
  });
}
