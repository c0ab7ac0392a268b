import { memo } from 'react';
import type { Stroke } from '@/core/bow-arm/describe';
import type { DrawnStroke } from './bow-track';
import type { System } from './engraving';

const HEIGHT = 13;
/** Half the width of a sign. */
const HALF = 4;

/** As bow signs are printed: open below for a down-bow, a wedge for an up-bow. */
export const BOW_SIGNS: Readonly<Record<Stroke['direction'], string>> = {
  down: `M${-HALF} 11 V2.5 H${HALF} V11`,
  up: `M${-HALF} 2 L0 11 L${HALF} 2`,
};

interface Props {
  system: System;
  drawn: readonly DrawnStroke[];
  /** First notes of strokes whose direction is marked: those are engraved. */
  marked: ReadonlySet<string>;
}

/** Directions that are only planned, pale over the notes where each bow begins. */
export const PlannedBows = memo(function PlannedBows({ system, drawn, marked }: Props) {
  const planned = drawn.filter(({ stroke }) => system.heads[stroke.noteIds[0]!] && !marked.has(stroke.noteIds[0]!));
  return (
    <svg width={system.widthPx} height={HEIGHT} className="block" aria-hidden data-planned-bows={planned.length}>
      {planned.map(({ stroke, from }) => (
        <g key={stroke.noteIds[0]} transform={`translate(${from} 0)`}>
          <path d={BOW_SIGNS[stroke.direction]} fill="none" stroke="var(--rosin)" strokeWidth={1.3} opacity={0.65} />
          {stroke.direction === 'down' && <line x1={-HALF} x2={HALF} y1={3} y2={3} stroke="var(--rosin)" strokeWidth={2.4} opacity={0.65} />}
        </g>
      ))}
    </svg>
  );
});
