'use client';

import { ChevronLeft, ChevronRight, Maximize, MessageSquare, Pencil, Printer, SlidersHorizontal, ZoomIn, ZoomOut } from 'lucide-react';
import Link from 'next/link';
import { Button, buttonClass } from '@/ui/kit/button';
import { IconButton } from '@/ui/kit/icon-button';
import { ThemeSwitch } from '@/ui/kit/theme';
import type { StandModel } from './use-stand';

export type Panel = 'changes' | 'notes' | 'turns' | 'layout';

interface Props {
  stand: StandModel;
  panel: Panel | null;
  onPanel(panel: Panel | null): void;
  onAnswer(): void;
}

/** What there is beside the music, as little as possible. */
export function StandBar({ stand, panel, onPanel, onAnswer }: Props) {
  const { sheet, music, turns, said, pencil, look } = stand;
  const toggle = (which: Panel) => onPanel(panel === which ? null : which);
  const left = sheet.changes?.bars.filter(({ barIndex }) => !said.copied.has(barIndex ?? -1)).length ?? 0;
  const hurried = turns.filter((each) => each.hurried).length;
  return (
    <nav
      aria-label="Stand"
      className="flex min-h-11 shrink-0 items-center gap-2 overflow-x-auto border-b border-line px-3 py-1 text-[13px] whitespace-nowrap *:shrink-0"
    >
      <Link href={sheet.as === null ? '/stand' : `/stand?as=${sheet.as}`} className="shrink-0 underline">
        {sheet.as === null ? 'My parts' : 'Their parts'}
      </Link>
      {sheet.changes && (
        <Button small aria-pressed={panel === 'changes'} onClick={() => toggle('changes')}>
          What changed{left > 0 && sheet.as === null ? ` (${left})` : ''}
        </Button>
      )}
      {music && music.notes.length > 0 && (
        <Button small aria-pressed={panel === 'notes'} onClick={() => toggle('notes')}>
          Notes ({music.notes.length})
        </Button>
      )}
      {sheet.as !== null && turns.length > 0 && (
        <Button small aria-pressed={panel === 'turns'} onClick={() => toggle('turns')}>
          Turns{hurried > 0 ? ` (${hurried} in a hurry)` : ''}
        </Button>
      )}
      {pencil.isOwn && (
        <Button small aria-pressed={pencil.isOn} onClick={() => pencil.toggle(!pencil.isOn)}>
          <Pencil size={14} aria-hidden /> Pencil{pencil.lost.length > 0 ? ` (${pencil.lost.length} without a note)` : ''}
        </Button>
      )}
      {!pencil.isOwn && pencil.isShown && <span className="text-soft">with their pencil</span>}
      <span className="grow max-sm:hidden" />
      <a className={buttonClass({ small: true })} href={`/api/stand/parts/${sheet.partId}/paper${sheet.as === null ? '' : `?as=${sheet.as}`}`} download>
        <Printer size={14} aria-hidden /> On paper
      </a>
      {sheet.as === null && (
        <IconButton label="Say something about this part" onClick={onAnswer}>
          <MessageSquare size={16} aria-hidden />
        </IconButton>
      )}
      <IconButton label="Smaller music" disabled={!look.canShrink} onClick={() => look.resize(-1)}>
        <ZoomOut size={16} aria-hidden />
      </IconButton>
      <IconButton label="Larger music" disabled={!look.canGrow} onClick={() => look.resize(1)}>
        <ZoomIn size={16} aria-hidden />
      </IconButton>
      <IconButton label="How it is laid out" aria-pressed={panel === 'layout'} onClick={() => toggle('layout')}>
        <SlidersHorizontal size={16} aria-hidden />
      </IconButton>
      <IconButton
        label="Full screen"
        onClick={() => void (document.fullscreenElement ? document.exitFullscreen() : document.documentElement.requestFullscreen())}
      >
        <Maximize size={16} aria-hidden />
      </IconButton>
      <ThemeSwitch />
      <IconButton label="Page before" onClick={() => stand.go(-1)}>
        <ChevronLeft size={18} aria-hidden />
      </IconButton>
      <IconButton label="Next page" onClick={() => stand.go(1)}>
        <ChevronRight size={18} aria-hidden />
      </IconButton>
    </nav>
  );
}
