'use client';

import { Check, ChevronDown, Download, Redo2, Undo2 } from 'lucide-react';
import Link from 'next/link';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { useMarkedFile } from '@/ui/kit/marked-file';
import { ThemeSwitch } from '@/ui/kit/theme';
import { SaveChip } from '@/ui/unsent/save-chip';
import type { PlayerChoice } from '@/ui/part/part-data';
import type { DeskData } from '@/ui/desk/desk-data';
import type { PlayersMarking } from '@/ui/part/use-variant';

interface Props {
  data: DeskData;
  players: readonly PlayerChoice[];
  player: PlayerChoice | null;
  tempo: { wanted: number | null; printed: number | null };
  own: PlayersMarking;
  /** What would be taken back, and done again. */
  canUndo: string | null;
  canRedo: string | null;
  onPlayer(id: string | null): void;
  onTempo(tempo: number | null): void;
  /** Lines of a divided part, and the one that is planned. */
  lines: { count: number; shown: number };
  onLine(line: number): void;
  onAbout(): void;
  onUndo(): void;
  onRedo(): void;
  /** False, and said, while something is not saved yet that would be missing in a file. */
  mayTake(): boolean;
}

export function Header({ data, players, player, tempo, own, canUndo, canRedo, lines, onLine, onAbout, onPlayer, onTempo, onUndo, onRedo, mayTake }: Props) {
  return (
    <header className="flex min-h-13 flex-wrap items-center gap-x-3 gap-y-1 border-b border-line px-4 py-1.5">
      <Link href="/" className="font-serif text-xl font-semibold">
        Omaggio
      </Link>
      <nav aria-label="Where you are" className="flex min-w-0 items-center gap-1.5 text-soft">
        <Link href="/" className="hover:underline">
          Shelf
        </Link>{' '}
        <span aria-hidden>/</span>
        <h1 className="truncate font-sans text-sm font-normal">{data.title}</h1> <span aria-hidden>/</span>
        <DropdownMenu.Root>
          <DropdownMenu.Trigger
            className="inline-flex min-h-6 cursor-pointer items-center gap-1 rounded font-semibold text-ink"
            aria-label={`Part: ${data.part.name}. Choose another part`}
          >
            {data.part.name} <ChevronDown size={14} aria-hidden />
          </DropdownMenu.Trigger>
          <DropdownMenu.Portal>
            <DropdownMenu.Content className="menu" sideOffset={6} align="start">
              {data.siblings.map((part) => (
                <DropdownMenu.Item key={part.id} className="menu-item" asChild>
                  <Link href={`/desk/${part.id}`}>
                    {part.name}
                    {part.id === data.part.id && <Check size={14} aria-hidden />}
                  </Link>
                </DropdownMenu.Item>
              ))}
              <DropdownMenu.Separator className="my-1 border-t border-line" />
              <DropdownMenu.Item className="menu-item" onSelect={onAbout}>
                About this part …
              </DropdownMenu.Item>
            </DropdownMenu.Content>
          </DropdownMenu.Portal>
        </DropdownMenu.Root>
      </nav>
      {lines.count > 1 && (
        <label className="chip">
          <span className="text-soft">line</span>
          <select
            aria-label="Line of the divided part that is planned"
            className="cursor-pointer bg-transparent font-semibold"
            value={lines.shown}
            onChange={(event) => onLine(Number(event.target.value))}
          >
            {Array.from({ length: lines.count }, (_, i) => (
              <option key={i} value={i}>
                {i + 1} of {lines.count}
              </option>
            ))}
          </select>
        </label>
      )}
      <span className="grow" />
      <button
        type="button"
        className="button px-2"
        disabled={!canUndo}
        onClick={onUndo}
        aria-label={canUndo ? `Undo: ${canUndo}` : 'Nothing to undo'}
        title={canUndo ? `Undo: ${canUndo}` : 'Nothing to undo'}
      >
        <Undo2 size={16} aria-hidden />
      </button>
      <button
        type="button"
        className="button px-2"
        disabled={!canRedo}
        onClick={onRedo}
        aria-label={canRedo ? `Redo: ${canRedo}` : 'Nothing to redo'}
        title={canRedo ? `Redo: ${canRedo}` : 'Nothing to redo'}
      >
        <Redo2 size={16} aria-hidden />
      </button>
      <PlayerMenu partId={data.part.id} players={players} player={player} own={own} onPlayer={onPlayer} />
      <TempoField key={tempo.wanted ?? tempo.printed} tempo={tempo} onTempo={onTempo} />
      <TakeOut data={data} player={own.differing ? player : null} mayTake={mayTake} />
      <SaveChip />
      <ThemeSwitch />
    </header>
  );
}

