'use client';

import { keepPreviousData, QueryClient, QueryClientProvider, useQuery } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { z } from 'zod';
import { NO_ANSWER, problemOf, type Problem } from './problem';

/** What a question comes to. */
export interface Answer<T> {
  /** Null until it is there; of an earlier question while `again` says so. */
  value: T | null;
  problem: Problem | null;
  /** Asks once more. */
  retry(): void;
}

/** A question that was answered with a problem, in words. */
export class Refused extends Error {
  constructor(readonly problem: Problem) {
    super(problem.what);
  }
}

/** Minutes that an answer is kept when nobody shows it. */
const KEPT_MIN = 2;

/** One set of questions and answers for the page. Nothing here waits for the network to come back: what fails says so at once. */
export function Queries({ children }: { children: ReactNode }) {
  const [client] = useState(
    () =>
      new QueryClient({
        defaultOptions: {
          queries: { retry: false, networkMode: 'always', staleTime: Infinity, gcTime: KEPT_MIN * 60_000, refetchOnWindowFocus: false },
        },
      }),
  );
  return <QueryClientProvider client={client}>{children}</QueryClientProvider>;
}

const UNREADABLE: Problem = {
  place: null,
  what: 'Omaggio answered with something that cannot be read here.',
  remedy: 'Reload the page: it may be of an older version.',
};

/** JSON from the server, as the shape says; refused in words where it fails or is something else. */
export async function getJson<T>(url: string, shape: z.ZodType<T>, init?: RequestInit): Promise<T> {
  const response = await fetch(url, init).catch((error: unknown) => {
    if (init?.signal?.aborted) throw error;
    return null;
  });
  const read = await readAnswer(response, shape);
  if ('problem' in read) throw new Refused(read.problem);
  return read.value;
}

/** What came back, as the shape says, or what is wrong. @param response null where nothing came */
export async function readAnswer<T>(response: Response | null, shape: z.ZodType<T>): Promise<{ value: T } | { problem: Problem }> {
  if (!response?.ok) return { problem: await problemOf(response) };
  const parsed = shape.safeParse(await response.json().catch(() => null));
  return parsed.success ? { value: parsed.data } : { problem: UNREADABLE };
}

/** Values that are the same object have the same name: what depends on much is asked for by it. */
const names = new WeakMap<object, number>();
let named = 0;
export function nameOf(value: object): number {
  let name = names.get(value);
  if (name === undefined) names.set(value, (name = ++named));
  return name;
}

/** Waits until nothing changed for a moment: what is only passed by is not asked about. */
export const rested = (signal: AbortSignal, ms: number): Promise<void> =>
  new Promise((resolve, reject) => {
    const timer = setTimeout(resolve, ms);
    signal.addEventListener('abort', () => {
      clearTimeout(timer);
      reject(signal.reason as Error);
    });
  });

interface Asked<T> {
  /** What the answer depends on, small. */
  key: readonly unknown[];
  /** Null while it is not wanted, or cannot be asked. */
  ask: ((signal: AbortSignal) => Promise<T>) | null;
  /** The answer to the question before stays until the new one is there. */
  keep?: boolean;
  /** Asked again after so many ms while this answer says so. */
  again?: (value: T) => number | false;
  /** Said where it fails otherwise than in words. */
  failed?: Problem;
}

/** An answer while it is shown. It is asked for once for all who show it, anew when its key changes. */
export function useAnswer<T>({ key, ask, keep = false, again, failed = NO_ANSWER }: Asked<T>): Answer<T> {
  const result = useQuery<T>({
    queryKey: key,
    queryFn: ({ signal }) => ask!(signal),
    enabled: ask !== null,
    ...(again ? { refetchInterval: ({ state: { data } }: { state: { data: T | undefined } }) => (data === undefined ? false : again(data)) } : {}),
    ...(keep ? { placeholderData: keepPreviousData } : {}),
  });
  return {
    value: result.data ?? null,
    problem: result.error ? (result.error instanceof Refused ? result.error.problem : failed) : null,
    retry: () => void result.refetch(),
  };
}
