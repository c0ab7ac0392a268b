'use client';

import { useState } from 'react';
import { problemOf, sendJson, type Problem } from '@/ui/kit/problem';
import type { PlayerChoice } from './types';

export type HandChange = Partial<Pick<PlayerChoice, 'hand' | 'measured' | 'technique' | 'thumbPosition'>>;

/** The people of the studio; what is said here about a hand holds wherever that player plays. */
export function usePlayers(first: readonly PlayerChoice[], onProblem: (problem: Problem) => void) {
  const [players, setPlayers] = useState(first);
  async function changeHand(id: string, change: HandChange): Promise<void> {
    const before = players;
    setPlayers(players.map((player) => (player.id === id ? { ...player, ...change, technique: { ...player.technique, ...change.technique } } : player)));
    const response = await sendJson('PUT', `/api/players/${id}`, change);
    if (response?.ok) return;
    setPlayers(before);
    onProblem(await problemOf(response));
  }
  return { players, changeHand };
}
