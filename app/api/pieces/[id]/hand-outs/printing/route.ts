import { z } from 'zod';
import { isId } from '@/server/id';
import { beginPrinting, printingNow, stopPrinting } from '@/server/jobs/printing';
import { partsOfPiece } from '@/server/parts';
import { answer, body } from '../../../../respond';

interface Context {
  params: Promise<{ id: string }>;
}

/** How far the printing of what is out of a piece is; null where none was begun. */
export async function GET(request: Request, { params }: Context): Promise<Response> {
  return answer(request, 'This piece', async (access) => {
    const { id } = await params;
    const isThere = isId(id) && (await partsOfPiece(access, id)).length > 0;
    return isThere ? Response.json({ printing: await printingNow(access, id) }) : null;
  });
}

const asked = z.object({ paper: z.enum(['a4', 'letter']).default('a4') });

/** Begins it, or goes on with what was ended. */
export async function POST(request: Request, { params }: Context): Promise<Response> {
  return answer(request, 'This piece', async (access) => {
    const { id } = await params;
    const sent = await body(request, asked);
    if (!sent.ok) return sent.response;
    const printing = isId(id) ? await beginPrinting(access, id, sent.value.paper) : null;
    return printing && Response.json({ printing }, { status: 202 });
  });
}

/** Ends it: what is printed stays. */
export async function DELETE(request: Request, { params }: Context): Promise<Response> {
  return answer(request, 'This printing', async (access) => {
    const { id } = await params;
    return isId(id) && (await stopPrinting(access, id)) ? Response.json({ ok: true }) : null;
  });
}
