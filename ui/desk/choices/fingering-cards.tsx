'use client';

import { noteById } from '@/core/score/find';
import { placeLabel } from '@/ui/kit/music';
import { capital, costsAndGains } from '@/ui/kit/words';
import type { FingeringChoice } from '@/workers/questions';
import { useDesk } from '../model/desk';
import { sparedElsewhere } from '../model/still-best';
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
      {i === 0 && <StillBest items={items} at={at} />}
      <Numbers
        rows={[
          ['shifts', `${numbers.shifts}`, numbers.shifts ? `${Math.round(numbers.shiftMm)} mm in all` : ''],
          [
            'hardest',
            numbers.hardest ? `${Math.round(numbers.hardest.mm)} mm in ${(numbers.hardest.gapMs / 1000).toFixed(2)} s` : 'none',
            numbers.hardest ? at(numbers.hardest.noteId) : '',
          ],
          ['spots', `${outlook.spots.length}`, ''],
          ['worst risk', outlook.worst ? `${Math.round(outlook.worst.chance * 100)} %` : 'none', outlook.worst ? at(outlook.worst.noteId) : ''],
          ['fourth finger / open', `${numbers.fourthFingers} / ${numbers.openStrings}`, ''],
          ['marks to write', `${changes.filter((change) => change.to).length}`, ''],
        ]}
      />
    </Card>
  ));
}

/** Spots that are told; the others are in the figures. */
const TOLD = 2;

/** Where another way has a spot less: why this one is the best all the same. */
function StillBest({ items, at }: { items: readonly FingeringChoice[]; at(noteId: string): string }) {
  const spared = sparedElsewhere(items);
  return spared.slice(0, TOLD).map(({ finding, aim, more }) => (
    <p key={finding.kind + finding.noteIds.join()} className="text-[13px] text-soft">
      {capital(at(finding.noteIds.at(-1)!))}: {finding.kind}, which “{aim}” spares;{' '}
      {more.length ? `that costs more ${more.join(', ')}` : 'on the whole that is no better'}.
    </p>
  ));
}
