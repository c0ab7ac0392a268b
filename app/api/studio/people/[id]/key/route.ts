import { KEY_MINUTES, keyFor } from '@/server/doors/people';
import { answer } from '../../../../respond';
import { addressOf } from '../../../../../come-in';

/** A key for one further browser: one's own, or of anybody for the owner. It is told once. */
export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  return answer(request, 'This person', async (access) => {
    const key = await keyFor(access, (await params).id);
    return key === null ? null : Response.json({ url: `${addressOf(request)}/key/${key}`, minutes: KEY_MINUTES }, { status: 201 });
  });
}
