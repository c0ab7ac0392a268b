/** Sending unsent changes, and what came of it: an answer counts only if it is one of ours. */
import { z } from 'zod';
import { storeAnswerShape, type StoreAnswer } from '@/core/marking/wire';
import { LIMITS } from '@/core/util/limits';
import { problemShape, type Problem } from '@/core/util/problem-shape';
import { laneOf, type Body, type Entry } from './entry';

export type MarksClash = NonNullable<StoreAnswer['clash']>;

export type Outcome =
  | {
      kind: 'answered';
      /** Ids that the server has now. */
      stored: string[];
      refused: { id: string; problem: Problem } | null;
      /** Of marks what is stored, of passages those that are there. */
      clash: Clash | null;
    }
  /** Nobody knows whether it arrived: it is sent again. */
  | { kind: 'no answer'; problem: Problem; retryAfterMs: number | null };

export type Clash = ({ about: 'marks' } & MarksClash) | { about: 'passages'; passages: z.infer<typeof passagesShape> };

const passagesShape = z.array(z.object({ name: z.string(), fromBar: z.number(), toBar: z.number() }));
const doneShape = z.object({ ok: z.literal(true) });
const passagesAnswer = z.object({ ok: z.boolean(), passages: passagesShape });
const problemAnswer = z.object({ problem: problemShape });

/** An answer is waited for this long. */
export const ANSWER_MS = 15_000;
/** Letters of one request; the server takes more. */
const LARGEST_BATCH = 1_000_000;

/** The first entries of the first one's lane that go in one request. */
export function batchOf(entries: readonly Entry[]): Entry[] {
  const [first] = entries;
  if (!first) return [];
  if (first.body.about !== 'marks') return [first];
  const lane = laneOf(first.body);
  const batch: Entry[] = [];
  let letters = 0;
  for (const entry of entries) {
    if (laneOf(entry.body) !== lane) continue;
    letters += JSON.stringify(entry.body).length;
    if (batch.length && (letters > LARGEST_BATCH || batch.length >= LIMITS.setsInRequest)) break;
    batch.push(entry);
  }
  return batch;
}

export interface HttpAnswer {
  status: number;
  text: string;
  retryAfter: string | null;
}
/** Asks the server; null where no answer came in time. */
export type Ask = (method: string, url: string, value: unknown) => Promise<HttpAnswer | null>;

const SILENT: Problem = { place: null, what: 'Omaggio does not answer.', remedy: 'They are sent as soon as it does.' };
const STRANGER: Problem = {
  place: null,
  what: 'Something else than Omaggio answers, perhaps the sign-in page of a network.',
  remedy: 'Open another page in this browser to sign in; then they are sent.',
};

/** Sends a batch of one lane. */
export async function sendBatch(batch: readonly Entry[], ask: Ask): Promise<Outcome> {
  const { method, url, value } = requestFor(batch);
  const answer = await ask(method, url, value);
  if (!answer) return { kind: 'no answer', problem: SILENT, retryAfterMs: null };
  const json = jsonOf(answer.text);
  const read = batch[0]!.body.about === 'marks' ? marksOutcome(answer.status, json) : otherOutcome(batch[0]!, answer.status, json);
  if (read) return read;
  const said = problemAnswer.safeParse(json);
  if (!said.success) return { kind: 'no answer', problem: STRANGER, retryAfterMs: null };
  const { problem } = said.data;
  // What only time can mend, or coming in anew, is tried again; everything else is refused for good.
  if (answer.status >= 500 || answer.status === 401 || answer.status === 429 || answer.status === 408) {
    const seconds = Number(answer.retryAfter);
    return { kind: 'no answer', problem, retryAfterMs: answer.retryAfter !== null && Number.isFinite(seconds) ? seconds * 1000 : null };
  }
  // A request as a whole was refused: one of them may be to blame, so that they are tried one by one.
  if (batch.length > 1) return sendBatch(batch.slice(0, 1), ask);
  return { kind: 'answered', stored: [], refused: { id: batch[0]!.id, problem }, clash: null };
}

function requestFor(batch: readonly Entry[]): { method: string; url: string; value: unknown } {
  const { body } = batch[0]!;
  switch (body.about) {
    case 'marks':
      return {
        method: 'POST',
        url: `/api/markings/${body.markingId}/changes`,
        value: batch.map((entry) => (entry.body as Extract<Body, { about: 'marks' }>).set),
      };
    case 'passages':
      return { method: 'PUT', url: `/api/parts/${body.part.id}/passages`, value: { from: body.from, to: body.to, ...(body.deed ? { deed: body.deed } : {}) } };
    case 'settings':
      return { method: 'PUT', url: `/api/parts/${body.part.id}/settings`, value: { ...body.change, ...(body.deed ? { deed: body.deed } : {}) } };
    case 'said':
      return { method: 'POST', url: `/api/stand/hand-outs/${body.handoutId}/said`, value: body.said };
    case 'player':
      return { method: 'PUT', url: `/api/players/${body.playerId}`, value: body.change };
  }
}

function marksOutcome(status: number, json: unknown): Outcome | null {
  if (status !== 200 && status !== 409 && status !== 422) return null;
  const parsed = storeAnswerShape.safeParse(json);
  if (!parsed.success) return null;
  const { stored, refused, clash } = parsed.data;
  // The status and what is said have to agree.
  if ((status === 409) !== (clash !== null) || (status === 422) !== (refused !== null)) return null;
  return { kind: 'answered', stored, refused, clash: clash && { about: 'marks', ...clash } };
}

function otherOutcome({ id, body }: Entry, status: number, json: unknown): Outcome | null {
  if (body.about === 'passages') {
    const parsed = passagesAnswer.safeParse(json);
    if (!parsed.success) return null;
    if (status === 200 && parsed.data.ok) return { kind: 'answered', stored: [id], refused: null, clash: null };
    if (status === 409 && !parsed.data.ok) return { kind: 'answered', stored: [], refused: null, clash: { about: 'passages', passages: parsed.data.passages } };
    return null;
  }
  return status === 200 && doneShape.safeParse(json).success ? { kind: 'answered', stored: [id], refused: null, clash: null } : null;
}

function jsonOf(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}
