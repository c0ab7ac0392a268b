import { printedFor, stripsFor } from '@/server/handouts/paper';
import { paperFrom } from '../../../../pieces/[id]/hand-outs/paper/size';
import { readerOf } from '../../../../../stand/reader';
import { answer, download } from '../../../../respond';

/** A part that was handed out, as PDF; `?what=strips` what changed in it, to be pasted in. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(
    request,
    'This part',
    async (access, asker) => {
      const query = new URL(request.url).searchParams;
      const reader = readerOf(access, query.get('as'));
      const print = query.get('what') === 'strips' ? stripsFor : printedFor;
      const printed = reader && (await print(access, (await params).id, reader, paperFrom(request), asker));
      return printed ? download({ ...printed, type: 'application/pdf' }) : null;
    },
    'stand',
  );
}
