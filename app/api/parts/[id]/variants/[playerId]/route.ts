import { openVariant } from '@/server/variants';
import { answer } from '../../../../respond';

/** The marks of one player alone, with their history; begun where there are none yet. */
export async function PUT(request: Request, { params }: { params: Promise<{ id: string; playerId: string }> }): Promise<Response> {
  return answer(request, 'This part or player', async (access) => {
    const { id, playerId } = await params;
    const variant = await openVariant(access, id, playerId);
    return variant && Response.json(variant);
  });
}
