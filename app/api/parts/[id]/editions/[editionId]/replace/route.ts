import { replaceFile } from '@/server/editions';
import { AUTHOR } from '@/server/studio';
import { answer, problemResponse } from '../../../../../respond';

/** Puts the edition in the place of the part's file; marks and passages are carried over. */
export async function POST(request: Request, { params }: { params: Promise<{ id: string; editionId: string }> }): Promise<Response> {
  return answer(request, 'This edition', async (studioId, asker) => {
    const { id, editionId } = await params;
    const replaced = await replaceFile(studioId, id, editionId, AUTHOR, asker);
    if (!replaced) return null;
    return replaced.ok ? Response.json(replaced.value) : problemResponse(replaced.problem);
  });
}
