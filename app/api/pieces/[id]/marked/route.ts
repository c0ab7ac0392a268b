import { z } from 'zod';
import { markedScore } from '@/server/marked';
import { answer, download } from '../../../respond';

/**
 * The marked file. ?part=ID writes the marks of that part only, ?words=yes the notes for the player as words too,
 * ?compressed=yes gives a file that came plain as .mxl, ?player=ID has the own marks of that player.
 */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This piece', async (studioId, asker) => {
    const asked = new URL(request.url).searchParams;
    const says = (name: string) => asked.get(name) === 'yes';
    const player = asked.get('player');
    if (player !== null && !z.uuid().safeParse(player).success) return null;
    const marked = await markedScore(
      studioId,
      (await params).id,
      asked.get('part'),
      {
        words: says('words'),
        compressed: says('compressed'),
        ...(player === null ? {} : { playerId: player }),
      },
      asker,
    );
    return marked && download(marked);
  });
}
