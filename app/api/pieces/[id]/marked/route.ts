import { markedScore } from '@/server/marked';
import { answer } from '../../../respond';

/** The marked file; ?part=ID writes the marks of that part only. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This piece', async (studioId) => {
    const marked = await markedScore(studioId, (await params).id, new URL(request.url).searchParams.get('part'));
    if (!marked) return null;
    const ascii = marked.fileName.replace(/[^\x20-\x7e]|["\\]/g, '_');
    return new Response(new Uint8Array(marked.bytes), {
      headers: {
        'content-type': 'application/vnd.recordare.musicxml+xml',
        'content-disposition': `attachment; filename="${ascii}"; filename*=UTF-8''${encodeURIComponent(marked.fileName)}`,
        'cache-control': 'no-store',
      },
    });
  });
}
