import { pulse } from '@/server/db';
import { stateNow } from '@/server/metrics';

export const dynamic = 'force-dynamic';

/** Answers once the database does. Who started the server knows it by its run. */
export async function GET(): Promise<Response> {
  try {
    await pulse().query('SELECT 1');
    const state = await stateNow();
    return Response.json({
      ok: true,
      run: process.env.OMAGGIO_RUN ?? null,
      database: 'answers',
      workers: state ? 'ready' : 'not asked yet',
      waiting: state?.waitingTasks ?? 0,
    });
  } catch (error) {
    // Addresses and names are for the log alone.
    console.error('health', error);
    return Response.json({ ok: false, error: 'The database does not answer.' }, { status: 503 });
  }
}
