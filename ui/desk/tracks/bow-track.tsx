/** The bow: frog at the top, tip at the bottom, so that a down-bow goes down; the slope is the speed. */
import { memo } from 'react';
import type { Stroke } from '@/core/bow-arm/describe';
import type { DynamicLevel } from '@/core/score/score';
import type { System } from '../types';
import { LABEL_WIDTH, Row, textWidth } from './layout';

const HEIGHT = 64;
const TOP = 8;
const BOTTOM = 16;

const THICKNESS: Readonly<Record<DynamicLevel, number>> = { ppp: 1.2, pp: 1.5, p: 2, mp: 2.4, mf: 2.9, f: 3.6, ff: 4.4, fff: 5 };

export interface DrawnStroke {
  stroke: Stroke;
  from: number;
  to: number;
}

interface Props {
  system: System;
  strokes: readonly DrawnStroke[];
  marked: ReadonlySet<string>;
}

export const BowTrack = memo(function BowTrack({ system, strokes, marked }: Props) {
  const yOf = (place: number) => TOP + (HEIGHT - TOP - BOTTOM) * place;
  const end = system.widthPx - 4;
  const row = new Row();
  return (
    <svg
      width={system.widthPx}
      height={HEIGHT}
      className="block"
      role="img"
      aria-label={`Bow: ${strokes.length} strokes in this system; the table below says all of it.`}
    >
      <rect x={LABEL_WIDTH} y={yOf(0)} width={end - LABEL_WIDTH} height={yOf(1) - yOf(0)} rx={6} fill="var(--rosin-pale)" />
      <line x1={LABEL_WIDTH} x2={end} y1={yOf(0.5)} y2={yOf(0.5)} stroke="var(--line)" />
      <text x={0} y={yOf(0) + 6} fontSize={12} fill="var(--soft)">
        frog
      </text>
      <text x={0} y={yOf(1) + 2} fontSize={12} fill="var(--soft)">
        tip
      </text>
      {strokes.map(({ stroke, from, to }, i) => {
        const full = marked.has(stroke.noteIds[0]!);
        const before = strokes[i - 1];
        const y1 = yOf(stroke.from);
        const label = stroke.retake && stroke.retakeTime && stroke.direction === before?.stroke.direction ? 'retake' : stroke.hooked ? 'hook' : null;
        const labelFits = label !== null && row.claim({ from: from - textWidth(label) / 2, to: from + textWidth(label) / 2 });
        return (
          <g key={stroke.noteIds[0]}>
            {before && stroke.retake && (
              <line x1={before.to} y1={yOf(before.stroke.to)} x2={from} y2={y1} stroke="var(--rosin)" strokeWidth={1.2} strokeDasharray="3 3" />
            )}
            <line
              x1={from}
              y1={y1}
              x2={to}
              y2={yOf(stroke.to)}
              stroke="var(--rosin)"
              strokeWidth={THICKNESS[stroke.level]}
              strokeLinecap="round"
              opacity={full ? 1 : 0.72}
            />
            {stroke.hooked && <line x1={from} y1={y1 - 7} x2={from} y2={y1 + 7} stroke="var(--rosin)" strokeWidth={2} />}
            <circle cx={from} cy={y1} r={3.2} fill={full ? 'var(--rosin)' : 'var(--sheet)'} stroke="var(--rosin)" strokeWidth={1.5} />
            {labelFits && (
              <text x={from} y={HEIGHT - 2} fontSize={12} textAnchor="middle" fill="var(--rosin)">
                {label}
              </text>
            )}
          </g>
        );
      })}
    </svg>
  );
});
