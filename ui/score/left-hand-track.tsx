/** The left hand: height is the distance along the string in mm, nut at the top, to scale. */
import { memo } from 'react';
import { stopMm } from '@/core/instruments/geometry';
import { stringName, type Instrument } from '@/core/instruments/instrument';
import { fingerName } from '@/core/instruments/player';
import type { FingeredNote } from '@/core/left-hand/fingering';
import type { System } from './engraving';
import { useHeights } from './heights';
import { LABEL_WIDTH, Row, textWidth } from './layout';
import { stringLetters } from './string-letters';

/** Above the nut: the names of the positions. */
const TOP = 23;
/** Their baseline. */
const NAME_Y = 11;
/** Below the deepest finger: the shifts. */
const BOTTOM = 16;

interface Props {
  system: System;
  /** In playing order. */
  notes: readonly FingeredNote[];
  instrument: Instrument;
  /** Ids whose finger is marked: drawn in full, the plan pale. */
  marked: ReadonlySet<string>;
  selected: string | null;
}

interface Band {
  handMm: number;
  farMm: number;
  from: number;
  to: number;
  position: string | null;
}

export const LeftHandTrack = memo(function LeftHandTrack({ system, notes, instrument, marked, selected }: Props) {
  const height = useHeights().hand;
  const { fingers, fans, radius, octaveMm, yOf } = placedFingers(system, notes, instrument, height);
  const drawn = fingers.map(({ note }) => note);
  const headX = (note: FingeredNote) => system.heads[note.id]!.x;
  const bands = bandsOf(drawn, instrument, headX);
  const end = system.widthPx - 4;
  const names = positionNames(bands, end);
  const crossed = fingers.filter(({ note }, i) => drawn[i - 1]?.place.string !== note.place.string && !fans.has(note.id));
  const letters = stringLetters(
    crossed.map(({ note, x, y }) => ({ x, y, open: note.place.finger === 0 })),
    fingers,
    radius,
    names.map(({ position, x }) => ({ from: x, to: x + textWidth(position), top: NAME_Y - 9, bottom: NAME_Y + 2 })),
  );
  const shifts = drawn.filter((note) => note.shift && note.shift.mm >= 1).sort((a, b) => b.shift!.bitsPerS - a.shift!.bitsPerS);
  return (
    <svg
      width={system.widthPx}
      height={height}
      className="block"
      role="img"
      aria-label={`Left hand: ${shifts.length} shifts in this system; the table below says all of it.`}
    >
      <line x1={LABEL_WIDTH} x2={end} y1={yOf(0)} y2={yOf(0)} stroke="var(--soft)" strokeWidth={1.5} />
      <line x1={LABEL_WIDTH} x2={end} y1={yOf(octaveMm)} y2={yOf(octaveMm)} stroke="var(--line)" strokeDasharray="4 4" />
      <text x={0} y={yOf(0) + 4} fontSize={12} fill="var(--soft)">
        nut
      </text>
      <text x={0} y={yOf(octaveMm) + 4} fontSize={12} fill="var(--soft)">
        octave
      </text>
      {bands.map((band, i) => (
        <HandBand key={i} band={band} before={bands[i - 1]} yOf={yOf} />
      ))}
      {names.map(({ position, x }) => (
        <text key={x} x={x} y={NAME_Y} fontSize={12} fill="var(--spruce)" fontWeight={600}>
          {position}
        </text>
      ))}
      <ShiftLabels shifts={shifts} end={end} xOf={(note) => headX(note) + (fans.get(note.id) ?? 0)} />
      {fingers.map(({ note, x, y }, i) => {
        const covers = note.covered && !drawn.slice(Math.max(0, i - 4), i).some((other) => note.covered!.includes(other.id));
        return (
          <g key={note.id}>
            {note.id === selected && <circle cx={x} cy={y} r={radius + 4} fill="none" stroke="var(--ink)" strokeWidth={1.5} />}
            <FingerHead x={x} y={y} r={radius} note={note} full={marked.has(note.id)} />
            {covers && <path d={`M${x - radius - 3} ${y - 7} h-4 v14 h4`} fill="none" stroke="var(--spruce)" strokeWidth={1.5} />}
          </g>
        );
      })}
      {crossed.map(({ note }, i) => (
        <text key={note.id} x={letters[i]!.x} y={letters[i]!.y} fontSize={12} textAnchor="middle" fill="var(--spruce)">
          {stringName(instrument, note.place.string)}
        </text>
      ))}
    </svg>
  );
});

/** A stretch in which the hand stays, and the slope to it from the one before. */
function HandBand({ band, before, yOf }: { band: Band; before: Band | undefined; yOf(mm: number): number }) {
  return (
    <g>
      {before && (
        <polygon
          points={`${before.to},${yOf(before.handMm)} ${band.from},${yOf(band.handMm)} ${band.from},${yOf(band.farMm)} ${before.to},${yOf(before.farMm)}`}
          fill="var(--spruce)"
          opacity={0.32}
        />
      )}
      <rect
        x={band.from}
        y={yOf(band.handMm) - 3}
        width={Math.max(4, band.to - band.from)}
        height={yOf(band.farMm) - yOf(band.handMm) + 6}
        rx={6}
        fill="var(--spruce-pale)"
      />
    </g>
  );
}

