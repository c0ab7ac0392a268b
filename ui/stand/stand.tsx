'use client';

import { useEffect, useEffectEvent, useState, type MouseEvent } from 'react';
import { ProblemNote } from '@/ui/kit/problem';
import { Waiting } from '@/ui/kit/waiting';
import { AnswerDialog } from './answer-dialog';
import { Changes } from './changes';
import { Layout } from './layout';
import { Page } from './page';
import { StandBar, type Panel } from './stand-bar';
import type { SheetData } from './stand-data';
import { NotesList, TurnsList } from './lists';
import { PencilBox } from './pencil-box';
import { useStand, type StandModel } from './use-stand';
import { useWakeLock } from './use-wake-lock';

/** One part on the music stand: its pages and nothing else. */
export function Stand({ sheet }: { sheet: SheetData }) {
  const stand = useStand(sheet);
  // What changed is seen before one plays.
  const isToCopy = sheet.as === null && sheet.changes?.bars.some(({ barIndex }) => !sheet.copied.includes(barIndex ?? -1));
  const [panel, setPanel] = useState<Panel | null>(isToCopy ? 'changes' : null);
  const [asking, setAsking] = useState<{ bar: number | null } | null>(null);
  useWakeLock();
  useTurnKeys(stand, panel === null && asking === null, stand.pencil.isOn);
  const turn = (event: MouseEvent<HTMLElement>) => {
    if ((event.target as Element).closest('button, a, [data-bar]')) return;
    stand.go(event.clientX < stand.screen.width / 3 ? -1 : 1);
  };
  return (
    <div className="flex h-dvh flex-col overflow-hidden bg-sheet">
      <StandBar stand={stand} panel={panel} onPanel={setPanel} onAnswer={() => setAsking({ bar: null })} />
      {stand.problem && (
        <div className="p-3">
          <ProblemNote problem={stand.problem} onClose={stand.retry} />
        </div>
      )}
      <main
        className={`relative flex min-h-0 grow touch-manipulation select-none ${stand.pencil.isOn ? 'overflow-y-auto' : ''}`}
        aria-label={`${sheet.part}, page ${stand.page + 1} of ${stand.pages.length}`}
        onClick={turn}
      >
        {!stand.music && !stand.problem && <Waiting className="p-8">Laying the part on the stand …</Waiting>}
        {stand.music &&
          Array.from({ length: stand.atOnce }, (_, side) => (
            <Page key={side} stand={stand} page={sideShown(stand, side)} onBar={(bar) => setAsking({ bar })} onNote={() => setPanel('notes')} />
          ))}
        {stand.music && stand.coming !== null && stand.atOnce === 1 && (
          <div className="absolute inset-x-0 top-0 h-1/2 overflow-hidden border-b-2 border-spruce bg-sheet" aria-label="upper half of the next page">
            <Page stand={stand} page={stand.coming} onBar={(bar) => setAsking({ bar })} onNote={() => setPanel('notes')} />
          </div>
        )}
      </main>
      {stand.pencil.isOn && <PencilBox pencil={stand.pencil} onDone={() => stand.pencil.toggle(false)} />}
      <p className="flex shrink-0 justify-between gap-3 px-4 pb-1 text-xs text-soft">
        <span className="truncate">
          {sheet.part} · Hand-out {sheet.number}
        </span>
        <span aria-live="polite">
          {stand.pages.length > 0 &&
            `page ${stand.page + 1}${stand.atOnce === 2 && stand.page + 1 < stand.pages.length ? `–${stand.page + 2}` : ''} of ${stand.pages.length}`}
        </span>
      </p>
      {panel === 'changes' && sheet.changes && <Changes stand={stand} onClose={() => setPanel(null)} />}
      {panel === 'notes' && <NotesList stand={stand} onClose={() => setPanel(null)} />}
      {panel === 'layout' && <Layout look={stand.look} onClose={() => setPanel(null)} />}
      {panel === 'turns' && <TurnsList stand={stand} onClose={() => setPanel(null)} />}
      {asking && <AnswerDialog stand={stand} bar={asking.bar} onClose={() => setAsking(null)} />}
    </div>
  );
}

/** Of two pages the left one comes first in half a turn. */
const sideShown = ({ page, coming, atOnce }: StandModel, side: number): number => (atOnce === 2 && side === 0 && coming !== null ? coming : page + side);

const NEXT = new Set(['PageDown', 'ArrowRight', 'ArrowDown', ' ', 'Enter']);
const BACK = new Set(['PageUp', 'ArrowLeft', 'ArrowUp', 'Backspace']);

/** Keys, and pedals, which are keyboards with two keys. */
function useTurnKeys(stand: StandModel, isOn: boolean, isPenciling: boolean): void {
  const obey = useEffectEvent((event: KeyboardEvent) => {
    if (!isOn || event.ctrlKey || event.metaKey || event.altKey || (event.target as Element).closest('input, textarea, select, [role=dialog]')) return;
    const isPressed = (event.key === ' ' || event.key === 'Enter') && (event.target as Element).closest('button, a');
    if (isPressed) return;
    // The arrows lead the pencil from note to note.
    if (isPenciling && !event.key.startsWith('Page')) return;
    if (NEXT.has(event.key)) stand.go(event.shiftKey ? -1 : 1);
    else if (BACK.has(event.key)) stand.go(-1);
    else if (event.key === 'Home') stand.first();
    else if (event.key === 'End') stand.last();
    else if (event.key === '+' || event.key === '-') stand.look.resize(event.key === '+' ? 1 : -1);
    else if (event.key === 'h') stand.look.setHalfTurns(!stand.look.halfTurns);
    else return;
    event.preventDefault();
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent) => obey(event);
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);
}
