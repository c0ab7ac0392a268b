import { z } from 'zod';
import { markedScore } from '@/server/marked';
import { answer, download } from '../../../respond';

/**
 * The marked file. ?part=ID writes the marks of that part only, ?words=yes the notes for the player as words too,
 * ?compressed=yes gives a file that came plain as .mxl, ?player=ID has the own marks of that player.
 * Where marks have no place in the file it is not sent (409, with their list); ?without=yes sends it all the same.
 */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This piece', async (access, asker) => {
    const asked = new URL(request.url).searchParams;
    const says = (name: string) => asked.get(name) === 'yes';
    const player = asked.get('player');
    if (player !== null && !z.uuid().safeParse(player).success) return null;
    const marked = await markedScore(
      access,
      (await params).id,
      asked.get('part'),
      {
        words: says('words'),
        compressed: says('compressed'),
        ...(player === null ? {} : { playerId: player }),
      },
      asker,
    );
    if (!marked?.unplaced?.length || says('without')) return marked && download(marked);
    const count = marked.unplaced.length;
    const problem = {
      place: null,
      what: `${count === 1 ? 'One mark has' : `${count} marks have`} no place in this file.`,
      remedy: 'Put them by hand on the Desk, or send the file without them.',
    };
    return Response.json({ problem, unplaced: marked.unplaced }, { status: 409 });
  });
}
