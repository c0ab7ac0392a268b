'use client';

import { useCallback, useRef, useState } from 'react';
import type { Stroke } from '@/core/bow-arm/describe';
import { changeTo, type Change } from '@/core/marking/change';
import { markKey, type Marking } from '@/core/marking/mark';
import type { BarRange } from '@/core/score/bars';
import type { Conditions } from '@/workers/questions';
import type { DraggedEnd } from '@/ui/score/bow-track';
import type { RemoteAnalyst } from '@/ui/part/use-analyst';

const percent = (place: number): string => `${Math.round(place * 100)} %`;

/**
 * The end of a stroke while it is dragged: the passage is planned anew for every place, as quickly as answers come. What
 * was dropped stays shown until the check has it too.
 */
export function useDraggedBow(
  analyst: RemoteAnalyst | null,
  conditions: Conditions,
  range: BarRange,
  report: unknown,
  onChange: (reason: string, changes: Change[]) => void,
) {
  const [tried, setTried] = useState<{ report: unknown; strokes: readonly Stroke[] } | null>(null);
  const busy = useRef(false);
  const next = useRef<DraggedEnd | null>(null);
  const active = useRef(false);

  const ask = useCallback(
    async (end: DraggedEnd): Promise<void> => {
      if (!analyst) return;
      busy.current = true;
      for (let asked: DraggedEnd | null = end; asked; asked = next.current) {
        next.current = null;
        const marking: Marking = { ...conditions.marking, [markKey(asked.noteId, 'bow-to')]: { value: percent(asked.place), origin: 'coach' } };
        const found = await analyst.triedBow({ ...conditions, marking }, range).catch(() => null);
        if (found && active.current) setTried({ report, strokes: found });
      }
      busy.current = false;
    },
    [analyst, conditions, range, report],
  );

  const drag = useCallback(
    (end: DraggedEnd | null) => {
      active.current = end !== null;
      if (!end) setTried(null);
      else if (busy.current) next.current = end;
      else void ask(end);
    },
    [ask],
  );

  const drop = useCallback(
    (end: DraggedEnd) => {
      active.current = false;
      next.current = null;
      const change = changeTo(conditions.marking, end.noteId, 'bow-to', { value: percent(end.place), origin: 'coach' });
      if (change) onChange(`The stroke ends at ${percent(end.place)} of the bow`, [change]);
      else setTried(null);
    },
    [conditions.marking, onChange],
  );

  return { strokes: tried?.report === report ? (tried?.strokes ?? null) : null, drag, drop };
}
