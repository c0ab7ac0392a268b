import { isId } from '@/server/id';
import { printedFile } from '@/server/jobs/printing';
import { printedPart } from '@/server/handouts/paper';
import { partsOfPiece } from '@/server/parts';
import { answer, download } from '../../../../respond';
import { paperFrom } from './size';

/** What is out of a piece as PDF: what was printed last; `?part=` the latest hand-out of one part. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This hand-out', async (access, asker) => {
    const { id } = await params;
    if (!isId(id)) return null;
    const only = new URL(request.url).searchParams.get('part');
    const part = only !== null && (await partsOfPiece(access, id)).find((each) => each.id === only);
    const printed = part ? await printedPart(access, part.id, paperFrom(request), asker) : only === null ? await printedFile(access, id, asker) : null;
    return printed && download({ ...printed, type: 'application/pdf' });
  });
}
