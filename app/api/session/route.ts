import { z } from 'zod';
import { LIMITS } from '@/core/util/limits';
import { DAYS_IN, byPhrase, wordsOf } from '@/server/doors/come-in';
import { endBrowser } from '@/server/doors/people';
import { answer, answered, body, problemResponse } from '../respond';
import { callerOf } from '../../come-in';
import { sessionCookie } from '../../session-cookie';

const signInShape = z.object({ name: z.string().min(1).max(LIMITS.name), phrase: z.string().min(1).max(1_000) });

/** Comes in with name and pass phrase. */
export async function POST(request: Request): Promise<Response> {
  return answered(request, 'The studio', async () => {
    const sent = await body(request, signInShape);
    if (!sent.ok) return sent.response;
    const entry = await byPhrase(sent.value.name, sent.value.phrase, callerOf(request));
    if ('why' in entry) return problemResponse(wordsOf(entry.why), entry.why === 'often' ? 429 : 401);
    return Response.json({ ok: true }, { headers: { 'set-cookie': sessionCookie(request, entry.token, DAYS_IN) } });
  });
}

/** Goes out: this browser is a stranger again. */
export async function DELETE(request: Request): Promise<Response> {
  return answer(
    request,
    'This browser',
    async (access) => {
      if (access.session) await endBrowser(access, access.session);
      return Response.json({ ok: true }, { headers: { 'set-cookie': sessionCookie(request, null, 0), 'clear-site-data': '"cache"' } });
    },
    'stand',
  );
}
