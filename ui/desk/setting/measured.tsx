'use client';

import { useState } from 'react';
import { spanMm } from '@/core/instruments/geometry';
import { handOf, measuredShape, type MeasuredHand } from '@/core/instruments/player';
import { TextButton } from '@/ui/kit/button';
import type { HandChange } from '@/ui/part/use-players';

const HALF_STEPS = ['', '', 'a tone', 'a minor third', 'a major third', 'a fourth', 'a tritone', 'a fifth', 'a minor sixth', 'a major sixth'];
/** First position: the first finger lies here, half steps above the open string. */
const FIRST_AT = 2;

/** "about a fourth": what a spread in mm is in first position on this instrument. */
function inFirstPosition(mm: number, lengthMm: number): string {
  let halfSteps = 0;
  while (halfSteps < HALF_STEPS.length - 1 && spanMm(lengthMm, FIRST_AT, FIRST_AT + halfSteps + 1) <= mm + 1) halfSteps++;
  return HALF_STEPS[halfSteps] ? `reaches ${HALF_STEPS[halfSteps]} in first position` : 'less than a tone';
}

const PAIRS: ReadonlyArray<readonly [pair: '12' | '23' | '34', words: string]> = [
  ['12', '1 to 2'],
  ['23', '2 to 3'],
  ['34', '3 to 4'],
];

/** A hand in mm, as a ruler says; what makes no sense does not hold. */
export function Measured({ measured, lengthMm, onHand }: { measured: MeasuredHand; lengthMm: number; onHand(change: HandChange): void }) {
  const [draft, setDraft] = useState(measured);
  const checked = measuredShape.safeParse(draft);
  const put = (next: MeasuredHand) => {
    setDraft(next);
    if (measuredShape.safeParse(next).success) onHand({ measured: next });
  };
  const mm = (label: string, value: number, onValue: (mm: number) => void, hint: string | null) => (
    <label key={label} className="grid gap-0.5 text-[13px]">
      <span>{label}</span>
      <span className="flex items-center gap-2">
        <input type="number" className="field w-20" min={15} max={260} value={value} onChange={(event) => onValue(Number(event.target.value))} /> mm
        {hint && <span className="text-soft">{hint}</span>}
      </span>
    </label>
  );
  return (
    <fieldset className="grid gap-2 rounded-lg border border-line p-3">
      <legend className="px-1 text-[13px]">In first position, with the first finger down, how far does the fourth reach?</legend>
      {mm('With ease', draft.comfortable, (comfortable) => put({ ...draft, comfortable }), inFirstPosition(draft.comfortable, lengthMm))}
      {mm('At most, still without pain', draft.greatest, (greatest) => put({ ...draft, greatest }), inFirstPosition(draft.greatest, lengthMm))}
      {!checked.success && (
        <p role="alert" className="text-[13px] text-plum">
          {checked.error.issues[0]!.path.join(' ')}: {checked.error.issues[0]!.message}. Give mm from 15 to 260; the last good figures stay in force.
        </p>
      )}
      <details>
        <summary className="cursor-pointer text-[13px]">Between neighbouring fingers</summary>
        <div className="mt-2 grid gap-2">
          {PAIRS.map(([pair, words]) => {
            const own = draft.pairs?.[pair];
            return (
              <div key={pair} className="flex flex-wrap items-end gap-3">
                {own ? (
                  <>
                    {mm(
                      `${words}, with ease`,
                      own.comfortable,
                      (comfortable) => put({ ...draft, pairs: { ...draft.pairs, [pair]: { ...own, comfortable } } }),
                      null,
                    )}
                    {mm('at most', own.greatest, (greatest) => put({ ...draft, pairs: { ...draft.pairs, [pair]: { ...own, greatest } } }), null)}
                  </>
                ) : (
                  <TextButton className="text-[13px]" onClick={() => put({ ...draft, pairs: { ...draft.pairs, [pair]: usualPair(pair, draft) } })}>
                    Measure {words} too
                  </TextButton>
                )}
              </div>
            );
          })}
        </div>
      </details>
    </fieldset>
  );
}

function usualPair(pair: '12' | '23' | '34', { comfortable, greatest }: MeasuredHand): { comfortable: number; greatest: number } {
  const usual = handOf('medium', 'cello');
  return {
    comfortable: Math.round((usual.comfortableMm[pair as unknown as 12] * comfortable) / usual.comfortableMm[14]),
    greatest: Math.round((usual.limitMm[pair as unknown as 12] * greatest) / usual.limitMm[14]),
  };
}
