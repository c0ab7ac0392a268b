'use client';

import { Button, TextButton } from '@/ui/kit/button';
import { Plus } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { PlayerDescription } from '@/core/instruments/player';
import type { InstrumentKind } from '@/core/score/score';
import type { NewPlayer } from '@/core/instruments/player-shape';
import { Notice } from '@/ui/kit/notice';
import { PageHeader } from '@/ui/kit/page-header';
import { Select } from '@/ui/kit/select';
import { ProblemNote, problemOf, sendJson, type Problem } from '@/ui/kit/problem';
import { SaveChip } from '@/ui/unsent/save-chip';
import { Fit, type FitPart } from './fit';
import { PlayerForm } from './player-form';

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

  async function save(said: NewPlayer) {
    const done = editing === 'new' ? await send('POST', '/api/players', said) : editing && (await send('PUT', `/api/players/${editing.id}`, said));
    if (done) setEditing(null);
  }

  async function remove(player: KnownPlayer, away: boolean) {
    if (await send('PUT', `/api/players/${player.id}`, { removed: away })) setRemoved(away ? player : null);
  }

  return (
    <div className="min-h-screen">
      <PageHeader path={['Players']}>
        <span className="text-soft">{studio}</span>
        {part && <SaveChip />}
      </PageHeader>
      <main className="mx-auto grid max-w-6xl grid-cols-1 gap-6 px-4 py-5">
        {problem && !editing && <ProblemNote problem={problem} onClose={() => setProblem(null)} />}
        {removed && <Notice actions={<Button onClick={() => void remove(removed, false)}>Put back</Button>}>{removed.name} is out of the list.</Notice>}
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
                <PlayerCard player={player} onChange={() => edit(player)} onRemove={() => void remove(player, true)} />
              </li>
            ))}
          </ul>
        </section>
        <FitSection parts={parts} part={part} players={players} />
      </main>
      {editing && <PlayerForm player={editing === 'new' ? null : editing} problem={problem} onClose={() => edit(null)} onSave={save} />}
    </div>
  );
}

function PlayerCard({ player, onChange, onRemove }: { player: KnownPlayer; onChange(): void; onRemove(): void }) {
  const { name, instrument, size, tuning, measured, hand, level } = player;
  return (
    <article aria-label={name} className="rounded-xl border border-line bg-sheet px-3 py-2">
      <div className="flex items-baseline justify-between gap-2">
        <h3 className="font-sans text-sm font-bold">{name}</h3>
        <span className="flex gap-3 text-[13px]">
          <TextButton aria-label={`Change ${name}`} onClick={onChange}>
            change
          </TextButton>
          <TextButton className="text-soft" aria-label={`Take ${name} out`} onClick={onRemove}>
            take out
          </TextButton>
        </span>
      </div>
      <p className="text-[13px] text-soft">
        {instrument} {size}
        {tuning !== 'orchestral' && `, ${tuning}`} · {measured ? `hand of ${measured.comfortable} mm` : `${hand} hand`} · {level}
      </p>
    </article>
  );
}

/** A part held against everybody who plays its instrument. */
function FitSection({ parts, part, players }: Pick<Props, 'parts' | 'part' | 'players'>) {
  const router = useRouter();
  return (
    <section aria-label="Fit" className="grid grid-cols-1 gap-2">
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="text-lg">How a part fits each of them</h2>
        <Select
          quiet
          label="Part"
          value={part?.id ?? ''}
          options={[['', 'Choose a part'] as const, ...parts.map(({ id, name }) => [id, name] as const)]}
          onValue={(id) => router.push(id ? `/players?part=${id}` : '/players')}
        />
      </div>
      {part ? (
        <Fit key={part.id} part={part} players={players.filter(({ instrument }) => instrument === part.instrument)} />
      ) : (
        <p className="text-soft">
          Choose a part to see, passage by passage, up to which tempo it works for each player, and what would have to change for whom.
        </p>
      )}
    </section>
  );
}
