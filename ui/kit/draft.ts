'use client';

import { useEffect, useState } from 'react';

const PLACE = 'omaggio.draft.';

/** What is half written under a name: it is there again after going elsewhere or a reload, until it is let go. */
export function useDraft<T extends object>(name: string): [draft: T | null, set: (draft: T | null) => void] {
  const [draft, setDraft] = useState<T | null>(null);
  useEffect(() => {
    // The server knows of no drafts: the page comes to life without one.
    // eslint-disable-next-line react-hooks/set-state-in-effect
    setDraft(kept<T>(name));
  }, [name]);
  return [
    draft,
    (next) => {
      setDraft(next);
      try {
        if (next) localStorage.setItem(PLACE + name, JSON.stringify(next));
        else localStorage.removeItem(PLACE + name);
      } catch {
        // Where the browser keeps nothing it stays in this page.
      }
    },
  ];
}

function kept<T>(name: string): T | null {
  try {
    return JSON.parse(localStorage.getItem(PLACE + name) ?? 'null') as T | null;
  } catch {
    return null;
  }
}
