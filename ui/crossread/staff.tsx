'use client';

import { memo } from 'react';
import type { Foreign } from '@/core/ensemble/in-chord';
import type { StaffNote, StaffRest } from '@/core/ensemble/staff';
import { nameOf, useAnswer } from '@/ui/kit/queries';
import type { BarShown, StaffShown } from '@/workers/score-questions';
import { GLYPHS, UNITS_PER_SPACE, type Glyph } from './glyphs';
import { NAME_PX, xOf, type Chunk } from './layout';
import { useCrossreadModel } from './model/use-crossread';

/** Px between two lines of the staff, and of the whole row. */
const SPACE = 7;
export const STAFF_PX = 112;
const MIDDLE_Y = 52;
/** Where signs for foreign notes stand. */
const FOREIGN_Y = STAFF_PX - 8;

/** Letters, so that it is said without colour: leaning, suspended, passing … */
const LETTERS: Readonly<Record<Foreign, string>> = {
  leaning: 'l',
  suspended: 's',
  passing: 'p',
  neighbour: 'n',
  escaping: 'e',
  anticipated: 'a',
  pedal: 'o',
  foreign: '?',
};
const WORDS: Readonly<Record<Foreign, string>> = {
  leaning: 'leaning note',
  suspended: 'suspended from the chord before',
  passing: 'passing note',
  neighbour: 'neighbour',
  escaping: 'escaping note',
  anticipated: 'anticipated',
  pedal: 'stays while the chords change',
  foreign: 'foreign to the chord',
};

interface Drawn {
  bars: readonly BarShown[];
  chunks: readonly Chunk[];
  pxPerQuarter: number;
}

/** The notes of the lane in focus, each moment under the same moment of the other lanes; what is foreign to the chord has a letter. */
export function FocusStaff({ partId, bars, chunks, pxPerQuarter, above }: Drawn & { partId: string; /** Px of the strokes over it. */ above: number }) {
  const { shown, staff } = useCrossreadModel();
  const answer = useAnswer({ key: ['staff', partId, nameOf(shown!.chords)], ask: () => staff(partId), keep: true });
  if (!answer.value) return <span className="absolute bottom-2 left-2 text-xs text-soft">{answer.problem ? answer.problem.what : 'Reading the notes …'}</span>;
  const first = bars[chunks[Math.min(1, chunks.length - 1)]?.fromBar ?? 0]?.onset ?? 0;
  const inForce = answer.value.line.clefs.findLast(({ tick }) => tick <= first)?.clef;
  return (
    <>
      {chunks.map((chunk) => (
        <StaffPiece key={chunk.fromBar} staff={answer.value!} bars={bars} chunk={chunk} pxPerQuarter={pxPerQuarter} />
      ))}
      {inForce && (
        // The clef stays where the staff comes into view.
        <svg aria-hidden className="sticky z-[5] bg-sheet" style={{ left: NAME_PX, marginTop: above }} width={20} height={STAFF_PX}>
          <Sign glyph={clefGlyph(inForce.sign)} x={2} y={clefY(inForce.sign, inForce.line)} scale={0.9} />
        </svg>
      )}
    </>
  );
}

const clefGlyph = (sign: string): Glyph => (sign === 'C' ? 'cClef' : sign === 'F' ? 'fClef' : 'gClef');

const within = (onset: number, from: number, to: number): boolean => onset >= from && onset < to;

