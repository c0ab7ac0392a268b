'use client';

import { useUnsent } from './browser';
import { saveState, type SaveState } from './state';

const WORDS: Readonly<Record<SaveState, string>> = {
  saved: 'saved',
  saving: 'saving …',
  waiting: 'not saved yet',
  'only here': 'only on this page',
  conflict: 'changed elsewhere',
  refused: 'not all saved',
};

const MORE: Readonly<Record<SaveState, string>> = {
  saved: 'Everything is stored by Omaggio.',
  saving: 'On its way to Omaggio.',
  waiting: 'Kept in this browser, also when it is closed; sent as soon as Omaggio answers.',
  'only here': 'Neither Omaggio nor this browser could store it: leave this page open.',
  conflict: 'The same was changed elsewhere: say whose stands.',
  refused: 'What could not be stored is set aside above the score.',
};

/** Where the changes of this browser are: stored, on their way, or kept here. */
export function SaveChip() {
  const state = saveState(useUnsent());
  return (
    <span
      role="status"
      className={`chip whitespace-nowrap ${state === 'saved' || state === 'saving' ? 'text-soft' : 'border-plum text-plum'}`}
      data-save={state}
      title={MORE[state]}
    >
      {WORDS[state]}
    </span>
  );
}
