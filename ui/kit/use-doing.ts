'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { NO_ANSWER, problemOf, sendJson, type Problem } from '@/ui/kit/problem';

export interface Doing {
  problem: Problem | null;
  busy: boolean;
  forget(): void;
  /** Does it and shows the page anew. @returns what was answered; null where it failed, and why is in `problem` */
  send(method: 'POST' | 'PUT' | 'PATCH' | 'DELETE', url: string, value?: unknown): Promise<Record<string, unknown> | null>;
}

/** Sends something and says what is wrong with it. */
export function useDoing(): Doing {
  const router = useRouter();
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  async function send(method: 'POST' | 'PUT' | 'PATCH' | 'DELETE', url: string, value: unknown = {}) {
    setBusy(true);
    setProblem(null);
    const response = await sendJson(method, url, value);
    setBusy(false);
    if (!response?.ok) {
      setProblem(response ? await problemOf(response) : NO_ANSWER);
      return null;
    }
    router.refresh();
    return (await response.json()) as Record<string, unknown>;
  }
  return { problem, busy, send, forget: () => setProblem(null) };
}
