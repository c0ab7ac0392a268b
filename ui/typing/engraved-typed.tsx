'use client';

import type { RefObject } from 'react';
import { TextButton } from '@/ui/kit/button';
import type { TypedPassage } from '@/workers/server/tasks';
import type { TypedText } from './use-typed';

function describe(typed: TypedPassage): string {
  return typed.parts
    .map(({ name, instrument, bars, notes }) => `${name}${instrument ? '' : ' (instrument not known)'}: ${bars} ${bars === 1 ? 'bar' : 'bars'}, ${notes} notes`)
    .join('; ');
}

interface Props {
  typed: TypedText;
  box: RefObject<HTMLDivElement | null>;
  onPlace(line: number, column: number): void;
}

/** What is typed, engraved, and what of it was not understood. */
export function EngravedTyped({ typed: { shown, problem, ready }, box, onPlace }: Props) {
  return (
    <div className="grid min-w-0 content-start gap-2" aria-live="polite">
      <div
        ref={box}
        role="img"
        aria-label={ready && shown ? `Engraved: ${describe(shown)}` : 'Nothing engraved yet'}
        className="min-h-40 overflow-x-auto rounded-xl border border-line bg-paper p-2"
      >
        {shown?.engraving?.systems.map((system, i) => (
          <div key={i} className="engraving" dangerouslySetInnerHTML={{ __html: system.svg }} />
        ))}
      </div>
      {ready && shown && <p className="text-[13px] text-soft">{describe(shown)}</p>}
      {shown && shown.parts[0] && shown.barsEngraved < shown.parts[0].bars && (
        <p className="text-[13px] text-soft">The first {shown.barsEngraved} bars are shown here; all of them are taken in.</p>
      )}
      {problem && (
        <p role="alert" className="text-[13px] text-plum">
          {problem.place && <strong>{problem.place}: </strong>}
          {problem.what} {problem.remedy}
        </p>
      )}
      {shown && shown.problems.length > 0 && (
        <ul aria-label="What was not understood" className="grid max-h-44 gap-1 overflow-y-auto text-[13px]">
          {shown.problems.map((each, i) => (
            <li key={i}>
              <TextButton className="font-semibold text-plum" onClick={() => onPlace(each.line, each.column)}>
                line {each.line}, column {each.column}
              </TextButton>{' '}
              {each.text}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
