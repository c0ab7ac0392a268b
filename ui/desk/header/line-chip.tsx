'use client';

import { Select } from '@/ui/kit/select';
import { useDesk } from '../model/desk';

/** Which line of a divided part is planned. */
export function LineChip() {
  const { view, settings, setting } = useDesk();
  if (view.lines < 2) return null;
  return (
    <span className="chip">
      <span className="text-soft">line</span>
      <Select
        quiet
        label="Line of the divided part that is planned"
        className="chip-field"
        value={Math.min(settings.line, view.lines - 1)}
        options={Array.from({ length: view.lines }, (_, i) => [i, `${i + 1} of ${view.lines}`] as const)}
        onValue={(line) => setting({ line })}
      />
    </span>
  );
}
