'use client';

import { useEffect, useState } from 'react';
import { InOrder } from '@/ui/kit/in-order';
import { problemOf, sendJson, type Problem } from '@/ui/kit/problem';
import type { PlayerChoice } from './types';

export type HandChange = Partial<Pick<PlayerChoice, 'hand' | 'measured' | 'technique' | 'thumbPosition'>>;

/** A change with one that came before it. */
const withTechnique = <T extends HandChange>(before: T, change: HandChange): T => ({
  ...before,
  ...change,
  ...(change.technique ? { technique: { ...before.technique, ...change.technique } } : {}),
});

/** The people of the studio; what is said here about a hand holds wherever that player plays. */
export function usePlayers(first: readonly PlayerChoice[], onProblem: (problem: Problem) => void) {
  const [players, setPlayers] = useState(first);
  const [queues] = useState(() => new Map<string, InOrder<HandChange>>());
  useEffect(() => {
    const leave = () => queues.forEach((queue) => queue.leave());
    window.addEventListener('pagehide', leave);
    return () => window.removeEventListener('pagehide', leave);
  }, [queues]);

  function queueOf(id: string): InOrder<HandChange> {
    const known = queues.get(id);
    if (known) return known;
    const made = new InOrder<HandChange>(async (change) => {
      const response = await sendJson('PUT', `/api/players/${id}`, change);
      if (!response?.ok) onProblem(await problemOf(response));
    }, withTechnique);
    queues.set(id, made);
    return made;
  }

  function changeHand(id: string, change: HandChange): void {
    setPlayers((before) => before.map((player) => (player.id === id ? withTechnique(player, change) : player)));
    queueOf(id).put(change);
  }
  return { players, changeHand };
}
