/**
 * The bow: frog at the top, tip at the bottom, so that a down-bow goes down; the slope is the speed, the thickness the
 * wanted loudness. The end of a stroke can be dragged to where it shall be.
 */
import { memo, useRef, useState, type PointerEvent } from 'react';
import type { Stroke } from '@/core/bow-arm/describe';
import type { DynamicLevel } from '@/core/score/score';
import type { System } from './engraving';
import { useHeights } from './heights';
import { LABEL_WIDTH, Row, textWidth } from './layout';

const TOP = 8;
/** Below the tip: what is done there, in words. */
const BOTTOM = 16;

/** From a place on the bow, 0 frog to 1 tip, to its height in the track, and back. */
export const bowScale = (height: number) => ({
  yOf: (place: number): number => TOP + (height - TOP - BOTTOM) * place,
  placeAt: (y: number): number => Math.min(1, Math.max(0, (y - TOP) / (height - TOP - BOTTOM))),
});

const THICKNESS: Readonly<Record<DynamicLevel, number>> = { ppp: 1.2, pp: 1.5, p: 2, mp: 2.4, mf: 2.9, f: 3.6, ff: 4.4, fff: 5 };

export interface DrawnStroke {
  stroke: Stroke;
  from: number;
  to: number;
  /** Shares of the stroke between which it is drawn here: 0 and 1, but where it goes on from the system before or in the next. */
  begins: number;
  ends: number;
}

/** The bow at a share of a stroke. */
const placeOn = ({ from, to }: Stroke, share: number): number => from + (to - from) * share;

/** What dragging an end says: the stroke by its first note, and the place. */
export interface DraggedEnd {
  noteId: string;
  place: number;
}

interface Props {
  system: System;
  strokes: readonly DrawnStroke[];
  marked: ReadonlySet<string>;
  /** First notes of strokes that lie under the selected note. */
  focus: string | null;
  onDrag(end: DraggedEnd | null): void;
  onDrop(end: DraggedEnd): void;
}

export const BowTrack = memo(function BowTrack({ system, strokes, marked, focus, onDrag, onDrop }: Props) {
  const height = useHeights().bow;
  const { yOf: bowY } = bowScale(height);
  const end = system.widthPx - 4;
  const row = new Row();
  return (
    <svg
      width={system.widthPx}
      height={height}
      className="block touch-pan-y"
      role="img"
      aria-label={`Bow: ${strokes.length} strokes in this system; the table below says all of it. Ends can be dragged, or set under Choices, Bow.`}
    >
      <rect x={LABEL_WIDTH} y={bowY(0)} width={end - LABEL_WIDTH} height={bowY(1) - bowY(0)} rx={6} fill="var(--rosin-pale)" />
      <line x1={LABEL_WIDTH} x2={end} y1={bowY(0.5)} y2={bowY(0.5)} stroke="var(--line)" />
      <text x={0} y={bowY(0) + 6} fontSize={12} fill="var(--soft)">
        frog
      </text>
      <text x={0} y={bowY(1) + 2} fontSize={12} fill="var(--soft)">
        tip
      </text>
      {strokes.map((drawn) => (
        <Wish key={`wish ${drawn.stroke.noteIds[0]}`} drawn={drawn} />
      ))}
      {strokes.map((drawn, i) => {
        const { stroke, from, begins } = drawn;
        const full = marked.has(stroke.noteIds[0]!);
        const before = strokes[i - 1];
        const y1 = bowY(placeOn(stroke, begins));
        const lifted = begins === 0 && stroke.retake && stroke.retakeTime && stroke.direction === before?.stroke.endDirection;
        const label = lifted ? 'retake' : stroke.hooked && begins === 0 ? 'hook' : null;
        const labelFits = label !== null && row.claim({ from: from - textWidth(label) / 2, to: from + textWidth(label) / 2 });
        const chosen = focus !== null && stroke.noteIds.includes(focus);
        return (
          <g key={stroke.noteIds[0]}>
            {before && begins === 0 && stroke.retake && (
              <line x1={before.to} y1={bowY(before.stroke.endsAt)} x2={from} y2={y1} stroke="var(--rosin)" strokeWidth={1.2} strokeDasharray="3 3" />
            )}
            <path
              d={pathOf(drawn, bowY)}
              fill="none"
              stroke="var(--rosin)"
              strokeWidth={THICKNESS[stroke.level]}
              strokeLinecap="round"
              strokeLinejoin="round"
              opacity={full ? 1 : 0.72}
            />
            {stroke.hooked && begins === 0 && <line x1={from} y1={y1 - 7} x2={from} y2={y1 + 7} stroke="var(--rosin)" strokeWidth={2} />}
            {begins === 0 && (
              <circle cx={from} cy={y1} r={chosen ? 4.4 : 3.2} fill={full ? 'var(--rosin)' : 'var(--sheet)'} stroke="var(--rosin)" strokeWidth={1.5} />
            )}
            {!stroke.feasible && row.claim({ from: from + 8, to: from + 20 }) && (
              <text x={from + 10} y={height - 3} fontSize={12} fontWeight={700} fill="var(--plum)">
                !<title>Too little bow or time here</title>
              </text>
            )}
            {labelFits && (
              <text x={from} y={height - 3} fontSize={12} textAnchor="middle" fill="var(--rosin)">
                {label}
              </text>
            )}
          </g>
        );
      })}
      {strokes
        .filter(({ ends }) => ends === 1)
        .map((drawn) => (
          <EndHandle key={`end ${drawn.stroke.noteIds[0]}`} drawn={drawn} onDrag={onDrag} onDrop={onDrop} />
        ))}
    </svg>
  );
});

