'use client';

import { Redo2, Undo2 } from 'lucide-react';
import { IconButton } from '@/ui/kit/icon-button';
import { PageHeader } from '@/ui/kit/page-header';
import { SaveChip } from '@/ui/unsent/save-chip';
import { deskDeeds } from '../model/deeds';
import { useDesk } from '../model/desk';
import { LineChip } from './line-chip';
import { PartMenu } from './part-menu';
import { PlayerMenu } from './player-menu';
import { TakeOut } from './take-out';
import { TempoChip } from './tempo-chip';

/** Where one is, whom the part is checked for and how fast, and the ways out. */
export function Header() {
  const desk = useDesk();
  const deeds = deskDeeds(desk);
  return (
    <PageHeader path={[desk.data.title]} here={<PartMenu />} beside={<LineChip />}>
      <IconButton label={desk.undo ? `Undo: ${desk.undo.what}` : 'Nothing to undo'} disabled={!desk.undo} onClick={deeds.undo}>
        <Undo2 size={16} aria-hidden />
      </IconButton>
      <IconButton label={desk.redo ? `Redo: ${desk.redo.what}` : 'Nothing to redo'} disabled={!desk.redo} onClick={deeds.redo}>
        <Redo2 size={16} aria-hidden />
      </IconButton>
      <PlayerMenu />
      <TempoChip />
      <TakeOut />
      <SaveChip />
    </PageHeader>
  );
}
