/** What all route handlers share: the studio, who asks, one shape for problems, and limits. Who may come in is said at the door (`tools/run/door.ts`). */
import { z } from 'zod';
import { LIMITS } from '@/core/util/limits';
import type { Problem } from '@/core/util/result';
import { cleanText, shortened } from '@/core/util/text';
import { accessOf, may, type Access, type Need } from '@/server/access';
import { sessionOf } from '../session-cookie';
import { troubleOf } from '@/server/trouble';
import type { Asker } from '@/server/workers';

export const problemResponse = (problem: Problem, status = 422, retryAfter: number | null = null): Response =>
  Response.json({ problem }, { status, headers: retryAfter === null ? {} : { 'retry-after': String(retryAfter) } });

/** @param need players have no shelf */
const notFound = (what: string, need: Need = 'teach'): Response =>
  problemResponse(
    { place: null, what: `${what} is no longer there.`, remedy: `Go back to ${need === 'stand' ? 'your parts' : 'the shelf'} and open it again.` },
    404,
  );

/** The browser that asks, by the cookie it gave itself (`ui/kit/client.ts`): work is shared out fairly between browsers. */
export function askerOf(request: Request): Asker {
  const client = /(?:^|;\s*)client=([\w-]{8,64})/.exec(request.headers.get('cookie') ?? '')?.[1];
  return { client: client ?? 'unnamed', signal: request.signal };
}

const STRANGER: Problem = {
  place: null,
  what: 'This browser is not let in, or not any more.',
  remedy: 'Reload the page and come in; what you typed is kept in this browser and is sent then.',
};
const NOT_FOR_YOU: Problem = { place: null, what: 'This is not for you to do.', remedy: 'Ask the owner of the studio.' };

type Handler = (access: Access, asker: Asker) => Promise<Response | null>;

/** Runs a handler for who asks, where they may; null from it means that the thing asked for is not there. */
export async function answer(request: Request, what: string, handler: Handler, need: Need = 'teach'): Promise<Response> {
  return answered(request, what, async () => {
    const access = await accessOf(sessionOf(request));
    if (!access) return problemResponse(STRANGER, 401);
    if (!may(access, need)) return problemResponse(NOT_FOR_YOU, 403);
    return (await handler(access, askerOf(request))) ?? notFound(what, need);
  });
}

/** The same for whoever comes: what is asked before somebody is let in. */
export async function answered(request: Request, what: string, handler: () => Promise<Response | null>): Promise<Response> {
  try {
    return (await handler()) ?? notFound(what);
  } catch (error) {
    if (request.signal.aborted) return new Response(null, { status: 499 });
    const trouble = troubleOf(error);
    const name = request.headers.get('x-omaggio-request') ?? '-';
    if (trouble) console.error(JSON.stringify({ request: name, about: what, trouble: trouble.problem.what, error: messageOf(error) }));
    else console.error(JSON.stringify({ request: name, about: what, error: messageOf(error), stack: (error as Error).stack }));
    if (trouble) return problemResponse(trouble.problem, trouble.status, trouble.retryAfter);
    return problemResponse(
      {
        place: null,
        what: 'Omaggio met an error of its own; nothing was changed.',
        remedy: `Try again; if it comes back, look into the server log for ${name.slice(0, 8)}.`,
      },
      500,
    );
  }
}

const messageOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));

type Body<T> = { ok: true; value: T } | { ok: false; response: Response };

/** Body of a request by its shape, or the response that says what is wrong with it. */
export async function body<T>(request: Request, shape: z.ZodType<T>, limit: number = LIMITS.requestBytes): Promise<Body<T>> {
  const bytes = await readUpTo(request, limit);
  if (bytes === null) {
    return {
      ok: false,
      response: problemResponse({ place: null, what: `The request is larger than ${limit / 1_048_576} MB.`, remedy: 'Send less at a time.' }, 413),
    };
  }
  const parsed = shape.safeParse(jsonOf(bytes));
  if (parsed.success) return { ok: true, value: parsed.data };
  return { ok: false, response: problemResponse(wrongShape(parsed.error), 400) };
}

/** What is wrong with something sent, at the first place where it is. */
export function wrongShape(error: z.ZodError): Problem {
  const issue = error.issues[0]!;
  return { place: issue.path.join('.') || null, what: `${issue.message}.`, remedy: 'Correct it, or reload the page and try again.' };
}

function jsonOf(bytes: Uint8Array): unknown {
  try {
    return JSON.parse(new TextDecoder().decode(bytes));
  } catch {
    return undefined;
  }
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

/** Name of a file that is sent, as the query says it; its end is kept, since that says what it is. */
export function fileNameOf(request: Request, usual: string): string {
  // A name alone: what stands before the last stroke is a way through somebody's folders.
  const name = cleanText(new URL(request.url).searchParams.get('name') ?? '')
    .replace(/^.*[/\\]/su, '')
    .trim();
  return (name.length > LIMITS.fileName ? `${shortened(name, LIMITS.fileName - 20)}${name.slice(-20)}` : name) || usual;
}

/** A file that is sent, read up to the limit; or the response that says that it is too large. */
export async function fileOf(request: Request, fileName: string): Promise<Body<Uint8Array>> {
  const bytes = await readUpTo(request, LIMITS.fileBytes);
  if (bytes) return { ok: true, value: bytes };
  const what = `The file is larger than ${LIMITS.fileBytes / 1_048_576} MB.`;
  return { ok: false, response: problemResponse({ place: fileName, what, remedy: 'Export the parts one by one, or leave out embedded pictures.' }, 413) };
}

/** A file to be kept. */
export const download = ({ fileName, bytes, type }: { fileName: string; bytes: Uint8Array; type: string }): Response =>
  new Response(new Uint8Array(bytes), { headers: attachment(fileName, type) });

/** Its name in both ways that browsers read. */
export function attachment(fileName: string, type: string): Record<string, string> {
  const clean = cleanText(fileName).replace(/[\n\t]/g, ' ');
  const ascii = clean.replace(/[^\x20-\x7e]|["\\]/g, '_');
  return {
    'content-type': type,
    'content-disposition': `attachment; filename="${ascii}"; filename*=UTF-8''${encodeURIComponent(clean)}`,
    'cache-control': 'no-store',
  };
}
