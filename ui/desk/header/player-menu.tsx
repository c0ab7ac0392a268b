'use client';

import { ChevronDown } from 'lucide-react';
import { Menu, MenuCheck, MenuChoice, MenuItem, MenuLink, MenuRule } from '@/ui/kit/menu';
import type { PlayerChoice } from '@/ui/part/part-data';
import { useDesk } from '../model/desk';

const ownMarks = (count: number) => (count === 1 ? '1 own mark' : `${count} own marks`);

const describe = (player: PlayerChoice) => `${player.size ?? 'usual size'} · ${player.hand} hand · ${player.level}`;

/** Whom the part is checked for, and whether marks go to everybody or to this player alone. */
export function PlayerMenu() {
  const { data, players, player, own, setting } = useDesk();
  const { alone, differing } = own;
  const options = [
    ['', <Named key="usual" name="A usual adult" more="full size · medium hand · advanced" />] as const,
    ...players.map((each) => [each.id, <Named key={each.id} name={each.name} more={describe(each)} />] as const),
  ];
  const label = [
    `Checked for ${player ? `${player.name}, ${describe(player)}` : 'a usual adult player'}`,
    differing ? `, ${ownMarks(differing)}` : '',
    alone ? ', marks go to this player alone' : '',
  ].join('');
  return (
    <Menu
      className={`chip cursor-pointer ${alone ? 'border-spruce bg-spruce-pale' : ''}`}
      label={`${label}. Choose a player`}
      align="end"
      trigger={
        <>
          <span className="text-soft">for</span> <strong>{player?.name ?? 'a usual adult'}</strong>
          {player && !alone && !differing && <span className="text-soft max-xl:hidden">{describe(player)}</span>}
          {(alone || differing > 0) && (
            <span className="text-spruce">{[alone ? 'alone' : '', differing ? ownMarks(differing) : ''].filter(Boolean).join(' · ')}</span>
          )}
          <ChevronDown size={14} aria-hidden />
        </>
      }
    >
      <MenuChoice value={player?.id ?? ''} options={options} onValue={(id) => setting({ playerId: id || null })} />
      {player && own.canBeAlone && <OwnMarks name={player.name} />}
      <MenuRule />
      <MenuLink href={`/players?part=${data.part.id}`}>Players, and how this part fits them …</MenuLink>
    </Menu>
  );
}

function Named({ name, more }: { name: string; more: string }) {
  return (
    <>
      <strong>{name}</strong>
      <span className="text-soft">{more}</span>
    </>
  );
}

function OwnMarks({ name }: { name: string }) {
  const { own } = useDesk();
  return (
    <>
      <MenuRule />
      <MenuCheck checked={own.alone} onChecked={own.setAlone}>
        Fingers and bows for {name} alone
      </MenuCheck>
      {own.differing > 0 && (
        <>
          <MenuItem onSelect={own.giveToAll}>
            <span className="w-4" /> Give the {ownMarks(own.differing)} to everybody
          </MenuItem>
          <MenuItem onSelect={own.asEverybody}>
            <span className="w-4" /> Mark {name} as everybody again
          </MenuItem>
        </>
      )}
    </>
  );
}
