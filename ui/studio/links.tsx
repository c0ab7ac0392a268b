'use client';

import { useState } from 'react';
import { Button, TextButton } from '@/ui/kit/button';
import { ProblemNote } from '@/ui/kit/problem';
import { Select } from '@/ui/kit/select';
import { ToldOnce, type Told } from './told-once';
import { useDoing } from '@/ui/kit/use-doing';
import { agoInWords } from '@/ui/kit/when';

export interface LinkedPlayer {
  id: string;
  name: string;
  instrument: string;
  link: { madeAt: string; expiresAt: string | null; usedAt: string | null } | null;
}

const LASTS = [
  ['', 'lasts until it is ended'],
  ['30', 'ends after 30 days'],
  ['120', 'ends after 120 days'],
  ['366', 'ends after a year'],
] as const;

/** The personal link of each player: no account, one address, which opens their Stand and nothing else. */
export function Links({ players, atHome }: { players: readonly LinkedPlayer[]; atHome: boolean }) {
  const doing = useDoing();
  const [told, setTold] = useState<Told | null>(null);
  const [lasts, setLasts] = useState<string>('');
  async function make({ id, name, link }: LinkedPlayer) {
    const made = await doing.send('POST', `/api/players/${id}/link`, { days: lasts === '' ? null : Number(lasts) });
    if (!made) return;
    const note = `It opens the Stand of ${name}, and nothing else.${link ? ' The link before it opens nothing any more.' : ''}${atHome ? ' Omaggio runs for this machine only: on another one it leads nowhere.' : ''}`;
    setTold({ title: `The link of ${name}`, url: String(made.url), note });
  }
  return (
    <section aria-label="Players’ links" className="grid grid-cols-1 gap-3">
      <p className="max-w-prose">
        Players need no account. A personal link opens what was handed out to this player, and nothing else; it can be ended or renewed at any time.
      </p>
      {atHome && (
        <p className="max-w-prose text-soft">
          Omaggio runs for this machine only. To reach players elsewhere, serve it under an address of its own (<code>OMAGGIO_ORIGIN</code>, see the README).
        </p>
      )}
      {doing.problem && <ProblemNote problem={doing.problem} onClose={doing.forget} />}
      {players.length === 0 && <p className="text-soft">Nobody yet. Make players first.</p>}
      {players.length > 0 && (
        <label className="flex items-center gap-2">
          A new link <Select quiet label="How long a new link lasts" value={lasts} options={LASTS} onValue={(value) => setLasts(String(value))} />
        </label>
      )}
      <ul className="grid grid-cols-1 gap-1">
        {players.map((player) => (
          <li key={player.id} className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line py-1.5">
            <strong className="min-w-0 truncate" title={player.name}>
              {player.name}
            </strong>
            <span className="text-soft">{player.instrument}</span>
            <span className="text-[13px]">{stateOf(player.link)}</span>
            <span className="grow" />
            {player.link && (
              <TextButton
                className="text-[13px] text-soft"
                aria-label={`End the link of ${player.name}`}
                onClick={() => void doing.send('DELETE', `/api/players/${player.id}/link`)}
              >
                end it
              </TextButton>
            )}
            <Button
              small
              disabled={doing.busy}
              aria-label={player.link ? `Renew the link of ${player.name}` : `Make a link for ${player.name}`}
              onClick={() => void make(player)}
            >
              {player.link ? 'Renew' : 'Make a link'}
            </Button>
          </li>
        ))}
      </ul>
      {told && <ToldOnce told={told} onClose={() => setTold(null)} />}
    </section>
  );
}

function stateOf(link: LinkedPlayer['link']): string {
  if (!link) return 'no link';
  const used = link.usedAt ? `opened ${agoInWords(link.usedAt)}` : 'not opened yet';
  return `made ${agoInWords(link.madeAt)}, ${used}${link.expiresAt ? `, ends ${agoInWords(link.expiresAt)}` : ''}`;
}
