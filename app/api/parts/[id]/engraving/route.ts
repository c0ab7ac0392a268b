import { z } from 'zod';
import { storedMarkShape } from '@/core/marking/wire';
import { engraved, inView } from '@/server/engraving';
import { partById } from '@/server/parts';
import { troubleOf } from '@/server/trouble';
import { TaskTooMuch } from '@/server/workers';
import { answer, body, problemResponse } from '../../../respond';

const asked = z.object({
  fromBar: z.int().nonnegative(),
  toBar: z.int().nonnegative(),
  widthPx: z.int().min(240).max(4000),
  concert: z.boolean().optional(),
  octaves: z.int().min(-3).max(3).optional(),
  marking: z.record(z.string(), storedMarkShape),
});

/** A passage with the given marks, engraved: its first bars where it is long, with the last bar that is drawn as `toBar`. */
export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This part', async (access, asker) => {
    const part = await partById(access, (await params).id);
    if (!part) return null;
    const sent = await body(request, asked);
    if (!sent.ok) return sent.response;
    const { marking, ...whole } = sent.value;
    if (whole.toBar < whole.fromBar || whole.toBar >= part.bars)
      return problemResponse({ place: null, what: 'The part does not have these bars.', remedy: 'Choose another passage.' });
    const view = inView(whole);
    try {
      const engraving = await engraved(access, part.id, marking, view, asker);
      return engraving && Response.json({ ...engraving, toBar: view.toBar });
    } catch (error) {
      if (request.signal.aborted || (troubleOf(error) && !(error instanceof TaskTooMuch))) throw error;
      console.error(error);
      return problemResponse({
        place: `bars ${part.barLabels[view.fromBar]}–${part.barLabels[view.toBar]}`,
        what:
          error instanceof TaskTooMuch
            ? `The engraver was ended here: it took ${error.reason === 'time' ? `longer than ${Math.round(error.limitMs / 1000)} s` : 'too much memory'}.`
            : 'The engraver cannot draw these bars; the file may be damaged here.',
        remedy: 'The table shows them all the same, and marks are kept. Choose other bars, or correct the file and drop it again.',
      });
    }
  });
}
