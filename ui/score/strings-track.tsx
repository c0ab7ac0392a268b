/** On which string the bow is: a band that steps from level to level, the highest string on top. Leaps and crossings inside a slur stand out. */
import { memo } from 'react';
import type { BowLevel } from '@/core/bow-arm/crossings';
import type { StringPattern } from '@/core/bow-arm/string-patterns';
import { stringName, type Instrument } from '@/core/instruments/instrument';
import { useHeights } from './heights';
import { LABEL_WIDTH, Row, textWidth } from './layout';
import type { System } from './engraving';

interface Props {
  system: System;
  instrument: Instrument;
  /** In playing order. */
  levels: readonly BowLevel[];
  patterns: readonly StringPattern[];
  /** The left hand is left out: the strings are what is played. */
  open: boolean;
}

/** Thickness of the band. */
const BAND = 6;
/** The name of a figure, over the band. */
const NAMES = 11;

export const StringsTrack = memo(function StringsTrack({ system, instrument, levels, patterns, open }: Props) {
  const height = useHeights().strings;
  const strings = instrument.strings.length;
  const drawn = levels.filter(({ noteId }) => system.heads[noteId]).map((each) => ({ ...each, x: system.heads[each.noteId]!.x }));
  const named = patterns.filter(({ from, to }) => system.heads[from] ?? system.heads[to]);
  const top = named.length ? NAMES + BAND : BAND;
  const yOf = (level: number) => top + ((height - top - BAND) * (level - 1)) / (strings - 1);
  const end = system.widthPx - 4;
  const crossings = drawn.filter(({ crossing }) => crossing);
  const leaps = crossings.filter(({ crossing }) => crossing!.leap).length;
  const inSlurs = crossings.filter(({ crossing }) => crossing!.inSlur).length;
  const row = new Row();
  const letters = new Row();
  return (
    <svg
      width={system.widthPx}
      height={height}
      className="block"
      role="img"
      aria-label={`Strings: ${crossings.length} crossings in this system, ${leaps} leaps, ${inSlurs} in slurs.${named.map(({ name }) => ` ${name}.`).join('')}`}
      data-crossings={crossings.length}
    >
      <text x={0} y={(top + height) / 2 + 2} fontSize={12} fill="var(--soft)">
        string
      </text>
      {drawn.map(({ noteId, level, x, crossing }, i) => {
        const next = drawn[i + 1];
        const to = next ? next.x : Math.min(end, x + 40);
        const y = yOf(level);
        return (
          <g key={noteId} data-leap={crossing?.leap || undefined} data-in-slur={crossing?.inSlur || undefined}>
            {crossing && i > 0 && <Step x={x} from={yOf(crossing.from)} to={y} leap={crossing.leap} inSlur={crossing.inSlur} />}
            <line x1={x} x2={to} y1={y} y2={y} stroke="var(--rosin)" strokeWidth={open ? BAND : BAND - 1.5} opacity={open ? 1 : 0.45} />
            {(i === 0 || crossing) && letters.claim({ from: x, to: x + 12 }) && (
              <text
                x={x + (crossing?.inSlur ? 6 : 3)}
                y={y + 4}
                fontSize={12}
                fontWeight={700}
                fill="var(--rosin)"
                stroke="var(--sheet)"
                strokeWidth={3}
                paintOrder="stroke"
              >
                {nameOf(instrument, level)}
              </text>
            )}
          </g>
        );
      })}
      {named.map(({ from, name, strings: over }) => {
        const x = system.heads[from]?.x ?? LABEL_WIDTH;
        const label = `${[...over]
          .reverse()
          .map((string) => nameOf(instrument, string))
          .join('–')} ${name}`;
        const at = Math.min(x, end - textWidth(label));
        return row.claim({ from: at, to: at + textWidth(label) }) ? (
          <text key={from} x={at} y={NAMES - 1} fontSize={12} fontWeight={600} fill="var(--rosin)">
            {label}
          </text>
        ) : null;
      })}
    </svg>
  );
});

/** The letter of a string; of a level between two, both. */
function nameOf(instrument: Instrument, level: number): string {
  if (Number.isInteger(level)) return stringName(instrument, level);
  return `${stringName(instrument, Math.ceil(level))}${stringName(instrument, Math.floor(level))}`;
}

/** From one level to the next: a leap is thick, a crossing inside a slur has a ring. */
function Step({ x, from, to, leap, inSlur }: { x: number; from: number; to: number; leap: boolean; inSlur: boolean }) {
  return (
    <>
      <line x1={x} x2={x} y1={from} y2={to} stroke="var(--rosin)" strokeWidth={leap ? 4 : 1.5} />
      {inSlur && <circle cx={x} cy={(from + to) / 2} r={3.2} fill="var(--sheet)" stroke="var(--rosin)" strokeWidth={1.6} />}
    </>
  );
}
