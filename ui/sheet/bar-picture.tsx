'use client';

import { useEffect, useState } from 'react';
import type { Marking } from '@/core/marking/mark';
import { sendJson } from '@/ui/kit/problem';
import type { Engraving } from '@/workers/server/engraver';

interface Props {
  partId: string;
  barIndex: number;
  label: string;
  marking: Marking;
}

/** Wide enough for a bar of sixteenths at the size of the sheet. */
const WIDTH = 340;
/** Beside the words there is room for so much. */
const ROOM = 168;
const EDGE = 4;

/** One bar with its marks, as the player sees it. */
export function BarPicture({ partId, barIndex, label, marking }: Props) {
  const [drawn, setDrawn] = useState<{ svg: string; widthPx: number } | null>(null);
  const [failed, setFailed] = useState(false);
  useEffect(() => {
    const abort = new AbortController();
    void (async () => {
      const response = await sendJson('POST', `/api/parts/${partId}/engraving`, { fromBar: barIndex, toBar: barIndex, widthPx: WIDTH, marking }, abort.signal);
      if (abort.signal.aborted) return;
      if (!response?.ok) return setFailed(true);
      const engraving = (await response.json()) as Engraving;
      const [system] = engraving.systems;
      if (!abort.signal.aborted && system) setDrawn({ svg: system.svg, widthPx: (system.bars.at(-1)?.to ?? system.widthPx) + EDGE });
    })();
    return () => abort.abort();
  }, [partId, barIndex, marking]);
  if (failed) return <p className="text-[13px] text-soft">Bar {label} could not be drawn.</p>;
  return drawn ? (
    <div
      className="engraving overflow-hidden"
      role="img"
      aria-label={`Bar ${label} as marked`}
      style={{ width: drawn.widthPx, zoom: Math.min(1, ROOM / drawn.widthPx) }}
      dangerouslySetInnerHTML={{ __html: drawn.svg }}
    />
  ) : (
    <p className="text-[13px] text-soft">…</p>
  );
}
