import { outOfPiece } from '@/server/handouts/coach';
import { answer } from '../../../respond';

/** What is out of a piece, who has it, and what would go out now. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This piece', async (access, asker) => {
    const parts = await outOfPiece(access, (await params).id, asker);
    return parts && Response.json({ parts });
  });
}
