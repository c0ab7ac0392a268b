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

const HEIGHT = 164;
const TOP = 20;
/** Room below for the names of the strings. */
const BOTTOM = 18;
const LEFT = 8;
const STRING_GAP = 28;
/** Fingers stand clear of the edge by this much, px. */
const MARGIN = 14;
/** mm of the scale beside it, by the size of the picture. */
const SCALES = [5, 10, 20, 50];

/** The strings under the hand, upright as in the track: the nut above, true to scale; each finger with ±10 cents as long as it is there. */
export function Fingerboard({ frame, words, person, noteId }: Props) {
  const { instrument } = person;
  const { lengthMm, strings } = instrument;
  const mms = frame.fingers.map(({ mm }) => mm).concat(frame.handMm);
  // The frame of the hand, with room for a half step beside it.
  const least = Math.max(0, Math.min(...mms) - spanMm(lengthMm, 0, 1));
  const most = Math.max(...mms) + spanMm(lengthMm, 0, 1);
  const scale = (HEIGHT - TOP - BOTTOM - MARGIN) / (most - least);
  const y = (mm: number) => TOP + (mm - least) * scale;
  const x = (string: number) => LEFT + STRING_GAP / 2 + (strings.length - string) * STRING_GAP;
  const right = LEFT + strings.length * STRING_GAP;
  const end = HEIGHT - BOTTOM;
  const ruler = SCALES.find((mm) => mm * scale >= 20) ?? 100;
  const own = frame.fingers.find((finger) => finger.noteIds.includes(noteId));
  const planned = words.fingers.find((finger) => finger.noteIds.includes(noteId));
  const label = frame.fingers.map(({ finger, string, mm }) => `${fingerName(finger)} on ${stringName(instrument, string)} at ${Math.round(mm)} mm`).join(', ');
  return (
    <figure className="grid grid-cols-[auto_1fr] gap-3">
      <svg width={right + 44} height={HEIGHT} className="block" role="img" aria-label={`Fingerboard, true to scale in mm from the nut: ${label}`}>
        <rect x={LEFT} y={TOP} width={right - LEFT} height={end - TOP} rx={6} fill="var(--spruce-pale)" />
        {halfStepsBetween(lengthMm, least, most).map((stop) => (
          <line
            key={stop}
            x1={LEFT}
            x2={right}
            y1={y(stopMm(lengthMm, stop))}
            y2={y(stopMm(lengthMm, stop))}
            stroke="var(--line)"
            strokeWidth={stop === 12 ? 2 : 1}
          />
        ))}
        {least === 0 && <line x1={LEFT} x2={right} y1={y(0)} y2={y(0)} stroke="var(--ink)" strokeWidth={3} />}
        {strings.map((_, i) => (
          <g key={i}>
            <line x1={x(i + 1)} x2={x(i + 1)} y1={TOP} y2={end} stroke="var(--soft)" strokeWidth={0.8 + i * 0.4} />
            <text x={x(i + 1)} y={HEIGHT - 4} fontSize={12} textAnchor="middle" fill="var(--soft)">
              {stringName(instrument, i + 1)}
            </text>
          </g>
        ))}
        <text x={LEFT} y={13} fontSize={12} fontWeight={600} fill="var(--spruce)">
          {frame.position}
        </text>
        {frame.fingers.map((finger) => (
          <Finger
            key={`${finger.string} ${finger.finger} ${finger.stop}`}
            x={x(finger.string)}
            y={y(finger.mm)}
            height={Math.max(1.5, finger.toleranceMm * scale)}
            name={fingerName(finger.finger)}
            looked={finger === own}
          />
        ))}
        <line x1={right + 6} x2={right + 6} y1={TOP} y2={TOP + ruler * scale} stroke="var(--ink)" strokeWidth={2} />
        <text x={right + 10} y={TOP + (ruler * scale) / 2 + 4} fontSize={12} fill="var(--soft)">
          {ruler} mm
        </text>
      </svg>
      <figcaption className="grid content-start gap-1 pt-4 text-[13px] text-soft">
        {planned && (
          <span>
            {fingerName(planned.finger)} lies {Math.round(planned.mm)} mm from the nut; the bars are ±10 cents, here {planned.toleranceMm.toFixed(1)} mm.
          </span>
        )}
        {words.words.length > 0 && (
          <details>
            <summary className="min-h-6 cursor-pointer">How the fingers lie</summary>
            {words.words.map((each) => (
              <span key={each} className="block">
                {each}
              </span>
            ))}
          </details>
        )}
      </figcaption>
    </figure>
  );
}

/** As long as what still sounds in tune. */
function Finger({ x, y, height, name, looked }: { x: number; y: number; height: number; name: string; looked: boolean }) {
  return (
    <g>
      {looked && <circle cx={x} cy={y} r={11} fill="none" stroke="var(--ink)" strokeWidth={1.5} />}
      <rect x={x - 8} y={y - height / 2} width={16} height={height} rx={1} fill="var(--spruce)" />
      <text x={x + 9} y={y + 4} fontSize={12} fontWeight={700} fill="var(--spruce)" stroke="var(--spruce-pale)" strokeWidth={3} paintOrder="stroke">
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
