/**
 * What the database tells all servers: one connection of this process listens and passes on. Where it breaks it is made anew, and
 * everybody who follows looks for themselves, as they also do now and then without being told: nothing depends on a word that is lost.
 */
import pg from 'pg';
import { z } from 'zod';
import { db, type OfStudio } from '../db';

const CHANNEL = 'omaggio';

const wordShape = z.object({
  studio: z.uuid(),
  part: z.uuid(),
  /** `news`: something is stored; the others say who is there. */
  what: z.enum(['news', 'here', 'gone', 'who']),
  /** A page that somebody has open, and their name. */
  page: z.string().optional(),
  name: z.string().optional(),
});
export type Word = z.infer<typeof wordShape>;

type Hear = (word: Word | null) => void;

const PAUSES_MS = [200, 1_000, 3_000, 10_000];
/** Everybody looks for themselves this often, whatever is heard. */
const LOOK_MS = 10_000;

class Channel {
  private readonly followers = new Map<string, Set<Hear>>();
  private client: pg.Client | null = null;
  /** How many words were passed on. */
  words = 0;
  private failures = 0;

  private readonly look = setInterval(() => this.all(null), LOOK_MS).unref();

  /** @param hear told each word about a part, and null where it is time to look for oneself @returns the end of it */
  follow(partId: string, hear: Hear): () => void {
    const hearers = this.followers.get(partId) ?? new Set();
    this.followers.set(partId, hearers.add(hear));
    if (!this.client) void this.listen();
    return () => {
      hearers.delete(hear);
      if (hearers.size === 0) this.followers.delete(partId);
    };
  }

  private all(word: null): void {
    this.words++;
    for (const hearers of this.followers.values()) hearers.forEach((hear) => hear(word));
  }

  private async listen(): Promise<void> {
    const client = new pg.Client({
      connectionString: process.env.DATABASE_URL,
      keepAlive: true,
      connectionTimeoutMillis: 5_000,
      application_name: 'omaggio live',
    });
    this.client = client;
    let over = false;
    const again = (): void => {
      if (over) return;
      over = true;
      void client.end().catch(() => undefined);
      const pause = PAUSES_MS[Math.min(this.failures++, PAUSES_MS.length - 1)]!;
      setTimeout(() => (this.followers.size ? void this.listen() : (this.client = null)), pause).unref();
    };
    client.on('error', again);
    client.on('end', again);
    client.on('notification', ({ payload }) => this.pass(payload ?? ''));
    try {
      await client.connect();
      await client.query(`LISTEN ${CHANNEL}`);
      this.failures = 0;
      // What was said meanwhile was not heard.
      this.all(null);
    } catch (error) {
      console.error('live: nothing can be heard just now:', (error as Error).message);
      again();
    }
  }

  private pass(payload: string): void {
    const word = wordShape.safeParse(jsonOf(payload));
    this.words++;
    if (word.success) this.followers.get(word.data.part)?.forEach((hear) => hear(word.data));
  }

  async close(): Promise<void> {
    clearInterval(this.look);
    this.followers.clear();
    const { client } = this;
    this.client = null;
    client?.removeAllListeners();
    client?.on('error', () => undefined);
    await client?.end();
  }
}

function jsonOf(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

const holder = globalThis as unknown as { omaggioChannel?: Channel };
export const channel = (): Channel => (holder.omaggioChannel ??= new Channel());

export async function closeChannel(): Promise<void> {
  await holder.omaggioChannel?.close();
  delete holder.omaggioChannel;
}

/** To all servers. */
export async function tell(of: OfStudio, word: Omit<Word, 'studio'>): Promise<void> {
  await db(of).query('SELECT pg_notify($1, $2)', [CHANNEL, JSON.stringify({ studio: of.studio, ...word })]);
}
