import { asFirst } from '@/server/doors/come-in';
import { answered, problemResponse } from '../api/respond';
import { callerOf, entered } from '../come-in';

/** The first browser of a new studio at home is let in as its owner. Served to others nobody is: the key of bin/start does it. */
export async function GET(request: Request): Promise<Response> {
  return answered(request, 'The studio', async () => {
    if (request.method !== 'GET') return problemResponse({ place: null, what: 'One comes in by opening a page.', remedy: 'Open it in the browser.' }, 405);
    const token = process.env.OMAGGIO_ORIGIN ? null : await asFirst(callerOf(request));
    return entered(request, token ? { token } : { why: 'first' }, '/?first=yes');
  });
}
