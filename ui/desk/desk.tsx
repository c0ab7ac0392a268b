'use client';

import { DeskDialogs } from './desk-dialogs';
import { Footer } from './footer';
import { Header } from './header/header';
import { DeskProvider, useDesk } from './model/desk';
import type { DeskData } from './model/desk-data';
import { MarkBar } from './mark-bar';
import { Notices } from './notices';
import { Panel } from './panel';
import { PartMap } from './part-map';
import { Rail } from './rail';
import { ScoreView } from './score-view';
import { Status } from './status';

/** The workbench for one part. */
export function Desk({ data }: { data: DeskData }) {
  return (
    <DeskProvider data={data}>
      <Room />
    </DeskProvider>
  );
}

/** Everything in its place; for reading, the music alone. */
function Room() {
  const { calm } = useDesk();
  return (
    <div className="flex h-dvh flex-col">
      <a href="#score" className="button sr-only focus:not-sr-only focus:absolute focus:top-2 focus:left-2 focus:z-30">
        To the score
      </a>
      <Header />
      <div className="flex min-h-0 grow basis-0 max-lg:flex-col">
        {!calm && <Rail />}
        <main className="flex min-h-0 min-w-0 grow flex-col">
          {!calm && <PartMap />}
          <Notices />
          <ScoreView />
          <Status />
          <MarkBar />
        </main>
        {!calm && <Panel />}
      </div>
      <Footer />
      <DeskDialogs />
    </div>
  );
}
