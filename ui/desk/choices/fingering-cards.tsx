'use client';

import { noteById } from '@/core/score/find';
import { placeLabel } from '@/ui/kit/music';
import { capital, costsAndGains } from '@/ui/kit/words';
import type { FingeringChoice } from '@/workers/questions';
import { useDesk } from '../model/desk';
import { Card, Numbers } from './choice-card';

/** Fingerings of a passage that differ in strategy, each with its figures. */
export function FingeringCards({ items }: { items: readonly FingeringChoice[] }) {
  const { part } = useDesk().view;
  const at = (noteId: string) => {
    const note = part && noteById(part, noteId);
    return note ? placeLabel(part, note).toLowerCase() : '';
  };
  return items.map(({ way, numbers, outlook, more, less, changes }, i) => (
    <Card key={way.strategy + i} index={i} title={i === 0 ? 'Best on the whole' : capital(way.aim)} taken={changes.length === 0 && 'as marked'}>
      {i > 0 && <p className="text-[13px] text-soft">{costsAndGains(more, less)}</p>}
      <Numbers
        rows={[
          ['shifts', `${numbers.shifts}`, numbers.shifts ? `${Math.round(numbers.shiftMm)} mm in all` : ''],
          [
            'hardest',
            numbers.hardest ? `${Math.round(numbers.hardest.mm)} mm in ${(numbers.hardest.gapMs / 1000).toFixed(2)} s` : 'none',
            numbers.hardest ? at(numbers.hardest.noteId) : '',
          ],
          ['worst risk', outlook.worst ? `${Math.round(outlook.worst.chance * 100)} %` : 'none', outlook.worst ? at(outlook.worst.noteId) : ''],
          ['fourth finger / open', `${numbers.fourthFingers} / ${numbers.openStrings}`, ''],
          ['marks to write', `${changes.filter((change) => change.to).length}`, ''],
        ]}
      />
    </Card>
  ));
}
