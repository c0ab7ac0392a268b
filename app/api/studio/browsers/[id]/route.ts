import { endBrowser } from '@/server/doors/people';
import { answer } from '../../../respond';

/** Lets a browser be a stranger again: one's own, or anybody's for the owner. */
export async function DELETE(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This browser', async (access) => ((await endBrowser(access, (await params).id)) ? Response.json({ ok: true }) : null));
}
