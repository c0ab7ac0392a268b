/** What went wrong inside, as something that a person can be told: a class of trouble with its HTTP status and its remedy. */
import { statfs } from 'node:fs/promises';
import type { Problem } from '../core/util/result';
import { TaskTooMuch } from './workers';

export interface Trouble {
  status: number;
  problem: Problem;
  /** Seconds after which trying again is worthwhile; null where it is not. */
  retryAfter: number | null;
}

/** PostgreSQL error codes (appendix A of its manual): classes 08 and 57 are connections, 53 is resources, 22021 a text it cannot hold. */
const DISK_FULL = ['53100', 'ENOSPC'];
const BUSY = ['55P03', '57014', '40001', '40P01', '53300', '25P03'];
const AWAY = ['57P01', '57P02', '57P03', 'ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT'];
const NO_TEXT = ['22021', '22P05', '22P02'];

/** Trouble that has a name; null for errors of our own. */
export function troubleOf(error: unknown): Trouble | null {
  const code = String((error as { code?: unknown }).code ?? '');
  const message = error instanceof Error ? error.message : '';
  if (error instanceof TaskTooMuch) {
    return {
      status: 422,
      problem: {
        place: null,
        what:
          error.reason === 'time'
            ? `This was ended because it took longer than ${Math.round(error.limitMs / 1000)} s.`
            : 'This was ended because it took too much memory.',
        remedy: 'Nothing was changed. Choose fewer bars, or take in the parts one by one.',
      },
      retryAfter: null,
    };
  }
  if (DISK_FULL.includes(code)) {
    return {
      status: 507,
      problem: {
        place: null,
        what: 'The disk of the server is full: nothing more can be stored.',
        remedy: 'What was stored is safe. Make room on it; what waits in the browser is sent then.',
      },
      retryAfter: 30,
    };
  }
  if (BUSY.includes(code) || message.includes('timeout exceeded when trying to connect') || message === 'Query read timeout') {
    return {
      status: 503,
      problem: { place: null, what: 'Omaggio has too much to do just now; nothing was changed.', remedy: 'Try again in a moment.' },
      retryAfter: 2,
    };
  }
  if (AWAY.includes(code) || code.startsWith('08') || message.startsWith('Connection terminated')) {
    return {
      status: 503,
      problem: {
        place: null,
        what: 'The database of Omaggio does not answer; nothing was changed.',
        remedy: 'It is started again by itself. Try again in a moment.',
      },
      retryAfter: 2,
    };
  }
  if (NO_TEXT.includes(code)) {
    return {
      status: 400,
      problem: { place: null, what: 'The request has text that cannot be stored.', remedy: 'Leave out control characters and try again.' },
      retryAfter: null,
    };
  }
  return null;
}

/** Below this much room the screen says so: enough for some hundred scores and their history (judgement). */
const LOW_DISK_BYTES = 300 * 1024 * 1024;
const LOOK_EVERY_MS = 10_000;

const holder = globalThis as unknown as { omaggioDisk?: { at: number; freeBytes: number | null } };

/** Free bytes where the data lie; null where they lie on another machine. Looked up at most every ten seconds. */
export async function freeDiskBytes(now: number): Promise<number | null> {
  const folder = process.env.OMAGGIO_DATA_FOLDER;
  if (!folder) return null;
  if (holder.omaggioDisk && now - holder.omaggioDisk.at < LOOK_EVERY_MS) return holder.omaggioDisk.freeBytes;
  const found = await statfs(folder).catch(() => null);
  const freeBytes = found && found.bavail * found.bsize;
  holder.omaggioDisk = { at: now, freeBytes };
  return freeBytes;
}

/** MB that are left, where that is little; null otherwise. */
export async function lowDiskMb(now: number = Date.now()): Promise<number | null> {
  const free = await freeDiskBytes(now);
  return free !== null && free < lowDiskBytes() ? Math.floor(free / 1_048_576) : null;
}

/** The bound can be moved for a test: a disk cannot be filled there. */
const lowDiskBytes = (): number => Number(process.env.OMAGGIO_LOW_DISK_BYTES) || LOW_DISK_BYTES;
