import type { ReactNode } from 'react';

/** Where there is nothing yet: what would be here, and how it comes to be. */
export function Empty({ children }: { children: ReactNode }) {
  return <p className="text-[13px] text-soft">{children}</p>;
}
