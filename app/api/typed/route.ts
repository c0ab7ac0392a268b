import { z } from 'zod';
import { LIMITS } from '@/core/util/limits';
import { inWorker } from '@/server/workers';
import { answer, body, problemResponse } from '../respond';

const asked = z.object({ abc: z.string().max(LIMITS.typed), widthPx: z.int().min(240).max(4000) });

/** A typed passage as it would look on the shelf; nothing is stored. */
export async function POST(request: Request): Promise<Response> {
  return answer(request, 'The passage', async (_, asker) => {
    const sent = await body(request, asked);
    if (!sent.ok) return sent.response;
    const read = await inWorker('readTyped', sent.value, asker);
    return read.ok ? Response.json(read.value) : problemResponse(read.problem);
  });
}
