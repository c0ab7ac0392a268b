'use client';

import { Tabs } from 'radix-ui';
import type { ComponentType } from 'react';
import { ChoicesTab } from './choices/choices-tab';
import { isSpot } from '@/core/checks/finding';
import { FindingsTab } from './findings/findings-tab';
import { useDesk } from './model/desk';
import { PANEL_TABS, type PanelTab } from './model/tabs';
import { NotesTab } from './notes/notes-tab';
import { OthersTab } from './others/others-tab';
import { ReadingTab } from './reading/reading-tab';

const TABS: Readonly<Record<PanelTab, ComponentType>> = { choices: ChoicesTab, findings: FindingsTab, notes: NotesTab, reading: ReadingTab, others: OthersTab };

export function Panel() {
  const { tab, setTab, report, drawn, focusScore } = useDesk();
  const labels: Readonly<Record<PanelTab, string>> = {
    choices: 'Choices',
    findings: `Findings ${report ? drawn.findings.filter(isSpot).length : ''}`,
    notes: 'Notes',
    reading: 'Reading',
    others: 'Others',
  };
  return (
    <Tabs.Root
      value={tab}
      onValueChange={(next) => setTab(next as PanelTab)}
      className="flex h-full w-80 shrink-0 flex-col border-l border-line bg-sheet max-lg:h-[34dvh] max-sm:h-[30dvh] max-lg:w-full max-lg:border-t max-lg:border-l-0"
    >
      <Tabs.List aria-label="Choices, findings, notes, reading and others" className="flex px-0.5 border-b border-line">
        {PANEL_TABS.map((value) => (
          <Tabs.Trigger
            key={value}
            value={value}
            className="min-h-11 cursor-pointer px-1.5 text-[13px] whitespace-nowrap font-semibold text-soft data-[state=active]:border-b-2 data-[state=active]:border-ink data-[state=active]:text-ink"
          >
            {labels[value]}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      {PANEL_TABS.map((value) => {
        const Tab = TABS[value];
        return (
          <Tabs.Content
            key={value}
            value={value}
            className="grow overflow-y-auto p-3"
            onKeyDown={(event) => {
              // What was being written stays; the keys are the score's again. Other fields take back what was typed with Escape.
              if (event.key === 'Escape' && (event.target as HTMLElement).hasAttribute('data-takes-keys')) focusScore();
            }}
          >
            <Tab />
          </Tabs.Content>
        );
      })}
    </Tabs.Root>
  );
}
