import { replaceFile } from '@/server/editions';
import { answer, problemResponse } from '../../../../../respond';

/** Puts the edition in the place of the part's file; marks and passages are carried over. */
export async function POST(request: Request, { params }: { params: Promise<{ id: string; editionId: string }> }): Promise<Response> {
  return answer(request, 'This edition', async (access, asker) => {
    const { id, editionId } = await params;
    const replaced = await replaceFile(access, id, editionId, asker);
    if (!replaced) return null;
    return replaced.ok ? Response.json(replaced.value) : problemResponse(replaced.problem);
  });
}
