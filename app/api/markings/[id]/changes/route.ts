import { z } from 'zod';
import { LIMITS } from '@/core/util/limits';
import { storeChanges } from '@/server/markings';
import { answer, body } from '../../../respond';

/** Stores change sets in order (`core/marking/wire.ts`): 409 where one clashes with what is stored, 422 where one is refused for good. */
export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This marking', async (access) => {
    const { id } = await params;
    if (!z.uuid().safeParse(id).success) return null;
    const sent = await body(request, z.array(z.unknown()).min(1).max(LIMITS.setsInRequest));
    if (!sent.ok) return sent.response;
    const outcome = await storeChanges(access, id, sent.value);
    return outcome && Response.json(outcome, { status: outcome.clash ? 409 : outcome.refused ? 422 : 200 });
  });
}
