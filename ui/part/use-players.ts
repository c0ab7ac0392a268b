'use client';

import { useEffect, useState } from 'react';
import { outbox } from '@/ui/unsent/browser';
import { VIEW_MS } from '@/ui/unsent/outbox';
import type { PlayerChoice } from './part-data';

export type HandChange = Partial<Pick<PlayerChoice, 'hand' | 'measured' | 'technique' | 'thumbPosition'>>;

/** A change with one that came before it. */
const withTechnique = <T extends HandChange>(before: T, change: HandChange): T => ({
  ...before,
  ...change,
  ...(change.technique ? { technique: { ...before.technique, ...change.technique } } : {}),
});

/** The people of the studio; what is said here about a hand holds wherever that player plays. */
export function usePlayers(first: readonly PlayerChoice[]) {
  const [players, setPlayers] = useState(first);
  useEffect(() => {
    const follow = (playerId: string, change: HandChange) =>
      setPlayers((before) => before.map((player) => (player.id === playerId ? withTechnique(player, change) : player)));
    const ends = first.map(({ id }) => {
      void outbox()
        ?.left(`player ${id}`, VIEW_MS)
        .then(({ stored, waiting }) => [...stored, ...waiting].forEach(({ body }) => body.about === 'player' && follow(id, body.change as HandChange)));
      return outbox()?.follow(`player ${id}`, (event) => {
        if (event.is === 'made elsewhere' && event.entry.body.about === 'player') follow(id, event.entry.body.change as HandChange);
      });
    });
    return () => ends.forEach((end) => end?.());
  }, [first]);

  function changeHand(id: string, change: HandChange): void {
    const player = players.find((each) => each.id === id);
    if (!player) return;
    setPlayers((before) => before.map((each) => (each.id === id ? withTechnique(each, change) : each)));
    outbox()?.add({ about: 'player', playerId: id, name: player.name, change });
  }
  return { players, changeHand };
}
