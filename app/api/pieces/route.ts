import { LARGEST_FILE_BYTES } from '@/core/formats/xml';
import { takeIn } from '@/server/pieces';
import { answer, fileTooLarge, problemResponse, readUpTo } from '../respond';

/** Takes in one file: its bytes are the body, its name is in the query. */
export async function POST(request: Request): Promise<Response> {
  return answer(request, 'The shelf', async (studioId) => {
    const fileName = (new URL(request.url).searchParams.get('name') ?? 'score.musicxml').slice(-200);
    const bytes = await readUpTo(request, LARGEST_FILE_BYTES);
    if (bytes === null) return fileTooLarge(fileName);
    const taken = await takeIn(studioId, fileName, bytes);
    if (!taken.ok) return problemResponse({ ...taken.problem, place: [fileName, taken.problem.place].filter(Boolean).join(', ') });
    return Response.json(taken.value, { status: taken.value.known === 'new' ? 201 : 200 });
  });
}
