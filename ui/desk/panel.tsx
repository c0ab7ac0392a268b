'use client';

import { isSpot } from '@/core/checks/finding';
import { SideTabs } from '@/ui/kit/side-tabs';
import { ChoicesTab } from './choices/choices-tab';
import { FindingsTab } from './findings/findings-tab';
import { useDesk } from './model/desk';
import type { PanelTab } from './model/tabs';
import { NotesTab } from './notes/notes-tab';
import { OthersTab } from './others/others-tab';
import { ReadingTab } from './reading/reading-tab';

export function Panel() {
  const { tab, setTab, report, drawn, focusScore } = useDesk();
  return (
    <SideTabs<PanelTab>
      label="Choices, findings, notes, reading and others"
      tight
      value={tab}
      onValue={setTab}
      tabs={[
        ['choices', 'Choices', ChoicesTab],
        ['findings', `Findings ${report ? drawn.findings.filter(isSpot).length : ''}`, FindingsTab],
        ['notes', 'Notes', NotesTab],
        ['reading', 'Reading', ReadingTab],
        ['others', 'Others', OthersTab],
      ]}
      className="h-full w-80 shrink-0 border-l border-line bg-sheet max-lg:h-[34dvh] max-sm:h-[30dvh] max-lg:w-full max-lg:border-t max-lg:border-l-0"
      onKeyDown={(event) => {
        // What was being written stays; the keys are the score's again. Other fields take back what was typed with Escape.
        if (event.key === 'Escape' && (event.target as HTMLElement).hasAttribute('data-takes-keys')) focusScore();
      }}
    />
  );
}
