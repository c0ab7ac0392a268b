'use client';

import { Tabs } from 'radix-ui';
import type { ComponentType } from 'react';
import { Entries } from './entries';
import { Groups } from './groups';
import { stillToDo } from './model/still-to-do';
import { SIDE_TABS, useCrossreadModel, type SideTab } from './model/use-crossread';
import { TempoTab } from './tempo-tab';

const TABS: Readonly<Record<SideTab, ComponentType>> = { groups: Groups, entries: Entries, tempo: TempoTab };
const LABELS: Readonly<Record<SideTab, string>> = { groups: 'Together', entries: 'Entries', tempo: 'Tempo' };

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
      <Tabs.Root value={tab} onValueChange={(next) => setTab(next as SideTab)} className="flex min-h-0 grow flex-col">
        <Tabs.List aria-label="Together, entries, tempo" className="flex border-b border-line px-1">
          {SIDE_TABS.map((value) => (
            <Tabs.Trigger
              key={value}
              value={value}
              className="min-h-10 cursor-pointer px-2.5 font-semibold text-soft data-[state=active]:border-b-2 data-[state=active]:border-ink data-[state=active]:text-ink"
            >
              {LABELS[value]}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        {SIDE_TABS.map((value) => {
          const Tab = TABS[value];
          return (
            <Tabs.Content key={value} value={value} className="flex min-h-0 grow flex-col gap-3 overflow-y-auto p-3">
              <Tab />
            </Tabs.Content>
          );
        })}
      </Tabs.Root>
    </aside>
  );
}
