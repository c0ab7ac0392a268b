import { handOutShape } from '@/core/handout/shapes';
import { handOut } from '@/server/handouts/hand-out';
import { answer, body, problemResponse } from '../respond';

/** Hands parts out: each that changed gets the next number. */
export async function POST(request: Request): Promise<Response> {
  return answer(request, 'This part', async (access) => {
    const sent = await body(request, handOutShape);
    if (!sent.ok) return sent.response;
    const done = await handOut(access, sent.value);
    return done.ok ? Response.json({ handedOut: done.value }, { status: 201 }) : problemResponse(done.problem);
  });
}
