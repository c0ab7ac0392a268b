/** Work that waits for a worker, in the database (the package pg-boss): tried again where it fails or its worker is gone. */
import PgBoss from 'pg-boss';
import { inTurn } from '../in-turn';

const SCHEMA = 'jobs';

/** A part of a round over the shelf. */
export interface PartJob {
  studio: string;
  round: string;
  part: string;
}
export const CHECK_PART = 'check-part';

/** A part of what is put on paper at once. */
export interface PrintJob {
  studio: string;
  printing: string;
  part: string;
}
export const PRINT_PART = 'print-part';

/** A worker that has not been done by then is taken for gone; the largest parts take some ten seconds. Then it is tried again. */
const RULES = { retryLimit: 5, retryDelay: 1, retryBackoff: true, expireInSeconds: 120 };
/** Seconds between looks for workers that are gone. */
const LOOK_EVERY = 15;

function made(options: Partial<PgBoss.ConstructorOptions>): PgBoss {
  const connectionString = process.env.DATABASE_URL;
  if (!connectionString) throw new Error('DATABASE_URL is not set.');
  const boss = new PgBoss({
    connectionString,
    schema: SCHEMA,
    application_name: 'omaggio jobs',
    migrate: false,
    supervise: false,
    schedule: false,
    max: 2,
    ...options,
  });
  boss.on('error', (error) => console.error('jobs:', error.message));
  return boss;
}

/** Its tables, made or brought up to date by who owns the database: in turn, since the package's own tables deadlock where two make them. */
export async function prepareQueue(databaseUrl: string): Promise<void> {
  await inTurn(databaseUrl, 'queue', async () => {
    const boss = made({ migrate: true });
    await boss.start();
    for (const name of [CHECK_PART, PRINT_PART]) await boss.createQueue(name, { name, ...RULES });
    await boss.stop({ graceful: false });
  });
}

const holder = globalThis as unknown as { omaggioJobs?: Promise<PgBoss> };

/** For who has work done. */
export function queue(): Promise<PgBoss> {
  holder.omaggioJobs ??= made({}).start();
  // Tried anew by the next one who asks.
  holder.omaggioJobs.catch(() => delete holder.omaggioJobs);
  return holder.omaggioJobs;
}

export async function closeQueue(): Promise<void> {
  const boss = await holder.omaggioJobs?.catch(() => undefined);
  delete holder.omaggioJobs;
  await boss?.stop({ graceful: false });
}

/** For who does it. */
export const workersQueue = (): Promise<PgBoss> => made({ supervise: true, maintenanceIntervalSeconds: LOOK_EVERY }).start();
