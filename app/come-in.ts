/** What the ways in share: who knocks, and the answer that lets a browser in. */
import { DAYS_IN, type Caller, type Entry } from '@/server/doors/come-in';
import { sessionCookie } from './session-cookie';

/** The door says from which machine (`tools/serve.ts`); without it, as in tests, nobody knows. */
export const callerOf = (request: Request): Caller => ({
  address: request.headers.get('x-omaggio-address') ?? 'unknown',
  agent: request.headers.get('user-agent') ?? '',
});

/** A place of ours, and no other site. */
export const safePlace = (to: string | null): string => (to !== null && /^\/(?![/\\])[^\\\s]*$/.test(to) ? to : '/');

/** Lets the browser in and takes the key out of its address, or leads it back to the way in. */
export function entered(request: Request, entry: Entry, to: string): Response {
  const headers = { 'cache-control': 'no-store', 'referrer-policy': 'no-referrer' };
  if ('why' in entry) return new Response(null, { status: 303, headers: { ...headers, location: `/enter?why=${entry.why}` } });
  return new Response(null, { status: 303, headers: { ...headers, location: to, 'set-cookie': sessionCookie(request, entry.token, DAYS_IN) } });
}

/** Under which address others open what is told to them. */
export const addressOf = (request: Request): string => process.env.OMAGGIO_ORIGIN || `http://${request.headers.get('host') ?? new URL(request.url).host}`;
