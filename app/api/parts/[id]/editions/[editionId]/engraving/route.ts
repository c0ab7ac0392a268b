import { z } from 'zod';
import { engravedEdition } from '@/server/editions';
import { answer, body, problemResponse } from '../../../../../respond';

const asked = z.object({ fromBar: z.int().nonnegative(), toBar: z.int().nonnegative(), widthPx: z.int().min(240).max(4000) });

/** Bars of the other edition, engraved as they are printed. */
export async function POST(request: Request, { params }: { params: Promise<{ id: string; editionId: string }> }): Promise<Response> {
  return answer(request, 'This edition', async (access, asker) => {
    const { id, editionId } = await params;
    const sent = await body(request, asked);
    if (!sent.ok) return sent.response;
    try {
      const engraving = await engravedEdition(access, id, editionId, sent.value, asker);
      return engraving && Response.json(engraving);
    } catch (error) {
      console.error(error);
      return problemResponse({
        place: null,
        what: 'The engraver cannot draw these bars of the other edition.',
        remedy: 'The list says what differs all the same.',
      });
    }
  });
}
