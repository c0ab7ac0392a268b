'use client';

import { NOTE_LABELS } from '@/core/marking/notes';
import { PAGING } from '@/core/stand/tables';
import { PlaceButton } from '@/ui/kit/button';
import { SideSheet } from './side-sheet';
import type { StandModel } from './use-stand';

/** The coach's words, as numbered in the music. */
export function NotesList({ stand, onClose }: { stand: StandModel; onClose(): void }) {
  return (
    <SideSheet title="Notes" onClose={onClose}>
      <ol className="grid gap-2">
        {stand.music!.notes.map(({ target, kind, at, barIndex, text }, i) => (
          <li key={`${target}|${kind}`} className="flex gap-2">
            <span className="w-5 shrink-0 text-right text-spruce">{i + 1}</span>
            <span className="min-w-0">
              <PlaceButton onClick={() => stand.goToBar(barIndex)}>{at}</PlaceButton> {NOTE_LABELS[kind] && <em>{NOTE_LABELS[kind]} </em>}
              <span className="break-words whitespace-pre-line">{text}</span>
            </span>
          </li>
        ))}
      </ol>
    </SideSheet>
  );
}

/** How long there is to turn each page, for one who teaches. */
export function TurnsList({ stand, onClose }: { stand: StandModel; onClose(): void }) {
  const label = (bar: number) => stand.music!.labels[bar];
  return (
    <SideSheet title="Turns on this screen" onClose={onClose}>
      <p className="mb-3 text-soft">
        A turn takes {PAGING.turnS} s. Breaks are chosen so that turns fall into rests; where there is none, somebody has to turn in a hurry, or the part is
        read with two pages at once.
      </p>
      <ul className="grid gap-1.5">
        {stand.turns.map(({ page, from, to, restS, hurried, jumps }, i) => (
          <li key={i}>
            <PlaceButton onClick={() => stand.goToBar(from)}>
              page {page + 1}, after bar {label(from)}
            </PlaceButton>
            {jumps && ` to bar ${label(to)}`}: {restS < 0.05 ? 'no rest' : `${restS.toFixed(1)} s of rest`}
            {hurried && <strong className="text-plum"> · in a hurry</strong>}
          </li>
        ))}
      </ul>
    </SideSheet>
  );
}
