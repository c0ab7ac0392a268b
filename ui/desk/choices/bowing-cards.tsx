'use client';

import { stepInWords } from '@/core/bow-arm/reasons';
import { noteById } from '@/core/score/find';
import { placeLabel } from '@/ui/kit/music';
import { capital, costsAndGains } from '@/ui/kit/words';
import type { BowingChoice } from '@/workers/questions';
import { useDesk } from '../model/desk';
import { Card, Numbers } from './choice-card';

/** Changes of a plan that a card names; the rest is in the score. */
const NAMED = 3;

/** Bowings of a passage that differ in strategy, each with its figures. */
export function BowingCards({ items }: { items: readonly BowingChoice[] }) {
  const { open } = useDesk().view;
  const at = (noteId: string) => {
    const note = open && noteById(open.part, noteId);
    return note ? placeLabel(open.part, note).toLowerCase() : '';
  };
  const bar = (index: number) => open?.part.bars[index]?.label ?? '';
  return items.map(({ plan, numbers, more, less, changes }, i) => (
    <Card key={plan.strategy + i} index={i} title={i === 0 ? 'Best on the whole' : capital(plan.aim)} taken={changes.length === 0 && 'as marked'}>
      {!numbers.feasible && <p className="text-[13px] font-semibold text-plum">Somewhere the bow or the time is too short.</p>}
      {i > 0 && <p className="text-[13px] text-soft">{costsAndGains(more, less)}</p>}
      <Numbers
        rows={[
          ['strokes', `${numbers.strokes}`, `${numbers.barsOnUp} ${numbers.barsOnUp === 1 ? 'bar begins' : 'bars begin'} up`],
          ['retakes / hooks', `${numbers.retakes} / ${numbers.hooks}`, ''],
          ['slurs split', `${numbers.splits}`, ''],
          ['greatest change of speed', stepInWords(numbers.greatestStepDb), ''],
          [
            'works from',
            numbers.floor ? `${numbers.floor.tempo}` : 'any tempo',
            numbers.ceiling ? `to ${numbers.ceiling.tempo} (bar ${bar(numbers.ceiling.barIndex)})` : '',
          ],
          ...(numbers.crossings && numbers.crossings.crossings > 0
            ? [['crossings', `${numbers.crossings.crossings}`, `${numbers.crossings.leaps} leaps, ${numbers.crossings.inSlurs} in slurs`] as const]
            : []),
          ['marks to write', `${changes.filter((change) => change.to).length}`, ''],
        ]}
      />
      {plan.changes.slice(0, NAMED).map((change) => (
        <p key={change.kind + change.noteId} className="mt-1 text-[13px] text-soft">
          {capital(at(change.noteId))}: {change.kind}, {change.why}.
        </p>
      ))}
      {plan.changes.length > NAMED && <p className="mt-1 text-[13px] text-soft">and {plan.changes.length - NAMED} more.</p>}
    </Card>
  ));
}
