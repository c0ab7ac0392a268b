import type { ReactNode } from 'react';

export function Row({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div role="group" aria-label={label} className="flex items-baseline gap-2">
      <span aria-hidden className="w-14 shrink-0 text-[13px] text-soft">
        {label}
      </span>
      <div className="flex grow flex-wrap gap-1">{children}</div>
    </div>
  );
}
