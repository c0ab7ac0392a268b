import { markedScore } from '@/server/marked';
import { answer } from '../../../respond';

/** The marked file; ?part=ID writes the marks of that part only, ?words=yes the notes for the player as words too. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This piece', async (studioId) => {
    const asked = new URL(request.url).searchParams;
    const marked = await markedScore(studioId, (await params).id, asked.get('part'), { words: asked.get('words') === 'yes' });
    if (!marked) return null;
    const ascii = marked.fileName.replace(/[^\x20-\x7e]|["\\]/g, '_');
    return new Response(new Uint8Array(marked.bytes), {
      headers: {
        'content-type': marked.type,
        'content-disposition': `attachment; filename="${ascii}"; filename*=UTF-8''${encodeURIComponent(marked.fileName)}`,
        'cache-control': 'no-store',
      },
    });
  });
}
