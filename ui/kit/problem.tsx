'use client';

import { CircleAlert, X } from 'lucide-react';
import { z } from 'zod';
import { problemShape, type Problem } from '@/core/util/problem-shape';

export { problemShape, type Problem };

export const NO_ANSWER: Problem = {
  place: null,
  what: 'Omaggio does not answer.',
  remedy: 'What you change is kept in this browser. Check the connection, and that Omaggio runs.',
};

/** What a failed request says, or that there was no answer. */
export async function problemOf(response: Response | null): Promise<Problem> {
  if (response === null) return NO_ANSWER;
  const parsed = z.object({ problem: problemShape }).safeParse(await response.json().catch(() => null));
  return parsed.success ? parsed.data.problem : { place: null, what: `Omaggio answered with an error (${response.status}).`, remedy: 'Try again.' };
}

/** Browsers let this much go on being sent while a page is left. */
const KEEP_ALIVE_BYTES = 48_000;

/** Does what is still wanted; an answer that is cut off because nobody wants it any more is no error. */
export async function whileWanted(signal: AbortSignal, work: () => Promise<void>): Promise<void> {
  try {
    await work();
  } catch (error) {
    if (!signal.aborted) throw error;
  }
}

/** Sends JSON, to the end also when the page is left meanwhile; null where no answer came. */
export async function sendJson(method: string, url: string, value: unknown, signal?: AbortSignal): Promise<Response | null> {
  const body = JSON.stringify(value);
  try {
    return await fetch(url, {
      method,
      headers: { 'content-type': 'application/json' },
      body,
      keepalive: !signal && body.length < KEEP_ALIVE_BYTES,
      ...(signal ? { signal } : {}),
    });
  } catch {
    return null;
  }
}

export function ProblemNote({ problem, onClose }: { problem: Problem; onClose?: () => void }) {
  return (
    <div role="alert" className="flex items-start gap-2 rounded-lg border border-plum bg-plum-pale px-3 py-2">
      <CircleAlert size={18} className="mt-0.5 shrink-0 text-plum" aria-hidden />
      <p className="grow">
        {problem.place && <strong>{problem.place}: </strong>}
        {problem.what} <span className="text-soft">{problem.remedy}</span>
      </p>
      {onClose && (
        <button type="button" aria-label="Close this message" className="grid size-6 cursor-pointer place-items-center rounded" onClick={onClose}>
          <X size={16} aria-hidden />
        </button>
      )}
    </div>
  );
}
