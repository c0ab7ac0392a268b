'use client';

import { spanMm, stopMm } from '@/core/instruments/geometry';
import { stringName } from '@/core/instruments/instrument';
import { fingerName, type Player } from '@/core/instruments/player';
import type { HandFrame } from '@/core/left-hand/frame';

interface Props {
  /** What is drawn; may be the hand of a choice that is pointed at. */
  frame: HandFrame;
  /** What is said: the hand as planned, so that nothing moves under the pointer. */
  words: HandFrame;
  person: Player;
  /** The finger that is looked at. */
  noteId: string;
}

const WIDTH = 272;
const LEFT = 18;
const STRING_GAP = 22;
const TOP = 26;
/** Fingers stand clear of the edge by this much, px. */
const MARGIN = 16;
/** mm of the scale below, by the size of the picture. */
const SCALES = [5, 10, 20, 50];

/** The strings under the hand, along their length true to scale; each finger with ±10 cents as wide as it is there. */
export function Fingerboard({ frame, words, person, noteId }: Props) {
  const { instrument } = person;
  const { lengthMm, strings } = instrument;
  const mms = frame.fingers.map(({ mm }) => mm).concat(frame.handMm);
  // The frame of the hand, with room for a half step beside it.
  const least = Math.max(0, Math.min(...mms) - spanMm(lengthMm, 0, 1));
  const most = Math.max(...mms) + spanMm(lengthMm, 0, 1);
  const scale = (WIDTH - LEFT - MARGIN) / (most - least);
  const x = (mm: number) => LEFT + (mm - least) * scale;
  const y = (string: number) => TOP + (strings.length - string) * STRING_GAP;
  const bottom = y(1) + 14;
  const ruler = SCALES.find((mm) => mm * scale >= 24) ?? 100;
  const own = frame.fingers.find((finger) => finger.noteIds.includes(noteId));
  const planned = words.fingers.find((finger) => finger.noteIds.includes(noteId));
  const label = frame.fingers.map(({ finger, string, mm }) => `${fingerName(finger)} on ${stringName(instrument, string)} at ${Math.round(mm)} mm`).join(', ');
  return (
    <figure className="grid gap-1">
      <svg viewBox={`0 0 ${WIDTH} ${bottom + 24}`} className="block w-full" role="img" aria-label={`Fingerboard, true to scale in mm from the nut: ${label}`}>
        <rect x={LEFT} y={TOP - 10} width={WIDTH - LEFT} height={bottom - TOP + 4} rx={6} fill="var(--spruce-pale)" />
        {halfStepsBetween(lengthMm, least, most).map((stop) => (
          <g key={stop}>
            <line
              x1={x(stopMm(lengthMm, stop))}
              x2={x(stopMm(lengthMm, stop))}
              y1={TOP - 10}
              y2={bottom - 6}
              stroke="var(--line)"
              strokeWidth={stop === 12 ? 2 : 1}
            />
          </g>
        ))}
        {least === 0 && <line x1={x(0)} x2={x(0)} y1={TOP - 10} y2={bottom - 6} stroke="var(--ink)" strokeWidth={3} />}
        {strings.map((_, i) => (
          <g key={i}>
            <line x1={LEFT} x2={WIDTH} y1={y(i + 1)} y2={y(i + 1)} stroke="var(--soft)" strokeWidth={0.8 + i * 0.4} />
            <text x={0} y={y(i + 1) + 4} fontSize={12} fill="var(--soft)">
              {stringName(instrument, i + 1)}
            </text>
          </g>
        ))}
        <text
          x={x(Math.max(least, frame.handMm))}
          y={11}
          fontSize={12}
          fontWeight={600}
          fill="var(--spruce)"
          textAnchor={frame.handMm <= least + 1 ? 'start' : 'middle'}
        >
          {frame.position}
        </text>
        {frame.fingers.map((finger) => (
          <Finger
            key={`${finger.string} ${finger.finger} ${finger.stop}`}
            x={x(finger.mm)}
            y={y(finger.string)}
            width={Math.max(1.5, finger.toleranceMm * scale)}
            name={fingerName(finger.finger)}
            looked={finger === own}
          />
        ))}
        <line x1={LEFT} x2={LEFT + ruler * scale} y1={bottom + 8} y2={bottom + 8} stroke="var(--ink)" strokeWidth={2} />
        <text x={LEFT + ruler * scale + 6} y={bottom + 12} fontSize={12} fill="var(--soft)">
          {ruler} mm
        </text>
      </svg>
      <figcaption className="grid gap-0.5 text-[13px] text-soft">
        {planned && (
          <span>
            {fingerName(planned.finger)} lies {Math.round(planned.mm)} mm from the nut; the bars are ±10 cents wide, here {planned.toleranceMm.toFixed(1)} mm.
          </span>
        )}
        {words.words.map((each) => (
          <span key={each}>{each}</span>
        ))}
      </figcaption>
    </figure>
  );
}

/** As wide as what still sounds in tune. */
function Finger({ x, y, width, name, looked }: { x: number; y: number; width: number; name: string; looked: boolean }) {
  return (
    <g>
      {looked && <circle cx={x} cy={y} r={11} fill="none" stroke="var(--ink)" strokeWidth={1.5} />}
      <rect x={x - width / 2} y={y - 8} width={width} height={16} rx={1} fill="var(--spruce)" />
      <text x={x + width / 2 + 3} y={y - 2} fontSize={12} fontWeight={700} fill="var(--spruce)" stroke="var(--spruce-pale)" strokeWidth={3} paintOrder="stroke">
        {name}
      </text>
    </g>
  );
}

/** Half steps above the open string whose places lie within the picture. */
function halfStepsBetween(lengthMm: number, least: number, most: number): number[] {
  const stops: number[] = [];
  for (let stop = 1; stop < 48 && stopMm(lengthMm, stop) <= most; stop++) if (stopMm(lengthMm, stop) > least) stops.push(stop);
  return stops;
}
