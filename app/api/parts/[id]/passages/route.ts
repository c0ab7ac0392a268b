import { z } from 'zod';
import { deedShape } from '@/core/marking/part-deed';
import { LIMITS } from '@/core/util/limits';
import { partById, passageShape, setPassages } from '@/server/parts';
import { answer, body, problemResponse } from '../../../respond';

const listShape = z.array(passageShape).max(LIMITS.passages);
/** All passages as they shall be, and as they were thought to be; null writes over whatever is stored. */
const asked = z.object({ from: listShape.nullable(), to: listShape, deed: deedShape.optional() });

/** Replaces all passages of a part; 409 with what is stored where that is not what they were thought to be. */
export async function PUT(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This part', async (access) => {
    const part = await partById(access, (await params).id);
    if (!part) return null;
    const sent = await body(request, asked);
    if (!sent.ok) return sent.response;
    const { from, to, deed } = sent.value;
    const outside = to.find((passage) => passage.toBar >= part.bars);
    if (outside) return problemResponse({ place: outside.name, what: 'The passage ends after the last bar.', remedy: 'Choose bars of this part.' });
    const outcome = await setPassages(access, part.id, to, from, deed);
    return Response.json(outcome, { status: outcome.ok ? 200 : 409 });
  });
}
