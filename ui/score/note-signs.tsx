'use client';

import type { WordKind } from '@/core/marking/kinds';
import type { PlayerNote } from '@/core/marking/notes';
import { NOTE_LABELS } from '@/core/marking/notes';
import type { System } from '@/ui/score/engraving';

/** One letter for each kind, so that the sign says what it is without colour. */
const LETTERS: Readonly<Record<WordKind, string>> = { character: 'c', goal: '›', away: '‹', tune: 't', listen: 'l', question: '?', apart: '≠', words: 'w' };

/** Signs are 24 px wide, so that each can be hit by itself. */
const SIGN_PX = 24;

interface Props {
  system: System;
  /** Index of the system's first bar. */
  firstBar: number;
  notes: readonly PlayerNote[];
  onOpen(note: PlayerNote): void;
}

interface Placed {
  note: PlayerNote;
  x: number;
}

/** A quiet strip over the system: a small letter where there is a note for the player. */
export function NoteSigns({ system, firstBar, notes, onOpen }: Props) {
  const placed = placedSigns(system, firstBar, notes);
  if (placed.length === 0) return null;
  return (
    <div className="relative h-6" role="group" aria-label="Notes for the player">
      {placed.map(({ note, x }) => (
        <button
          key={`${note.target}|${note.kind}`}
          type="button"
          className="absolute top-0 flex h-6 w-6 cursor-pointer items-center justify-center"
          style={{ left: x - 12 }}
          aria-label={`${NOTE_LABELS[note.kind] || 'note'} at ${note.at}: ${note.text}`}
          title={`${note.at}${NOTE_LABELS[note.kind] && ` ${NOTE_LABELS[note.kind]}`}: ${note.text}`}
          onClick={() => onOpen(note)}
        >
          <span aria-hidden className="flex h-[18px] w-[18px] items-center justify-center rounded-full border border-soft text-xs leading-none text-soft">
            {LETTERS[note.kind]}
          </span>
        </button>
      ))}
    </div>
  );
}

/** Signs at their note or at the beginning of their bar; those that would lie on one another stand side by side. */
export function placedSigns(system: System, firstBar: number, notes: readonly PlayerNote[]): Placed[] {
  const wanted = notes
    .flatMap((note): Placed[] => {
      const head = system.heads[note.target];
      const bar = system.bars[note.barIndex - firstBar];
      if (head) return [{ note, x: head.x }];
      return bar && !note.target.startsWith('n-') ? [{ note, x: bar.from + SIGN_PX / 2 }] : [];
    })
    .sort((a, b) => a.x - b.x);
  const placed: Placed[] = [];
  for (const each of wanted) {
    const last = placed.at(-1);
    placed.push({ ...each, x: last ? Math.max(each.x, last.x + SIGN_PX) : each.x });
  }
  const over = (placed.at(-1)?.x ?? 0) - (system.widthPx - SIGN_PX / 2);
  return over > 0 ? placed.map((each) => ({ ...each, x: each.x - over * (each.x / (placed.at(-1)!.x || 1)) })) : placed;
}
