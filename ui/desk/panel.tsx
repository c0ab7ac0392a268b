'use client';

import { Tabs } from 'radix-ui';
import type { Finding } from '@/core/checks/finding';
import type { IntonationSettings } from '@/core/checks/target';
import type { Level } from '@/core/instruments/player';
import type { Instrument } from '@/core/instruments/instrument';
import type { OpenPart } from '@/workers/analyst';
import type { BowPanelProps } from './choices/bow-panel';
import type { HandPanelProps } from './choices/hand-panel';
import { ChoicesTab } from './choices/choices-tab';
import { FindingsTab } from './findings/findings-tab';
import { NotesTab, type NotesProps } from './notes/notes-tab';
import { ReadingTab, type ReadingProps } from './reading/reading-tab';
import { PANEL_TABS, type PanelTab } from './tabs';
import type { Choices } from './choices/use-choices';
import type { Findings } from './findings/use-findings';

/** How far off is minded, and what is aimed at. */
export interface InTuneProps {
  intonation: IntonationSettings;
  level: Level;
  onIntonation(intonation: IntonationSettings): void;
}

export interface PanelProps {
  partId: string;
  reading: ReadingProps;
  notes: NotesProps;
  tab: PanelTab;
  onTab(tab: PanelTab): void;
  /** The first check has been made. */
  ready: boolean;
  passageName: string;
  open: OpenPart | null;
  instrument: Instrument;
  choices: Choices;
  /** Place and name of the selected note. */
  noteLabel: string;
  findings: readonly Finding[];
  spots: Findings;
  inTune: InTuneProps;
  /** How many findings other passages have. */
  elsewhere: number;
  onSuggest(kind: 'fingering' | 'bowing'): void;
  onTake(index: number): void;
  onCompare(): void;
  bow: BowPanelProps;
  hand: HandPanelProps;
  onGo(noteId: string): void;
}

const LABELS: Readonly<Record<PanelTab, (props: PanelProps) => string>> = {
  choices: () => 'Choices',
  findings: ({ ready, findings }) => `Findings ${ready ? findings.length : ''}`,
  notes: () => 'Notes',
  reading: () => 'Reading',
};

export function Panel(props: PanelProps) {
  return (
    <Tabs.Root
      value={props.tab}
      onValueChange={(tab) => props.onTab(tab as PanelTab)}
      className="flex h-full w-76 shrink-0 flex-col border-l border-line bg-sheet max-lg:w-full max-lg:border-t max-lg:border-l-0"
    >
      <Tabs.List aria-label="Choices, findings, notes and reading" className="flex px-0.5 border-b border-line">
        {PANEL_TABS.map((value) => (
          <Tabs.Trigger
            key={value}
            value={value}
            className="min-h-11 cursor-pointer px-2.5 whitespace-nowrap font-semibold text-soft data-[state=active]:border-b-2 data-[state=active]:border-ink data-[state=active]:text-ink"
          >
            {LABELS[value](props)}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      <Tabs.Content value="choices" className="grow overflow-y-auto p-3">
        <ChoicesTab {...props} />
      </Tabs.Content>
      <Tabs.Content value="findings" className="grow overflow-y-auto p-3">
        <FindingsTab {...props} />
      </Tabs.Content>
      <Tabs.Content value="notes" className="grow overflow-y-auto p-3">
        <NotesTab {...props.notes} />
      </Tabs.Content>
      <Tabs.Content value="reading" className="grow overflow-y-auto p-3">
        <ReadingTab {...props.reading} />
      </Tabs.Content>
    </Tabs.Root>
  );
}
