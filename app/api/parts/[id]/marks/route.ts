import { marksOfPart } from '@/server/take-out';
import { answer, download } from '../../../respond';

/** The marks alone, as a JSON file that can be read back. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This part', async (access, asker) => {
    const file = await marksOfPart(access, (await params).id, asker);
    return file && download(file);
  });
}
