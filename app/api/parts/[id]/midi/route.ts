import { midiOfPart } from '@/server/take-out';
import { answer, download } from '../../../respond';

/** The part as it is played, for listening elsewhere. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This part', async (access, asker) => {
    const file = await midiOfPart(access, (await params).id, asker);
    return file && download(file);
  });
}