/** A plain stroke is a line; a tremolo goes there and back as often as it is played, at most as often as can be seen. */
function pathOf({ stroke, from, to, begins, ends }: DrawnStroke, bowY: (place: number) => number): string {
  if (stroke.strokes === 1)
    return `M${from.toFixed(1)} ${bowY(placeOn(stroke, begins)).toFixed(1)} L${to.toFixed(1)} ${bowY(placeOn(stroke, ends)).toFixed(1)}`;
  const count = Math.max(2, Math.min(stroke.strokes || Infinity, Math.floor((to - from) / 5)));
  const points = Array.from(
    { length: count + 1 },
    (_, i) => `${(from + ((to - from) * i) / count).toFixed(1)} ${bowY(i % 2 ? stroke.to : stroke.from).toFixed(1)}`,
  );
  return `M${points.join(' L')}`;
}

/** Where the coach wishes the stroke: a shaded part of the bow, a small triangle for a beginning or an end. */
function Wish({ drawn: { stroke, from, to, begins, ends } }: { drawn: DrawnStroke }) {
  const { yOf: bowY } = bowScale(useHeights().bow);
  const { wish } = stroke;
  if (!wish) return null;
  const mark = (x: number, place: { from: number; to: number }, pointing: 1 | -1) => {
    const y = bowY((place.from + place.to) / 2);
    return <path d={`M${x} ${y - 5} L${x + 6 * pointing} ${y} L${x} ${y + 5} Z`} fill="none" stroke="var(--rosin)" strokeWidth={1.2} />;
  };
  return (
    <g>
      {wish.zone && (
        <rect
          x={from}
          y={bowY(wish.zone.from)}
          width={Math.max(2, to - from)}
          height={bowY(wish.zone.to) - bowY(wish.zone.from)}
          fill="var(--rosin)"
          opacity={0.16}
          data-wish="zone"
        />
      )}
      {wish.from && begins === 0 && mark(from - 9, wish.from, 1)}
      {wish.to && ends === 1 && mark(to + 3, wish.to, -1)}
    </g>
  );
}

/** The end of a stroke, to be taken with the pointer. */
function EndHandle({ drawn: { stroke, to }, onDrag, onDrop }: { drawn: DrawnStroke } & Pick<Props, 'onDrag' | 'onDrop'>) {
  const { yOf: bowY, placeAt: placeAtY } = bowScale(useHeights().bow);
  const [place, setPlace] = useState<number | null>(null);
  const top = useRef(0);
  /** Where it ended when it was taken hold of: the plan follows the hand, so that the stroke soon ends where it is dragged to. */
  const began = useRef(0);
  const noteId = stroke.noteIds[0]!;
  const at = (event: PointerEvent<SVGCircleElement>) => Math.round(placeAtY(event.clientY - top.current) * 100) / 100;
  return (
    <g>
      {place !== null && (
        <text x={to - 8} y={Math.max(12, bowY(place) - 8)} fontSize={12} textAnchor="end" fontWeight={700} fill="var(--rosin)">
          {Math.round(place * 100)} %
        </text>
      )}
      <circle
        cx={to - 3}
        cy={bowY(place ?? stroke.to)}
        r={place === null ? 9 : 5}
        fill={place === null ? 'transparent' : 'var(--rosin)'}
        className="cursor-ns-resize"
        data-end={noteId}
        onPointerDown={(event) => {
          if (event.button !== 0) return;
          event.preventDefault();
          event.currentTarget.setPointerCapture(event.pointerId);
          top.current = event.currentTarget.ownerSVGElement!.getBoundingClientRect().top;
          began.current = stroke.to;
          setPlace(at(event));
        }}
        onPointerMove={(event) => {
          if (place === null) return;
          const now = at(event);
          if (now === place) return;
          setPlace(now);
          onDrag({ noteId, place: now });
        }}
        onPointerUp={(event) => {
          if (place === null) return;
          setPlace(null);
          const now = at(event);
          // A click that moved nothing is no wish.
          if (Math.abs(now - began.current) >= 0.02) onDrop({ noteId, place: now });
          else onDrag(null);
        }}
        onPointerCancel={() => {
          setPlace(null);
          onDrag(null);
        }}
      >
        <title>Drag to say where this stroke ends</title>
      </circle>
    </g>
  );
}
