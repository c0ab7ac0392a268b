'use client';

import { Tabs } from 'radix-ui';
import type { Finding } from '@/core/checks/finding';
import type { Instrument } from '@/core/instruments/instrument';
import type { OpenPart } from '@/workers/analyst';
import { ChoicesTab } from './choices-tab';
import { FindingsTab } from './findings-tab';
import type { Choices } from './use-choices';

export interface PanelProps {
  tab: string;
  onTab(tab: string): void;
  /** The first check has been made. */
  ready: boolean;
  passageName: string;
  open: OpenPart | null;
  instrument: Instrument;
  choices: Choices;
  /** Place and name of the selected note. */
  noteLabel: string;
  findings: readonly Finding[];
  /** How many findings other passages have. */
  elsewhere: number;
  onSuggest(kind: 'fingering' | 'bowing'): void;
  onTake(index: number): void;
  onGo(noteId: string): void;
}

const TABS: ReadonlyArray<[value: string, label: (props: PanelProps) => string]> = [
  ['choices', () => 'Choices'],
  ['findings', ({ ready, findings }) => `Findings ${ready ? findings.length : ''}`],
];

export function Panel(props: PanelProps) {
  return (
    <Tabs.Root
      value={props.tab}
      onValueChange={props.onTab}
      className="flex h-full w-76 shrink-0 flex-col border-l border-line bg-sheet max-lg:w-full max-lg:border-t max-lg:border-l-0"
    >
      <Tabs.List aria-label="Choices and findings" className="flex border-b border-line">
        {TABS.map(([value, label]) => (
          <Tabs.Trigger
            key={value}
            value={value}
            className="min-h-11 cursor-pointer px-4 font-semibold text-soft data-[state=active]:border-b-2 data-[state=active]:border-ink data-[state=active]:text-ink"
          >
            {label(props)}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      <Tabs.Content value="choices" className="grow overflow-y-auto p-3">
        <ChoicesTab {...props} />
      </Tabs.Content>
      <Tabs.Content value="findings" className="grow overflow-y-auto p-3">
        <FindingsTab {...props} />
      </Tabs.Content>
    </Tabs.Root>
  );
}
