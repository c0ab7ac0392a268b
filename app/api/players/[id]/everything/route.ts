import { aboutPlayer } from '@/server/bin';
import { answer, download } from '../../../respond';

/** All that is kept about a player, as one file to hand to them. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This player', async (access) => {
    const kept = await aboutPlayer(access, (await params).id);
    return kept && download({ fileName: `${kept.name}.json`, bytes: new TextEncoder().encode(JSON.stringify(kept.about, null, 2)), type: 'application/json' });
  });
}
