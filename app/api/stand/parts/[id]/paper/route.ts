import { printedFor } from '@/server/handouts/paper';
import { paperFrom } from '../../../../pieces/[id]/hand-outs/paper/size';
import { readerOf } from '../../../../../stand/reader';
import { answer, download } from '../../../../respond';

/** A part that was handed out, as PDF. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(
    request,
    'This part',
    async (access, asker) => {
      const reader = readerOf(access, new URL(request.url).searchParams.get('as'));
      const printed = reader && (await printedFor(access, (await params).id, reader, paperFrom(request), asker));
      return printed ? download({ ...printed, type: 'application/pdf' }) : null;
    },
    'stand',
  );
}