const StaffPiece = memo(function StaffPiece({
  staff,
  bars,
  chunk,
  pxPerQuarter,
}: {
  staff: StaffShown;
  bars: readonly BarShown[];
  chunk: Chunk;
  pxPerQuarter: number;
}) {
  const { clefs, notes, rests } = staff.line;
  const [from, to] = [bars[chunk.fromBar]!.onset, bars[chunk.toBar]!.onset + bars[chunk.toBar]!.ticks];
  const x = (tick: number) => xOf(tick, pxPerQuarter) - chunk.from;
  const own = notes.filter(({ onset }) => within(onset, from, to));
  const changes = clefs.filter(({ tick }) => tick > 0 && within(tick, from, to));
  const foreign = new Map(staff.foreign.map(({ id, what }) => [id, what]));
  return (
    <svg aria-hidden className="absolute bottom-0 overflow-visible" style={{ left: chunk.from }} width={chunk.to - chunk.from} height={STAFF_PX}>
      {[-2, -1, 0, 1, 2].map((line) => (
        <line key={line} x1={0} x2={chunk.to - chunk.from} y1={MIDDLE_Y + line * SPACE} y2={MIDDLE_Y + line * SPACE} stroke="var(--soft)" strokeWidth={0.75} />
      ))}
      {bars.slice(chunk.fromBar, chunk.toBar + 1).map(({ onset }) => (
        <line key={onset} x1={x(onset)} x2={x(onset)} y1={MIDDLE_Y - 2 * SPACE} y2={MIDDLE_Y + 2 * SPACE} stroke="var(--soft)" />
      ))}
      {changes.map(({ tick, clef }) => (
        <Sign key={tick} glyph={clefGlyph(clef.sign)} x={x(tick) - 14} y={clefY(clef.sign, clef.line)} scale={0.75} faint />
      ))}
      {rests
        .filter(({ onset }) => within(onset, from, to))
        .map((rest) => (
          <Rest key={rest.onset} rest={rest} x={x(rest.onset)} />
        ))}
      {own.map((note) => (
        <Note key={note.id} note={note} x={x(note.onset)} />
      ))}
      <Beams notes={own} x={x} />
      {own.map(({ id, onset }) => {
        const what = foreign.get(id);
        return (
          what && (
            <text key={id} x={x(onset) + 1} y={FOREIGN_Y} fontSize={11} fill="var(--plum)" fontStyle="italic">
              <title>{WORDS[what]}</title>
              {LETTERS[what]}
            </text>
          )
        );
      })}
    </svg>
  );
});

/** The line that a clef stands on: the lowest line is the first. */
function clefY(sign: string, line: number): number {
  const usual = sign === 'C' ? 3 : sign === 'F' ? 4 : 2;
  return MIDDLE_Y + (3 - (line || usual)) * SPACE;
}

const yOf = (place: number): number => MIDDLE_Y - (place * SPACE) / 2;

function Sign({ glyph, x, y, scale = 1, faint = false }: { glyph: Glyph; x: number; y: number; scale?: number; faint?: boolean }) {
  const size = (SPACE / UNITS_PER_SPACE) * scale;
  return <path d={GLYPHS[glyph]} transform={`translate(${x} ${y}) scale(${size} ${-size})`} fill={faint ? 'var(--soft)' : 'var(--ink)'} />;
}

const HEAD_WIDTH = 1.18 * SPACE;
const STEM = 3.4 * SPACE;
const SIGNS: Readonly<Record<number, Glyph>> = { [-2]: 'doubleFlat', [-1]: 'flat', 0: 'natural', 1: 'sharp', 2: 'doubleSharp' };

const headOf = (value: number): Glyph => (value <= 1 ? 'wholeHead' : value === 2 ? 'halfHead' : 'blackHead');
const extent = ({ heads }: StaffNote): [top: number, bottom: number] => {
  const places = heads.map(({ place }) => place);
  return [yOf(Math.max(...places)), yOf(Math.min(...places))];
};
const stemX = ({ stem }: StaffNote, x: number): number => (stem === 'up' ? x + HEAD_WIDTH - 0.5 : x + 0.5);
const stemEnd = (note: StaffNote): number => {
  const [top, bottom] = extent(note);
  return note.stem === 'up' ? Math.min(top - STEM, MIDDLE_Y) : Math.max(bottom + STEM, MIDDLE_Y);
};