/**
 * The marked part by one click, everything else from the menu beside it.
 * @param player whose own marks are shown; the file then has them
 */
function TakeOut({ data, player, mayTake }: Pick<Props, 'data' | 'player' | 'mayTake'>) {
  const marked = `/api/pieces/${data.pieceId}/marked`;
  const shown = `${marked}?part=${data.part.id}${player ? `&player=${player.id}` : ''}`;
  const others: ReadonlyArray<[href: string, label: string]> = [
    ...(player ? [[`${marked}?part=${data.part.id}`, 'Marked part, as everybody has it'] as [string, string]] : []),
    [`${marked}?part=${data.part.id}&words=yes`, 'Marked part, notes as words over the staff'],
    [`${marked}?part=${data.part.id}&compressed=yes`, 'Marked part, compressed (.mxl)'],
    [marked, 'Marked score, all parts'],
    [`${marked}?words=yes`, 'Marked score, notes as words over the staff'],
    [`/api/parts/${data.part.id}/midi`, 'MIDI, to listen elsewhere'],
    [`/api/parts/${data.part.id}/marks`, 'The marks alone (JSON)'],
  ];
  const markedFile = useMarkedFile();
  const takeUnlessUnsaved = (href: string) => void (mayTake() && markedFile.take(href));
  return (
    <span className="flex">
      {markedFile.shown}
      <a
        className="button rounded-r-none"
        href={shown}
        download
        onClick={(event) => {
          event.preventDefault();
          takeUnlessUnsaved(shown);
        }}
        title="The file as it came, with these marks"
      >
        <Download size={15} aria-hidden /> Marked part{player ? ` for ${player.name}` : ''}
      </a>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger className="button rounded-l-none border-l-0 px-1.5" aria-label="Other files to take out">
          <ChevronDown size={14} aria-hidden />
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content className="menu" sideOffset={6} align="end">
            {others.map(([href, label]) =>
              href.startsWith(marked) ? (
                <DropdownMenu.Item key={href} className="menu-item" onSelect={() => takeUnlessUnsaved(href)}>
                  {label}
                </DropdownMenu.Item>
              ) : (
                <DropdownMenu.Item key={href} className="menu-item" asChild>
                  <a href={href} download onClick={(event) => mayTake() || event.preventDefault()}>
                    {label}
                  </a>
                </DropdownMenu.Item>
              ),
            )}
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </span>
  );
}

const ownMarks = (count: number) => (count === 1 ? '1 own mark' : `${count} own marks`);

const describe = (player: PlayerChoice) => `${player.size ?? 'usual size'} · ${player.hand} hand · ${player.level}`;

