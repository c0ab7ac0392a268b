'use client';

import Link from 'next/link';
import { LogOut } from 'lucide-react';
import { Button } from '@/ui/kit/button';
import { PageHeader } from '@/ui/kit/page-header';
import { ProblemNote } from '@/ui/kit/problem';
import { Bin, type InBin } from './bin';
import { Done, type DoneRow } from './done';
import { Everything } from './everything';
import { Links, type LinkedPlayer } from './links';
import { People, type Browser, type Me, type Person } from './people';
import { STUDIO_TABS, TAB_NAMES, type StudioTab } from './tabs';
import { useDoing } from '@/ui/kit/use-doing';

interface Props {
  studio: string;
  show: StudioTab;
  me: Me;
  /** Served to this machine alone. */
  atHome: boolean;
  people: readonly Person[];
  browsers: readonly Browser[];
  players: readonly LinkedPlayer[];
  bin: readonly InBin[];
  doings: readonly DoneRow[];
}

/** Who may come in, what can be put back, everything as one file, and what was done. */
export function Studio({ studio, show, me, atHome, people, browsers, players, bin, doings }: Props) {
  const { problem, send, forget } = useDoing();
  const tabs = STUDIO_TABS.filter((tab) => me.isOwner || (tab !== 'everything' && tab !== 'done'));
  async function goOut() {
    // A whole new page: nothing of what was seen stays in this one.
    // eslint-disable-next-line @next/next/no-location-assign-relative-destination
    if (await send('DELETE', '/api/session')) window.location.assign('/enter');
  }
  return (
    <div className="min-h-screen">
      <PageHeader path={['Studio']}>
        <span className="text-soft">{studio}</span>
        <Button onClick={() => void goOut()}>
          <LogOut size={15} aria-hidden /> Go out
        </Button>
      </PageHeader>
      <main className="mx-auto grid max-w-5xl grid-cols-1 gap-5 px-4 py-5">
        {problem && <ProblemNote problem={problem} onClose={forget} />}
        <nav aria-label="Studio" className="flex flex-wrap gap-2">
          {tabs.map((tab) => (
            <Link
              key={tab}
              href={`/studio?show=${tab}`}
              aria-current={tab === show ? 'page' : undefined}
              className={`rounded-lg border px-3 py-1 ${tab === show ? 'border-ink bg-sheet font-semibold' : 'border-line text-soft hover:border-ink'}`}
            >
              {TAB_NAMES[tab]}
              {tab === 'bin' && bin.length > 0 && ` (${bin.length})`}
            </Link>
          ))}
        </nav>
        {show === 'people' && <People me={me} atHome={atHome} people={people} browsers={browsers} />}
        {show === 'links' && <Links players={players} atHome={atHome} />}
        {show === 'bin' && <Bin bin={bin} isOwner={me.isOwner} />}
        {show === 'everything' && me.isOwner && <Everything />}
        {show === 'done' && me.isOwner && <Done doings={doings} />}
      </main>
    </div>
  );
}
