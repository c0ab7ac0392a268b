/** What all route handlers share: the studio, one shape for problems, and a guard against other sites. */
import { z } from 'zod';
import type { Problem } from '@/core/util/result';
import { currentStudio } from '@/server/studio';

export const problemResponse = (problem: Problem, status = 422): Response => Response.json({ problem }, { status });

const notFound = (what: string): Response =>
  problemResponse({ place: null, what: `${what} is no longer there.`, remedy: 'Go back to the shelf and open it again.' }, 404);

/** Runs a handler for the studio; null from it means that the thing asked for is not there. */
export async function answer(request: Request, what: string, handler: (studioId: string) => Promise<Response | null>): Promise<Response> {
  if (request.method !== 'GET' && request.headers.get('sec-fetch-site') === 'cross-site') {
    return problemResponse({ place: null, what: 'The request came from another site.', remedy: 'Use Omaggio from its own address.' }, 403);
  }
  try {
    return (await handler(await currentStudio())) ?? notFound(what);
  } catch (error) {
    console.error(error);
    return problemResponse(
      { place: null, what: 'Omaggio met an error of its own; nothing was changed.', remedy: 'Try again; if it comes back, look into the server log.' },
      500,
    );
  }
}

/** Body of a request by its shape, or the response that says what is wrong with it. */
export async function body<T>(request: Request, shape: z.ZodType<T>): Promise<{ ok: true; value: T } | { ok: false; response: Response }> {
  const json: unknown = await request.json().catch(() => undefined);
  const parsed = shape.safeParse(json);
  if (parsed.success) return { ok: true, value: parsed.data };
  const issue = parsed.error.issues[0]!;
  return {
    ok: false,
    response: problemResponse({ place: issue.path.join('.') || null, what: `${issue.message}.`, remedy: 'Reload the page and try again.' }, 400),
  };
}
