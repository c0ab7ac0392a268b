import { beginRound, endRound, roundNow } from '@/server/jobs/shelf-check';
import { answer } from '../../respond';

/** How far the check of the whole shelf is; null where none is under way. */
export async function GET(request: Request): Promise<Response> {
  return answer(request, 'The shelf', async (access) => Response.json({ round: await roundNow(access) }));
}

/** Begins one, of all parts that are not checked as they are now. */
export async function POST(request: Request): Promise<Response> {
  return answer(request, 'The shelf', async (access) => Response.json({ round: await beginRound(access) }, { status: 202 }));
}

/** Ends it: what is checked stays. */
export async function DELETE(request: Request): Promise<Response> {
  return answer(request, 'The check of the shelf', async (access) => ((await endRound(access)) ? Response.json({ ok: true }) : null));
}
