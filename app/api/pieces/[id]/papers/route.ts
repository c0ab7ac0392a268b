import { keepPaper, papersOf } from '@/server/papers';
import { answer, fileNameOf, fileOf, problemResponse } from '../../../respond';

interface Where {
  params: Promise<{ id: string }>;
}

/** The sheets that lie beside a typed passage. */
export async function GET(request: Request, { params }: Where): Promise<Response> {
  return answer(request, 'The sheets of this piece', async (access) => Response.json({ papers: await papersOf(access, (await params).id) }));
}

/** Lays one there: its bytes are the body, its name is in the query. */
export async function POST(request: Request, { params }: Where): Promise<Response> {
  return answer(request, 'This piece', async (access) => {
    const fileName = fileNameOf(request, 'sheet');
    const sent = await fileOf(request, fileName);
    if (!sent.ok) return sent.response;
    const kept = await keepPaper(access, (await params).id, fileName, sent.value);
    if (!kept) return null;
    return kept.ok ? Response.json(kept.value, { status: 201 }) : problemResponse(kept.problem);
  });
}
