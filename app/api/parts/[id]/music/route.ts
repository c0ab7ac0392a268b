import { z } from 'zod';
import { musicOf } from '@/server/parts';
import { answer } from '../../../respond';

/** The part as a MusicXML document of its own; ?v= says which version is asked for, and that one never changes. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This part', async (access) => {
    const { id } = await params;
    const music = z.uuid().safeParse(id).success ? await musicOf(access, id) : null;
    return music === null
      ? null
      : new Response(music.text, {
          headers: {
            'content-type': 'application/xml; charset=utf-8',
            'content-disposition': 'attachment; filename="part.musicxml"',
            'cache-control': new URL(request.url).searchParams.get('v') === music.version ? 'private, max-age=31536000, immutable' : 'no-store',
          },
        });
  });
}
