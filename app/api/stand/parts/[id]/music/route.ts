import { z } from 'zod';
import { DENSITIES } from '@/core/left-hand/worth-writing';
import { engravedFor, sheetOf } from '@/server/handouts/on-the-stand';
import { players } from '@/server/players';
import { TaskTooMuch } from '@/server/workers';
import { readerOf } from '../../../../../stand/reader';
import { answer, problemResponse, wrongShape } from '../../../../respond';

const asked = z.object({
  width: z.coerce.number().int().min(240).max(2_000),
  which: z.enum(['latest', 'earlier']).default('latest'),
  fingers: z.enum(DENSITIES).default('every note'),
  shifts: z.enum(['yes', 'no']).default('no'),
});

/** A part that was handed out, engraved for a width: the latest, or the one before it. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(
    request,
    'This part',
    async (access, asker) => {
      const query = new URL(request.url).searchParams;
      const wanted = asked.safeParse(Object.fromEntries(query));
      if (!wanted.success) return problemResponse(wrongShape(wanted.error), 400);
      const reader = readerOf(access, query.get('as'));
      const sheet = reader ? await sheetOf(access, (await params).id, reader) : null;
      const frozen = wanted.data.which === 'latest' ? sheet?.frozen : sheet?.earlier?.frozen;
      if (!sheet || !frozen) return null;
      try {
        const { width, fingers, shifts } = wanted.data;
        const isPlain = fingers === 'every note' && shifts === 'no';
        const player = isPlain ? null : ((await players(access)).find(({ id }) => id === reader) ?? null);
        return Response.json(await engravedFor(access, frozen, width, asker, isPlain ? undefined : { fingers, shifts: shifts === 'yes', player }));
      } catch (error) {
        if (!(error instanceof TaskTooMuch)) throw error;
        return problemResponse({ place: frozen.part, what: 'This part is too large to be drawn as a whole here.', remedy: 'Ask your coach for it on paper.' });
      }
    },
    'stand',
  );
}
