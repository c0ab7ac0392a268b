'use client';

import { useLayoutEffect, useMemo, useRef } from 'react';
import { markAt, type Marking } from '@/core/marking/mark';
import type { System } from './engraving';
import { BOW_SIGNS } from './planned-bows';

/** Marks that are a sign at the note, in the order in which the engraver stacks them; all others wait for him. */
const SIGNS = ['bow', 'finger', 'string'] as const;
type Sign = (typeof SIGNS)[number];
const NUMERALS = ['', 'I', 'II', 'III', 'IV', 'V'];

export interface FreshMark {
  noteId: string;
  kind: Sign;
  /** As the picture still has it, and as it is now; null for none. */
  old: string | null;
  now: string | null;
}

const valueOf = (marking: Marking, noteId: string, kind: Sign): string | null => {
  const mark = markAt(marking, noteId, kind);
  return !mark || mark.off || mark.value === 'none' ? null : mark.value;
};

/** What differs between the marks that were engraved and those that are there now. */
export function freshMarks(noteIds: readonly string[], engraved: Marking, marking: Marking): FreshMark[] {
  if (engraved === marking) return [];
  return noteIds.flatMap((noteId) =>
    SIGNS.flatMap((kind): FreshMark[] => {
      const [old, now] = [valueOf(engraved, noteId, kind), valueOf(marking, noteId, kind)];
      return old === now ? [] : [{ noteId, kind, old, now }];
    }),
  );
}

interface Props {
  system: System;
  engraved: Marking;
  marking: Marking;
}

/** Marks that were just made, drawn on the music by the browser until the engraver's picture with them is there. */
export function FreshMarks({ system, engraved, marking }: Props) {
  const area = useRef<HTMLDivElement>(null);
  const fresh = useMemo(() => freshMarks(Object.keys(system.heads), engraved, marking), [system, engraved, marking]);
  useLayoutEffect(() => {
    const root = area.current?.parentElement;
    // Measured only where there is something to place.
    if (root && fresh.length) place(root, area.current!, system);
  }, [fresh, system]);
  return (
    <div ref={area} aria-hidden className="pointer-events-none absolute inset-0" data-fresh={fresh.length}>
      {fresh.map(({ noteId, kind, old, now }) => (
        <span
          key={noteId + kind}
          data-note={noteId}
          data-sign={textOf(kind, old) ?? ''}
          className={`absolute flex h-4 min-w-3 -translate-x-1/2 items-center justify-center font-serif text-[13px] leading-none font-bold ${textOf(kind, old) ? 'bg-sheet' : ''}`}
        >
          {kind === 'bow' ? now && <BowSign direction={now === 'up' ? 'up' : 'down'} /> : textOf(kind, now)}
        </span>
      ))}
    </div>
  );
}

const textOf = (kind: Sign, value: string | null): string | null =>
  value === null || kind === 'bow' ? null : kind === 'string' ? NUMERALS[Number(value)]! : value;

const BowSign = ({ direction }: { direction: 'down' | 'up' }) => (
  <svg width={10} height={13} viewBox="-5 0 10 13">
    <path d={BOW_SIGNS[direction]} fill="none" stroke="currentColor" strokeWidth={1.3} />
    {direction === 'down' && <line x1={-4} x2={4} y1={3} y2={3} stroke="currentColor" strokeWidth={2.4} />}
  </svg>
);

/** Room between a note and the sign over it, and between two signs, px. */
const GAP = 3;
/** Signs whose middles lie so near one another stand over one note, px. */
const NEAR = 9;

/** Where the engraver had the sign that was there, else over the note, the staff and whatever stands there already. */
function place(root: HTMLElement, area: HTMLElement, system: System): void {
  const frame = root.getBoundingClientRect();
  const boxes = [...root.querySelectorAll('g.fing, g.artic')].map((sign) => ({ box: sign.getBoundingClientRect(), text: sign.textContent?.trim() ?? '' }));
  const top = new Map<string, number>();
  for (const span of area.querySelectorAll<HTMLElement>('[data-note]')) {
    const id = span.dataset.note!;
    const head = system.heads[id]!;
    const over = boxes.filter(({ box }) => Math.abs(box.left + box.width / 2 - frame.left - head.x) < NEAR && box.bottom - frame.top < head.y + 4);
    const before = span.dataset.sign ? over.find(({ text }) => text === span.dataset.sign) : undefined;
    span.style.left = `${head.x}px`;
    if (before) {
      span.style.top = `${before.box.top - frame.top + before.box.height / 2 - span.offsetHeight / 2}px`;
      continue;
    }
    const note = root.querySelector(`#${CSS.escape(id)}`)?.getBoundingClientRect();
    const staff = root.querySelector('g.staff > path')?.getBoundingClientRect();
    const free = Math.min(...[note?.top, staff?.top, ...over.map(({ box }) => box.top)].flatMap((y) => (y === undefined ? [] : [y - frame.top])), head.y);
    const bottom = top.get(id) ?? free;
    const y = bottom - GAP - span.offsetHeight;
    span.style.top = `${y}px`;
    top.set(id, y);
  }
}
