import { saidShape } from '@/core/handout/shapes';
import { say } from '@/server/handouts/on-the-stand';
import { answer, body } from '../../../../respond';

/** What a player says about a hand-out that they have: that it is opened, what is copied, what does not work. */
export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(
    request,
    'This hand-out',
    async (access) => {
      const sent = await body(request, saidShape);
      if (!sent.ok) return sent.response;
      const isDone = access.playerId !== null && (await say(access, (await params).id, access.playerId, sent.value));
      return isDone ? Response.json({ ok: true }) : null;
    },
    'stand',
  );
}
