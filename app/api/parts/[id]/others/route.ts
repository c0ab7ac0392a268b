import { othersOf } from '@/server/part-view';
import { answer } from '../../../respond';

/** The other parts of the piece with their marks: chords, cues and bows that should go together. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This part', async (access) => {
    const others = await othersOf(access, (await params).id);
    return others && Response.json(others);
  });
}
