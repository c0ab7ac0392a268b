/** What all route handlers share: the studio, one shape for problems, and a guard against other sites. */
import { z } from 'zod';
import { LARGEST_FILE_BYTES } from '@/core/formats/xml';
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

/** The body, or null as soon as it passes the limit. */
export async function readUpTo(request: Request, limit: number): Promise<Uint8Array | null> {
  if (Number(request.headers.get('content-length') ?? 0) > limit) return null;
  const chunks: Uint8Array[] = [];
  let size = 0;
  if (request.body) {
    for await (const chunk of request.body as unknown as AsyncIterable<Uint8Array>) {
      size += chunk.length;
      if (size > limit) return null;
      chunks.push(chunk);
    }
  }
  return Buffer.concat(chunks);
}

export const fileTooLarge = (fileName: string): Response =>
  problemResponse(
    {
      place: fileName,
      what: `The file is larger than ${LARGEST_FILE_BYTES / 1048576} MB.`,
      remedy: 'Export the parts one by one, or leave out embedded pictures.',
    },
    413,
  );

/** A file to be kept; its name in both ways that browsers read. */
export function download({ fileName, bytes, type }: { fileName: string; bytes: Uint8Array; type: string }): Response {
  const ascii = fileName.replace(/[^\x20-\x7e]|["\\]/g, '_');
  return new Response(new Uint8Array(bytes), {
    headers: {
      'content-type': type,
      'content-disposition': `attachment; filename="${ascii}"; filename*=UTF-8''${encodeURIComponent(fileName)}`,
      'cache-control': 'no-store',
    },
  });
}
