'use client';

import { Button, TextButton } from '@/ui/kit/button';
import { Plus } from 'lucide-react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { PlayerDescription } from '@/core/instruments/player';
import type { InstrumentKind } from '@/core/score/score';
import { ProblemNote, problemOf, sendJson, type Problem } from '@/ui/kit/problem';
import { ThemeSwitch } from '@/ui/kit/theme';
import { Fit, type FitPart } from './fit';
import { PlayerForm, type Said } from './player-form';

export type KnownPlayer = PlayerDescription & { id: string; size: string; tuning: string };

interface Props {
  studio: string;
  players: readonly KnownPlayer[];
  parts: ReadonlyArray<{ id: string; name: string; instrument: InstrumentKind }>;
  /** The part that the players are held against. */
  part: FitPart | null;
}

/** People with their instruments, hands and levels; and how a part fits each of them. */
export function Players({ studio, players, parts, part }: Props) {
  const router = useRouter();
  const [editing, setEditing] = useState<KnownPlayer | 'new' | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [removed, setRemoved] = useState<KnownPlayer | null>(null);

  function edit(next: KnownPlayer | 'new' | null) {
    setProblem(null);
    setEditing(next);
  }

  async function send(method: 'POST' | 'PUT', url: string, value: unknown): Promise<boolean> {
    const response = await sendJson(method, url, value);
    if (!response?.ok) {
      setProblem(await problemOf(response));
      return false;
    }
    setProblem(null);
    router.refresh();
    return true;
  }

  async function save(said: Said) {
    const done = editing === 'new' ? await send('POST', '/api/players', said) : editing && (await send('PUT', `/api/players/${editing.id}`, said));
    if (done) setEditing(null);
  }

  async function remove(player: KnownPlayer, away: boolean) {
    if (await send('PUT', `/api/players/${player.id}`, { removed: away })) setRemoved(away ? player : null);
  }

  return (
    <div className="min-h-screen">
      <header className="flex min-h-13 flex-wrap items-center gap-3 border-b border-line px-4 py-1.5">
        <Link href="/" className="font-serif text-xl font-semibold">
          Omaggio
        </Link>
        <nav aria-label="Where you are" className="flex items-center gap-1.5 text-soft">
          <Link href="/" className="hover:underline">
            Shelf
          </Link>{' '}
          <span aria-hidden>/</span> <h1 className="font-sans text-sm font-semibold text-ink">Players</h1>
        </nav>
        <span className="grow" />
        <span className="text-soft">{studio}</span>
        <ThemeSwitch />
      </header>
      <main className="mx-auto grid max-w-6xl gap-6 px-4 py-5">
        {problem && !editing && <ProblemNote problem={problem} onClose={() => setProblem(null)} />}
        {removed && (
          <p role="status" className="flex items-center gap-3 rounded-lg border border-line bg-sheet px-3 py-2">
            {removed.name} is out of the list.
            <Button onClick={() => void remove(removed, false)}>Put back</Button>
          </p>
        )}
        <section aria-label="Players" className="grid gap-2">
          <div className="flex items-center justify-between">
            <h2 className="text-lg">Players</h2>
            <Button look="spruce" onClick={() => edit('new')}>
              <Plus size={15} aria-hidden /> New player
            </Button>
          </div>
          {players.length === 0 && (
            <p className="text-soft">Nobody yet. Make a player with an instrument, a hand and a level; then every part can be checked for this player.</p>
          )}
          <ul className="grid gap-2 sm:grid-cols-2 lg:grid-cols-3">
            {players.map((player) => (
              <li key={player.id}>
                <article aria-label={player.name} className="rounded-xl border border-line bg-sheet px-3 py-2">
                  <div className="flex items-baseline justify-between gap-2">
                    <h3 className="font-sans text-sm font-bold">{player.name}</h3>
                    <span className="flex gap-3 text-[13px]">
                      <TextButton aria-label={`Change ${player.name}`} onClick={() => edit(player)}>
                        change
                      </TextButton>
                      <TextButton className="text-soft" aria-label={`Take ${player.name} out`} onClick={() => void remove(player, true)}>
                        take out
                      </TextButton>
                    </span>
                  </div>
                  <p className="text-[13px] text-soft">
                    {player.instrument} {player.size}
                    {player.tuning !== 'orchestral' && `, ${player.tuning}`} ·{' '}
                    {player.measured ? `hand of ${player.measured.comfortable} mm` : `${player.hand} hand`} · {player.level}
                  </p>
                </article>
              </li>
            ))}
          </ul>
        </section>
        <section aria-label="Fit" className="grid gap-2">
          <div className="flex flex-wrap items-center gap-3">
            <h2 className="text-lg">How a part fits each of them</h2>
            <select
              aria-label="Part"
              className="field"
              value={part?.id ?? ''}
              onChange={(event) => router.push(event.target.value ? `/players?part=${event.target.value}` : '/players')}
            >
              <option value="">Choose a part</option>
              {parts.map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </select>
          </div>
          {part ? (
            <Fit key={part.id} part={part} players={players.filter(({ instrument }) => instrument === part.instrument)} />
          ) : (
            <p className="text-soft">
              Choose a part to see, passage by passage, up to which tempo it works for each player, and what would have to change for whom.
            </p>
          )}
        </section>
      </main>
      {editing && <PlayerForm player={editing === 'new' ? null : editing} problem={problem} onClose={() => edit(null)} onSave={(said) => void save(said)} />}
    </div>
  );
}
