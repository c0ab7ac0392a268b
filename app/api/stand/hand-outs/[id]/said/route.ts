import { saidShape } from '@/core/handout/shapes';
import { say } from '@/server/handouts/said';
import { answer, body, problemResponse } from '../../../../respond';

/** What a player says about a hand-out that they have: that it is opened, what is copied, what does not work. */
export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(
    request,
    'This hand-out',
    async (access) => {
      const sent = await body(request, saidShape);
      if (!sent.ok) return sent.response;
      const done = access.playerId === null ? null : await say(access, (await params).id, access.playerId, sent.value);
      return done && (done.ok ? Response.json({ ok: true }) : problemResponse(done.problem));
    },
    'stand',
  );
}
