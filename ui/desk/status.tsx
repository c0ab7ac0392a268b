'use client';

import { useDesk } from './model/desk';
import { statusText } from './model/status';

/** The line under the score. */
export function Status() {
  const { view, focus, chosen, marking, drawn, onStrings } = useDesk();
  return (
    <p id="status" role="status" className="shrink-0 truncate border-t border-line bg-sheet px-3 py-1 text-[13px]">
      {onStrings && <strong className="text-rosin">On the open strings (o: back to the fingers) · </strong>}
      {statusText(view.open, focus, chosen, marking, focus && drawn.notes.find((note) => note.id === focus.id))}
    </p>
  );
}