function Note({ note, x }: { note: StaffNote; x: number }) {
  const { heads, value, dots, stem, beam, small } = note;
  const [top, bottom] = extent(note);
  const flag = stem && beam === null && value >= 8 ? (`flag${Math.min(32, value)}${stem === 'up' ? 'Up' : 'Down'}` as Glyph) : null;
  return (
    <g opacity={small ? 0.6 : 1}>
      {heads.map(({ place, sign }) => (
        <g key={place}>
          <Ledgers place={place} x={x} />
          <Sign glyph={headOf(value)} x={x} y={yOf(place)} />
          {sign !== null && SIGNS[sign] && <Sign glyph={SIGNS[sign]} x={x - 1.15 * SPACE} y={yOf(place)} />}
          {Array.from({ length: dots }, (_, i) => (
            <circle key={i} cx={x + HEAD_WIDTH + 3 + i * 4} cy={yOf(place % 2 === 0 ? place + 1 : place)} r={1.3} fill="var(--ink)" />
          ))}
        </g>
      ))}
      {stem && beam === null && (
        <line x1={stemX(note, x)} x2={stemX(note, x)} y1={stem === 'up' ? bottom : top} y2={stemEnd(note)} stroke="var(--ink)" strokeWidth={1} />
      )}
      {flag && <Sign glyph={flag} x={stemX(note, x)} y={stemEnd(note)} />}
    </g>
  );
}

/** Lines beyond the staff, up to the head. */
function Ledgers({ place, x }: { place: number; x: number }) {
  const count = Math.floor((Math.abs(place) - 4) / 2);
  return Array.from({ length: Math.max(0, count) }, (_, i) => {
    const y = yOf(Math.sign(place) * (6 + 2 * i));
    return <line key={i} x1={x - 2.5} x2={x + HEAD_WIDTH + 2.5} y1={y} y2={y} stroke="var(--soft)" strokeWidth={0.75} />;
  });
}

const RESTS: Readonly<Record<number, Glyph>> = {
  1: 'wholeRest',
  2: 'halfRest',
  4: 'quarterRest',
  8: 'eighthRest',
  16: 'sixteenthRest',
  32: 'thirtySecondRest',
};

function Rest({ rest: { value }, x }: { rest: StaffRest; x: number }) {
  const glyph = RESTS[value] ?? (value < 1 ? 'wholeRest' : 'thirtySecondRest');
  return <Sign glyph={glyph} x={x} y={MIDDLE_Y - (glyph === 'wholeRest' ? SPACE : 0)} />;
}

/** Stems up to a straight beam, and as many beams as there are flags. */
function Beams({ notes, x }: { notes: readonly StaffNote[]; x(tick: number): number }) {
  const groups = new Map<number, StaffNote[]>();
  for (const note of notes) if (note.beam !== null) groups.set(note.beam, [...(groups.get(note.beam) ?? []), note]);
  return [...groups].map(([beam, group]) => {
    const up = group[0]!.stem === 'up';
    const ends = group.map(stemEnd);
    // Level, where the longest stem asks for it: every note has its own length of stem.
    const y = up ? Math.min(...ends) : Math.max(...ends);
    const flags = (note: StaffNote) => Math.log2(Math.min(64, note.value)) - 2;
    return (
      <g key={beam}>
        {group.map((note) => {
          const [top, bottom] = extent(note);
          return <line key={note.id} x1={stemX(note, x(note.onset))} x2={stemX(note, x(note.onset))} y1={up ? bottom : top} y2={y} stroke="var(--ink)" />;
        })}
        {group.slice(1).flatMap((note, i) => {
          const before = group[i]!;
          const both = Math.min(flags(before), flags(note));
          return Array.from({ length: both }, (_, level) => {
            const at = y + (up ? 1 : -1) * level * 4;
            return (
              <line
                key={`${note.id} ${level}`}
                x1={stemX(before, x(before.onset))}
                x2={stemX(note, x(note.onset))}
                y1={at}
                y2={at}
                stroke="var(--ink)"
                strokeWidth={2.6}
              />
            );
          });
        })}
      </g>
    );
  });
}
