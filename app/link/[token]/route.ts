import { byLink } from '@/server/doors/come-in';
import { answered } from '../../api/respond';
import { callerOf, entered } from '../../come-in';

/** A player's own link: opens their Stand and nothing else. */
export async function GET(request: Request, { params }: { params: Promise<{ token: string }> }): Promise<Response> {
  return answered(request, 'This link', async () => {
    return entered(request, await byLink((await params).token, callerOf(request)), '/stand');
  });
}
