'use client';

import { Redo2, Undo2, Users } from 'lucide-react';
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
      <AlsoHere names={desk.live.here} />
      <PlayerMenu />
      <TempoChip />
      <TakeOut />
      <SaveChip />
    </PageHeader>
  );
}

/** Others who have this part open: what they mark appears here as they do it. */
function AlsoHere({ names }: { names: readonly string[] }) {
  if (names.length === 0) return null;
  const all = names.join(', ');
  return (
    <span
      role="status"
      title={`Open elsewhere: ${all}. What is marked there appears here at once.`}
      className="flex max-w-40 items-center gap-1 text-[13px] text-soft"
    >
      <Users size={14} aria-hidden className="shrink-0" />
      <span className="truncate">also here: {names.length > 2 ? names.length : all}</span>
    </span>
  );
}
