import { ownChangeShape } from '@/core/util/person-shape';
import { changePerson } from '@/server/doors/people';
import { answer, body, problemResponse } from '../../respond';

/** What one says anew about oneself. */
export async function PUT(request: Request): Promise<Response> {
  return answer(request, 'Your account', async (access) => {
    const sent = await body(request, ownChangeShape);
    if (!sent.ok) return sent.response;
    const done = access.personId === null ? null : await changePerson(access, access.personId, sent.value);
    return done && (done.ok ? Response.json({ ok: true }) : problemResponse(done.problem));
  });
}
