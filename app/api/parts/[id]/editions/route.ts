import { LARGEST_FILE_BYTES } from '@/core/formats/xml';
import { bringIn } from '@/server/editions';
import { partById } from '@/server/parts';
import { answer, fileTooLarge, problemResponse, readUpTo } from '../../../respond';

/** Takes in another edition of the part: its bytes are the body, its name is in the query. */
export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This part', async (studioId) => {
    const part = await partById(studioId, (await params).id);
    if (!part) return null;
    const fileName = (new URL(request.url).searchParams.get('name') ?? 'edition.musicxml').slice(-200);
    const bytes = await readUpTo(request, LARGEST_FILE_BYTES);
    if (bytes === null) return fileTooLarge(fileName);
    const edition = await bringIn(studioId, part.id, fileName, bytes);
    if (!edition) return null;
    if (!edition.ok) return problemResponse({ ...edition.problem, place: [fileName, edition.problem.place].filter(Boolean).join(', ') });
    return Response.json(edition.value, { status: 201 });
  });
}
