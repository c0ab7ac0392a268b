'use client';

import type { Marking } from '@/core/marking/mark';
import { nameOf, useAnswer } from '@/ui/kit/queries';
import { askEngraving } from '@/ui/score/ask-engraving';

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
  const { value, problem } = useAnswer({
    key: ['bar', partId, barIndex, nameOf(marking)],
    ask: async (signal) => {
      const bar = { fromBar: barIndex, toBar: barIndex, widthPx: WIDTH, marking };
      const [system] = (await askEngraving(`/api/parts/${partId}/engraving`, bar, signal)).systems;
      return system ? { svg: system.svg, widthPx: (system.bars.at(-1)?.to ?? system.widthPx) + EDGE } : null;
    },
  });
  if (problem) return <p className="text-[13px] text-soft">Bar {label} could not be drawn.</p>;
  return value ? (
    <div
      className="engraving overflow-hidden"
      role="img"
      aria-label={`Bar ${label} as marked`}
      style={{ width: value.widthPx, zoom: Math.min(1, ROOM / value.widthPx) }}
      dangerouslySetInnerHTML={{ __html: value.svg }}
    />
  ) : (
    <p className="text-[13px] text-soft">…</p>
  );
}