/** Names of positions, as far as there is room for them. */
function positionNames(bands: readonly Band[], end: number): Array<{ position: string; x: number }> {
  const row = new Row();
  return bands.flatMap(({ position, from }) => {
    if (!position) return [];
    const x = Math.min(from + 2, end - textWidth(position));
    return row.claim({ from: x, to: x + textWidth(position) }) ? [{ position, x }] : [];
  });
}

/** How far and in what time, the hardest first where there is no room for all. */
function ShiftLabels({ shifts, end, xOf }: { shifts: readonly FingeredNote[]; end: number; xOf(note: FingeredNote): number }) {
  const height = useHeights().hand;
  const row = new Row();
  return shifts.map((note) => {
    const { mm, gapMs } = note.shift!;
    const label = `${Math.round(mm)} mm in ${gapMs >= 2000 ? 'the rest' : `${(gapMs / 1000).toFixed(2)} s`}`;
    const width = textWidth(label);
    const x = Math.max(LABEL_WIDTH, Math.min(end - width, xOf(note) - width / 2));
    return row.claim({ from: x, to: x + width }) ? (
      <text key={note.id} x={x} y={height - 2} fontSize={12} fontWeight={600} fill="var(--spruce)">
        {label}
      </text>
    ) : null;
  });
}

/** A finger with its number: full where it is marked, pale where it is planned; a harmonic is a diamond. */
function FingerHead({ x, y, r, note: { place }, full }: { x: number; y: number; r: number; note: FingeredNote; full: boolean }) {
  const open = place.finger === 0;
  const fill = full && !open ? 'var(--spruce)' : 'var(--sheet)';
  return (
    <>
      {place.harmonic !== null ? (
        <rect x={x - r} y={y - r} width={r * 2} height={r * 2} transform={`rotate(45 ${x} ${y})`} fill={fill} stroke="var(--spruce)" strokeWidth={1.5} />
      ) : (
        <circle cx={x} cy={y} r={r} fill={fill} stroke="var(--spruce)" strokeWidth={full ? 2 : 1.2} strokeDasharray={full || open ? undefined : '2.5 1.5'} />
      )}
      <text x={x} y={y + 4} fontSize={12} fontWeight={700} textAnchor="middle" fill={full && !open ? 'var(--sheet)' : 'var(--spruce)'}>
        {fingerName(place.finger)}
      </text>
    </>
  );
}

/** Where every finger of a system is drawn, px. */
export function placedFingers(system: System, notes: readonly FingeredNote[], { lengthMm }: Instrument, height: number) {
  const drawn = notes.filter((note) => system.heads[note.id]);
  const deepest = drawn.reduce((most, note) => Math.max(most, stopMm(lengthMm, note.place.stop)), 0);
  const octaveMm = lengthMm / 2;
  const mostMm = Math.max(deepest + 12, octaveMm);
  const yOf = (mm: number) => TOP + ((height - TOP - BOTTOM) * mm) / mostMm;
  const headX = (note: FingeredNote) => system.heads[note.id]!.x;
  const gaps = drawn
    .slice(1)
    .map((note, i) => headX(note) - headX(drawn[i]!))
    .filter((gap) => gap > 4);
  const radius = gaps.some((gap) => gap < 17) ? 6.5 : 8.5;
  const fans = chordFans(drawn, radius);
  const fingers = drawn.map((note) => ({ note, x: headX(note) + (fans.get(note.id) ?? 0), y: yOf(stopMm(lengthMm, note.place.stop)) }));
  return { fingers, fans, radius, octaveMm, yOf };
}

/** Notes of a chord stand side by side, lowest string left, so that none hides another: px from the note head. */
function chordFans(notes: readonly FingeredNote[], radius: number): Map<string, number> {
  const byEvent = new Map<number, FingeredNote[]>();
  for (const note of notes) byEvent.set(note.event, [...(byEvent.get(note.event) ?? []), note]);
  const fans = new Map<string, number>();
  for (const chord of byEvent.values()) {
    if (new Set(chord.map((note) => note.place.string)).size < 2) continue;
    const sorted = [...chord].sort((a, b) => b.place.string - a.place.string);
    sorted.forEach((note, i) => fans.set(note.id, (i - (sorted.length - 1) / 2) * radius * 1.4));
  }
  return fans;
}

/** Half steps from the first to the last finger of the plain hand (common practice). */
const FRAME: Readonly<Record<Instrument['kind'], number>> = { violin: 5, viola: 5, cello: 3, bass: 2 };

/** Stretches in which the hand stays where it is; open strings do not end one. */
function bandsOf(notes: readonly FingeredNote[], instrument: Instrument, xOf: (note: FingeredNote) => number): Band[] {
  const bands: Band[] = [];
  for (const note of notes) {
    const { place } = note;
    if (place.finger === 0) continue;
    const x = xOf(note);
    const last = bands.at(-1);
    const ownMm = stopMm(instrument.lengthMm, place.stop);
    if (last && Math.abs(last.handMm - place.handMm) < 0.5) {
      last.to = x + 11;
      last.farMm = Math.max(last.farMm, ownMm);
      continue;
    }
    const hand = place.hand ?? place.stop;
    bands.push({
      handMm: place.handMm,
      farMm: Math.max(ownMm, stopMm(instrument.lengthMm, hand + FRAME[instrument.kind])),
      from: Math.max(x - 11, (last?.to ?? 0) + 2),
      to: x + 11,
      position: place.position,
    });
  }
  return bands;
}
