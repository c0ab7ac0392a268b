import { takeIn } from '@/server/pieces';
import { answer, fileNameOf, fileOf, problemResponse } from '../respond';

/** Takes in one file: its bytes are the body, its name is in the query. */
export async function POST(request: Request): Promise<Response> {
  return answer(request, 'The shelf', async (access, asker) => {
    const fileName = fileNameOf(request, 'score.musicxml');
    const sent = await fileOf(request, fileName);
    if (!sent.ok) return sent.response;
    const taken = await takeIn(access, fileName, sent.value, asker);
    if (!taken.ok) return problemResponse({ ...taken.problem, place: [fileName, taken.problem.place].filter(Boolean).join(', ') });
    return Response.json(taken.value, { status: taken.value.known === 'new' ? 201 : 200 });
  });
}
