import { printedParts } from '@/server/handouts/paper';
import { partsOfPiece } from '@/server/parts';
import { isId } from '@/server/id';
import { answer, download } from '../../../../respond';
import { paperFrom } from './size';

/** The latest hand-outs of a piece's parts in one PDF; `?part=` of one of them alone. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This hand-out', async (access, asker) => {
    const { id } = await params;
    if (!isId(id)) return null;
    const only = new URL(request.url).searchParams.get('part');
    const parts = (await partsOfPiece(access, id)).filter((part) => only === null || part.id === only);
    const printed = await printedParts(
      access,
      parts.map((part) => part.id),
      paperFrom(request),
      asker,
    );
    return printed && download({ ...printed, type: 'application/pdf' });
  });
}
