import { LARGEST_FILE_BYTES } from '@/core/formats/xml';
import { takeIn } from '@/server/pieces';
import { answer, problemResponse } from '../respond';

/** Takes in one file: its bytes are the body, its name is in the query. */
export async function POST(request: Request): Promise<Response> {
  return answer(request, 'The shelf', async (studioId) => {
    const fileName = (new URL(request.url).searchParams.get('name') ?? 'score.musicxml').slice(-200);
    const bytes = await readUpTo(request, LARGEST_FILE_BYTES);
    if (bytes === null) {
      return problemResponse(
        {
          place: fileName,
          what: `The file is larger than ${LARGEST_FILE_BYTES / 1048576} MB.`,
          remedy: 'Export the parts one by one, or leave out embedded pictures.',
        },
        413,
      );
    }
    const taken = await takeIn(studioId, fileName, bytes);
    if (!taken.ok) return problemResponse({ ...taken.problem, place: [fileName, taken.problem.place].filter(Boolean).join(', ') });
    return Response.json(taken.value, { status: taken.value.known === 'new' ? 201 : 200 });
  });
}

/** The body, or null as soon as it passes the limit. */
async function readUpTo(request: Request, limit: number): Promise<Uint8Array | null> {
  if (Number(request.headers.get('content-length') ?? 0) > limit) return null;
  const chunks: Uint8Array[] = [];
  let size = 0;
  if (request.body) {
    for await (const chunk of request.body as unknown as AsyncIterable<Uint8Array>) {
      size += chunk.length;
      if (size > limit) return null;
      chunks.push(chunk);
    }
  }
  return Buffer.concat(chunks);
}
