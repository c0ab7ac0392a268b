import { pulse } from '@/server/db';

export const dynamic = 'force-dynamic';

/** Answers once the database does. */
export async function GET(): Promise<Response> {
  try {
    await pulse().query('SELECT 1');
    return Response.json({ ok: true });
  } catch (error) {
    return Response.json({ ok: false, error: (error as Error).message }, { status: 503 });
  }
}
