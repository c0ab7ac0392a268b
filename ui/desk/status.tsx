'use client';

import { useDesk } from './model/desk';
import { statusText } from './model/status';

/** The line under the score. */
export function Status() {
  const { view, focus, chosen, marking, drawn } = useDesk();
  return (
    <p id="status" role="status" className="shrink-0 truncate border-t border-line bg-sheet px-3 py-1 text-[13px]">
      {statusText(view.open, focus, chosen, marking, focus && drawn.notes.find((note) => note.id === focus.id))}
    </p>
  );
}
