import { following } from '@/server/live/follow';
import { seenFrom } from '@/server/live/news';
import { partById } from '@/server/parts';
import { sessionOf } from '../../../../session-cookie';
import { answer, problemResponse } from '../../../respond';

/**
 * What others do on a part while a page is open (`core/marking/live.ts`), as server-sent events. ?since= how far the page has seen,
 * ?page= its name among all that are open; ?once=yes tells what there is and ends, for networks that let no stream through.
 */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This part', async (access) => {
    const part = await partById(access, (await params).id);
    if (!part) return null;
    const asked = new URL(request.url).searchParams;
    const seen = seenFrom(request.headers.get('last-event-id') ?? asked.get('since'));
    const page = /^[\w-]{8,64}$/.exec(asked.get('page') ?? '')?.[0];
    if (!seen || !page) return problemResponse({ place: null, what: 'It is not said since when, or for which page.', remedy: 'Reload the page.' }, 400);
    const stream = following(access, { partId: part.id, seen, page, token: sessionOf(request), once: asked.get('once') === 'yes', signal: request.signal });
    return new Response(stream, { headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store, no-transform', 'x-accel-buffering': 'no' } });
  });
}
