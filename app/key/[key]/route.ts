import { byKey } from '@/server/doors/come-in';
import { answered, problemResponse } from '../../api/respond';
import { callerOf, entered } from '../../come-in';

/** A one-time key: lets this browser in. What looks a page up beforehand (HEAD) does not use it up. */
export async function GET(request: Request, { params }: { params: Promise<{ key: string }> }): Promise<Response> {
  return answered(request, 'This key', async () => {
    if (request.method !== 'GET') return problemResponse({ place: null, what: 'A key is used by opening it.', remedy: 'Open it in the browser.' }, 405);
    return entered(request, await byKey((await params).key, callerOf(request)), '/');
  });
}
