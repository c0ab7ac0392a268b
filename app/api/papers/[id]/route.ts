import { dropPaper, paperBytes } from '@/server/papers';
import { answer } from '../../respond';

interface Where {
  params: Promise<{ id: string }>;
}

/** A sheet as it came. It is somebody's file: nothing in it may run. */
export async function GET(request: Request, { params }: Where): Promise<Response> {
  return answer(request, 'This sheet', async (access) => {
    const paper = await paperBytes(access, (await params).id);
    return (
      paper &&
      new Response(new Uint8Array(paper.bytes), {
        headers: {
          'content-type': paper.type,
          'content-security-policy': "default-src 'none'; sandbox",
          'x-content-type-options': 'nosniff',
          'cache-control': 'private, max-age=86400, immutable',
        },
      })
    );
  });
}

export async function DELETE(request: Request, { params }: Where): Promise<Response> {
  return answer(request, 'This sheet', async (access) => ((await dropPaper(access, (await params).id)) ? Response.json({ ok: true }) : null));
}
