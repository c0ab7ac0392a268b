'use client';

import { useUnsent } from './browser';
import { saveState, type SaveState } from './state';

const WORDS: Readonly<Record<SaveState, string>> = {
  saved: 'saved',
  saving: 'saving …',
  waiting: 'not saved yet: kept in this browser',
  'only here': 'not saved, and only on this page: leave it open',
  conflict: 'changed elsewhere',
  refused: 'saved, but for what was refused',
};

/** Where the changes of this browser are: stored, on their way, or kept here. */
export function SaveChip() {
  const state = saveState(useUnsent());
  return (
    <span role="status" className={`chip ${state === 'saved' || state === 'saving' ? 'text-soft' : 'border-plum text-plum'}`} data-save={state}>
      {WORDS[state]}
    </span>
  );
}
