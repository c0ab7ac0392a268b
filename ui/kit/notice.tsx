import type { ReactNode } from 'react';

/** What was done, or is to be known, until it is answered or something else is done; what can be done about it beside it. */
export function Notice({ children, actions }: { children: ReactNode; actions?: ReactNode }) {
  return (
    <div role="status" className="flex items-center gap-3 rounded-lg border border-line bg-sheet px-3 py-2">
      <p className="grow">{children}</p>
      {actions}
    </div>
  );
}
