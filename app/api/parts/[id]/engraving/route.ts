import { z } from 'zod';
import { engraved } from '@/server/engraving';
import { markShape } from '@/server/markings';
import { partById } from '@/server/parts';
import { answer, body, problemResponse } from '../../../respond';

const asked = z.object({
  fromBar: z.int().nonnegative(),
  toBar: z.int().nonnegative(),
  widthPx: z.int().min(240).max(4000),
  marking: z.record(z.string(), markShape),
});

/** A passage with the given marks, engraved. */
export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This part', async (studioId) => {
    const part = await partById(studioId, (await params).id);
    if (!part) return null;
    const sent = await body(request, asked);
    if (!sent.ok) return sent.response;
    const { marking, ...view } = sent.value;
    if (view.toBar < view.fromBar || view.toBar >= part.bars)
      return problemResponse({ place: null, what: 'The part does not have these bars.', remedy: 'Choose another passage.' });
    try {
      return Response.json(await engraved(studioId, part.id, marking, view));
    } catch (error) {
      console.error(error);
      const bars = `bars ${part.barLabels[view.fromBar]}–${part.barLabels[view.toBar]}`;
      return problemResponse({
        place: bars,
        what: 'The engraver cannot draw these bars; the file may be damaged here.',
        remedy: 'The table shows them all the same, and marks are kept. Choose other bars, or correct the file and drop it again.',
      });
    }
  });
}
