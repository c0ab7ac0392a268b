'use client';

import { useDesk } from '../model/desk';
import { PlayedOn } from './played-on';

/** What a part for something else is played on. */
export function DeskPlayedOn() {
  const { view, setting } = useDesk();
  if (!view.playedOn) return null;
  return (
    <PlayedOn
      of={view.playedOn}
      onPlayOn={({ kind, octaves }) => setting({ instrument: kind, octaves, playerId: null })}
      onStaff={(staff) => setting({ staff })}
    />
  );
}
