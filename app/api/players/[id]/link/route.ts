import { newLinkShape } from '@/core/util/person-shape';
import { endLink, newLink } from '@/server/doors/people';
import { answer, body } from '../../../respond';
import { addressOf } from '../../../../come-in';

interface Where {
  params: Promise<{ id: string }>;
}

/** A new personal link; the one before ends. It is told once: only its digest is kept. */
export async function POST(request: Request, { params }: Where): Promise<Response> {
  return answer(request, 'This player', async (access) => {
    const sent = await body(request, newLinkShape);
    if (!sent.ok) return sent.response;
    const token = await newLink(access, (await params).id, sent.value.days);
    return token === null ? null : Response.json({ url: `${addressOf(request)}/link/${token}` }, { status: 201 });
  });
}

export async function DELETE(request: Request, { params }: Where): Promise<Response> {
  return answer(request, 'The link of this player', async (access) => ((await endLink(access, (await params).id)) ? Response.json({ ok: true }) : null));
}
