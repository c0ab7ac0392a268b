import { deedShape } from '@/core/marking/part-deed';
import { partById, setPartSettings, settingsChangeShape } from '@/server/parts';
import { answer, body, problemResponse } from '../../../respond';

const asked = settingsChangeShape.extend({ deed: deedShape.extend({ before: settingsChangeShape }).optional() });

/** What a part is checked for, one by one; findings are accepted and taken up again by themselves. */
export async function PUT(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This part', async (access) => {
    const part = await partById(access, (await params).id);
    if (!part) return null;
    const sent = await body(request, asked);
    if (!sent.ok) return sent.response;
    const { deed, ...change } = sent.value;
    const done = await setPartSettings(access, part.id, change, deed);
    return done.ok ? Response.json({ ok: true }) : problemResponse(done.problem);
  });
}
