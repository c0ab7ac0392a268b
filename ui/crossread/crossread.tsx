'use client';

import { Redo2, Send, Undo2, ZoomIn, ZoomOut } from 'lucide-react';
import Link from 'next/link';
import { useEffect, useEffectEvent, type KeyboardEvent } from 'react';
import { CARRIED } from '@/core/ensemble/carry';
import { buttonClass } from '@/ui/kit/button';
import { IconButton } from '@/ui/kit/icon-button';
import { PageHeader } from '@/ui/kit/page-header';
import { ProblemNote } from '@/ui/kit/problem';
import { Waiting } from '@/ui/kit/waiting';
import { SaveChip } from '@/ui/unsent/save-chip';

import { LEAVE } from './groups';
import { Lanes } from './lanes';
import { Side } from './side';
import type { ScoreData } from './model/score-data';
import { RehearsalLink } from './rehearsal';
import { CrossreadProvider, useCrossread, type CrossreadModel } from './model/use-crossread';

/** All parts of a score side by side: what is bowed together and what is not. */
export function Crossread({ data }: { data: ScoreData }) {
  const model = useCrossread(data);
  const { problem, unread, undo, redo, pxPerQuarter, setPxPerQuarter, clashed } = model;
  useUndoKeys(model);
  return (
    <CrossreadProvider value={model}>
      <div className="flex h-dvh flex-col">
        <PageHeader path={[data.title, 'Side by side']}>
          <IconButton label={undo ? `Undo: ${undo.what}` : 'Nothing to undo'} disabled={!undo} onClick={() => undo?.act()}>
            <Undo2 size={16} aria-hidden />
          </IconButton>
          <IconButton label={redo ? `Redo: ${redo.what}` : 'Nothing to redo'} disabled={!redo} onClick={() => redo?.act()}>
            <Redo2 size={16} aria-hidden />
          </IconButton>
          <IconButton label="More bars in view" disabled={pxPerQuarter <= 4} onClick={() => setPxPerQuarter(pxPerQuarter / 2)}>
            <ZoomOut size={16} aria-hidden />
          </IconButton>
          <IconButton label="Fewer bars, larger" disabled={pxPerQuarter >= 64} onClick={() => setPxPerQuarter(pxPerQuarter * 2)}>
            <ZoomIn size={16} aria-hidden />
          </IconButton>
          <RehearsalLink pieceId={data.pieceId} />
          <Link className={buttonClass()} href={`/hand-out/${data.pieceId}`}>
            <Send size={15} aria-hidden /> Hand out
          </Link>
          <SaveChip />
        </PageHeader>
        {problem && <ProblemNote problem={problem} />}
        {unread.length > 0 && <p className="px-4 py-2 text-[13px] text-plum">Could not be read and is left out: {unread.join(', ')}.</p>}
        {model.shown?.remarks.map((remark) => (
          <p key={remark} className="px-4 py-1 text-[13px]">
            {remark}
          </p>
        ))}
        {clashed.length > 0 && (
          <p className="px-4 py-2 text-[13px] text-plum">Somebody else changed the same marks in {clashed.join(', ')}: open its Desk to settle it.</p>
        )}
        <Room model={model} />
      </div>
    </CrossreadProvider>
  );
}

function Room({ model }: { model: CrossreadModel }) {
  const { shown, problem, group, agreed, step, stepLane, carry, propose, takeAgreed, select } = model;
  if (!shown) return problem ? null : <Waiting className="p-6">Laying the parts side by side …</Waiting>;
  const strings = shown.lanes.filter(({ instrument }) => instrument !== null);
  if (strings.length < 2)
    return (
      <p className="max-w-xl p-6 text-soft">
        {strings.length === 0 ? 'No part of this piece is for a bowed string instrument.' : `${strings[0]!.name} is the only string part of this piece.`} Side
        by side needs two at least: bring in the score with all its parts, or say in a part’s menu which instrument it is played on.
      </p>
    );
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === 'ArrowRight' || event.key === 'ArrowLeft') step(event.key === 'ArrowRight' ? 1 : -1);
    else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') stepLane(event.key === 'ArrowDown' ? 1 : -1);
    else if (event.key === 'c' && group) void carry(CARRIED, group, group.members[0]!);
    else if (event.key === 'b' && group) void propose(group);
    else if (event.key === 'l' && group) document.querySelector<HTMLElement>(`[aria-label="${LEAVE}"]`)?.focus();
    else if (event.key === 'Enter' && agreed && group) takeAgreed(group);
    else if (event.key === 'Escape') select(null);
    else return;
    event.preventDefault();
  };
  return (
    <div className="flex min-h-0 grow basis-0 max-lg:flex-col">
      <main className="flex min-h-0 min-w-0 grow flex-col" onKeyDown={onKeyDown}>
        <Lanes />
      </main>
      <Side />
    </div>
  );
}

function useUndoKeys({ undo, redo }: CrossreadModel): void {
  const obey = useEffectEvent((again: boolean) => (again ? redo : undo)?.act());
  useEffect(() => {
    const listen = (event: globalThis.KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z' || (event.target as Element).closest('input, textarea')) return;
      event.preventDefault();
      obey(event.shiftKey);
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);
}