function PlayerMenu({ partId, players, player, own, onPlayer }: Pick<Props, 'players' | 'player' | 'own' | 'onPlayer'> & { partId: string }) {
  const { alone, differing } = own;
  const tinted = alone ? 'border-spruce bg-spruce-pale' : '';
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        className={`chip cursor-pointer ${tinted}`}
        aria-label={`Checked for ${player ? `${player.name}, ${describe(player)}` : 'a usual adult player'}${differing ? `, ${ownMarks(differing)}` : ''}${alone ? ', marks go to this player alone' : ''}. Choose a player`}
      >
        <span className="text-soft">for</span> <strong>{player?.name ?? 'a usual adult'}</strong>
        {player && !alone && !differing && <span className="text-soft max-xl:hidden">{describe(player)}</span>}
        {(alone || differing > 0) && (
          <span className="text-spruce">{[alone ? 'alone' : '', differing ? ownMarks(differing) : ''].filter(Boolean).join(' · ')}</span>
        )}
        <ChevronDown size={14} aria-hidden />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="menu" sideOffset={6} align="end">
          <DropdownMenu.RadioGroup value={player?.id ?? ''} onValueChange={(id) => onPlayer(id || null)}>
            {[null, ...players].map((each) => (
              <DropdownMenu.RadioItem key={each?.id ?? 'usual'} value={each?.id ?? ''} className="menu-item">
                <span className="w-4">{(each?.id ?? null) === (player?.id ?? null) && <Check size={14} aria-hidden />}</span>
                <strong>{each?.name ?? 'A usual adult'}</strong>
                <span className="text-soft">{each ? describe(each) : 'full size · medium hand · advanced'}</span>
              </DropdownMenu.RadioItem>
            ))}
          </DropdownMenu.RadioGroup>
          {player && own.canBeAlone && (
            <>
              <DropdownMenu.Separator className="my-1 border-t border-line" />
              <DropdownMenu.CheckboxItem className="menu-item" checked={alone} onCheckedChange={(on) => own.setAlone(on === true)}>
                <span className="w-4">{alone && <Check size={14} aria-hidden />}</span>
                Fingers and bows for {player.name} alone
              </DropdownMenu.CheckboxItem>
              {differing > 0 && (
                <>
                  <DropdownMenu.Item className="menu-item" onSelect={own.giveToAll}>
                    <span className="w-4" /> Give the {ownMarks(differing)} to everybody
                  </DropdownMenu.Item>
                  <DropdownMenu.Item className="menu-item" onSelect={own.asEverybody}>
                    <span className="w-4" /> Mark {player.name} as everybody again
                  </DropdownMenu.Item>
                </>
              )}
            </>
          )}
          <DropdownMenu.Separator className="my-1 border-t border-line" />
          <DropdownMenu.Item className="menu-item" asChild>
            <Link href={`/players?part=${partId}`}>Players, and how this part fits them …</Link>
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function TempoField({ tempo, onTempo }: { tempo: Props['tempo']; onTempo(tempo: number | null): void }) {
  const shown = tempo.wanted ?? tempo.printed;
  const [text, setText] = useState(shown === null ? '' : String(Math.round(shown)));
  const value = Number(text);
  const valid = text === '' || (Number.isFinite(value) && value >= 20 && value <= 320);
  const commit = () => {
    if (!valid) return;
    const next = text === '' || value === tempo.printed ? null : value;
    if (next !== tempo.wanted) onTempo(next);
  };
  return (
    <label
      className={`chip ${valid ? '' : 'border-plum text-plum'}`}
      title={tempo.printed ? `Quarters per minute; printed ${Math.round(tempo.printed)}` : 'Quarters per minute; the part prints none'}
    >
      <span aria-hidden className="font-serif">
        ♩ =
      </span>
      <span className="sr-only">Wanted tempo in quarters per minute</span>
      <input
        inputMode="numeric"
        value={text}
        className="w-9 bg-transparent text-right font-semibold outline-offset-4"
        aria-invalid={!valid}
        onChange={(event) => setText(event.target.value)}
        onBlur={commit}
        onKeyDown={(event) => {
          if (event.key === 'Enter') commit();
        }}
      />
      {tempo.wanted !== null && tempo.printed !== null && (
        <button type="button" className="cursor-pointer text-xs text-soft underline" onClick={() => onTempo(null)}>
          printed {Math.round(tempo.printed)}
        </button>
      )}
      {!valid && (
        <span role="alert" className="text-xs">
          20 to 320
        </span>
      )}
    </label>
  );
}
