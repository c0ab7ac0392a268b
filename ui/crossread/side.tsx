'use client';

import { SideTabs } from '@/ui/kit/side-tabs';
import { Entries } from './entries';
import { Groups } from './groups';
import { stillToDo } from './model/still-to-do';
import { useCrossreadModel, type SideTab } from './model/use-crossread';
import { TempoTab } from './tempo-tab';

/** At the side: who plays together, entries with their cues, and the tempo for all. */
export function Side() {
  const { shown, tab, setTab } = useCrossreadModel();
  const { tempo, lanes } = shown!;
  return (
    <aside
      aria-label="About the score"
      className="flex w-80 shrink-0 flex-col border-l border-line max-lg:max-h-[45dvh] max-lg:w-full max-lg:border-t max-lg:border-l-0"
    >
      <p role="status" className="border-b border-line bg-sheet px-3 py-2 text-[13px]">
        {tempo ? tempo.all.text : stillToDo(lanes)}
      </p>
      <SideTabs<SideTab>
        label="Together, entries, tempo"
        value={tab}
        onValue={setTab}
        tabs={[
          ['groups', 'Together', Groups],
          ['entries', 'Entries', Entries],
          ['tempo', 'Tempo', TempoTab],
        ]}
        className="min-h-0 grow"
        contentClassName="flex min-h-0 flex-col gap-3 data-[state=inactive]:hidden"
      />
    </aside>
  );
}
