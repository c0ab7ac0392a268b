'use client';

import { Button } from '@/ui/kit/button';
import { useState } from 'react';
import { markInWords } from '@/core/marking/in-words';
import type { Mark } from '@/core/marking/mark';
import { placeOfTarget } from '@/core/marking/notes';
import type { Whose } from '@/core/marking/rebase';
import { noteById } from '@/core/score/find';
import type { Passage } from '@/core/score/passages';
import { pitchName } from '@/core/score/pitch';
import type { Part } from '@/core/score/score';
import { pitchSigns } from '@/ui/kit/music';
import type { ClashedMark } from './marking-store';

const inWords = ({ kind }: ClashedMark, mark: Mark | null): string => (mark ? `${markInWords(kind, mark.value)}${mark.off ? ' (set aside)' : ''}` : 'unmarked');

function whereOf(part: Part | null, { target }: ClashedMark): string {
  const place = part && placeOfTarget(part, target);
  const note = part && noteById(part, target);
  if (!place) return 'a place of another edition';
  return `${place.at}${note ? ` ${pitchSigns(pitchName(note.written))}` : ''}`;
}

/** Marks that were changed here and elsewhere, each with both: the coach says whose stands. */
export function ClashNotice({ marks, part, onSettle }: { marks: readonly ClashedMark[]; part: Part | null; onSettle(whose: (key: string) => Whose): void }) {
  const [chosen, setChosen] = useState<Readonly<Record<string, Whose>>>({});
  const whose = (key: string): Whose => chosen[key] ?? 'mine';
  const all = (side: Whose) => setChosen(Object.fromEntries(marks.map(({ key }) => [key, side])));
  return (
    <section role="alert" aria-label="Changed elsewhere too" className="rounded-lg border border-plum bg-plum-pale px-3 py-2">
      <div className="flex flex-wrap items-center gap-2">
        <p className="min-w-0 flex-1 basis-64">
          {marks.length === 1 ? 'One mark was' : `${marks.length} marks were`} changed elsewhere too. Which shall stand?{' '}
          <span className="text-soft">Your other changes are not touched.</span>
        </p>
        {marks.length > 1 && (
          <>
            <Button small onClick={() => all('mine')}>
              All mine
            </Button>
            <Button small onClick={() => all('theirs')}>
              All theirs
            </Button>
          </>
        )}
        <Button look="spruce" small onClick={() => onSettle(whose)}>
          Store these
        </Button>
      </div>
      <ul className="mt-2 grid max-h-56 gap-1 overflow-y-auto">
        {marks.map((mark) => (
          <li key={mark.key}>
            <fieldset className="flex flex-wrap items-center gap-x-4 gap-y-1 rounded border border-line bg-sheet px-2 py-1">
              <legend className="float-left min-w-24 font-semibold">{whereOf(part, mark)}</legend>
              {(['mine', 'theirs'] as const).map((side) => (
                <label key={side} className="flex min-h-6 cursor-pointer items-center gap-1.5">
                  <input
                    type="radio"
                    name={mark.key}
                    checked={whose(mark.key) === side}
                    onChange={() => setChosen((before) => ({ ...before, [mark.key]: side }))}
                  />
                  <span className="text-soft">{side}:</span> {inWords(mark, mark[side])}
                </label>
              ))}
            </fieldset>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** The passages of this part were changed here and elsewhere. */
export function PassagesClash({ theirs, onSettle }: { theirs: readonly Passage[]; onSettle(whose: Whose): void }) {
  return (
    <section
      role="alert"
      aria-label="Passages changed elsewhere too"
      className="flex flex-wrap items-center gap-2 rounded-lg border border-plum bg-plum-pale px-3 py-2"
    >
      <p className="min-w-0 flex-1 basis-64">
        The passages were changed elsewhere too: there they are{' '}
        {theirs
          .slice(0, 5)
          .map(({ name }) => name)
          .join(', ')}
        {theirs.length > 5 ? ` and ${theirs.length - 5} more` : ''}.
      </p>
      <Button onClick={() => onSettle('mine')}>Mine</Button>
      <Button onClick={() => onSettle('theirs')}>Theirs</Button>
    </section>
  );
}
