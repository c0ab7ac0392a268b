'use client';

import { ToggleButton } from '@/ui/kit/button';
import { Select } from '@/ui/kit/select';
import { capital } from '@/ui/kit/words';
import { SIDES, type FindingFilter } from '@/ui/part/findings-shown';
import { useDesk } from '../model/desk';

const FIELD = 'min-w-0 px-1';
const HANDS = SIDES.map((side) => [side, side === 'all' ? 'All' : capital(side)] as const);
const FROM: ReadonlyArray<readonly [from: FindingFilter['from'], words: string]> = [
  [1, '◆ and up'],
  [2, '◆◆ and up'],
  [3, '◆◆◆ only'],
];

/** Which findings of the passage are shown. */
export function FindingsFilter({ shown }: { shown: number }) {
  const { drawn, spots } = useDesk();
  const { findings } = drawn;
  const { filter, setFilter } = spots;
  const kinds = [...new Set(findings.map(({ kind }) => kind))].sort();
  // What is filtered by stays offered where this passage has none of it.
  const offered = filter.kind !== 'all' && !kinds.includes(filter.kind) ? [filter.kind, ...kinds] : kinds;
  return (
    <div className="grid grid-cols-3 gap-1.5" role="group" aria-label="Which findings are shown">
      <Select quiet label="Hand" className={FIELD} value={filter.side} options={HANDS} onValue={(side) => setFilter({ ...filter, side })} />
      <Select
        quiet
        label="Kind"
        className={FIELD}
        value={filter.kind}
        options={[['all', 'All kinds'] as const, ...offered.map((kind) => [kind, capital(kind)] as const)]}
        onValue={(kind) => setFilter({ ...filter, kind })}
      />
      <Select quiet label="Severity" className={FIELD} value={filter.from} options={FROM} onValue={(from) => setFilter({ ...filter, from })} />
      <p className="col-span-3 flex items-baseline justify-between gap-2 text-[13px] text-soft">
        <span role="status">{shown < findings.length ? `${shown} of ${findings.length} shown.` : ''}</span>
        {shown > 1 && (
          <ToggleButton
            pressed={filter.order === 'worst first'}
            onClick={() => setFilter({ ...filter, order: filter.order === 'bars' ? 'worst first' : 'bars' })}
          >
            Worst first
          </ToggleButton>
        )}
      </p>
    </div>
  );
}
