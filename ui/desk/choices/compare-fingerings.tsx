'use client';

import { stopMm } from '@/core/instruments/geometry';
import { stringName, type Instrument } from '@/core/instruments/instrument';
import { fingerName } from '@/core/instruments/player';
import type { FingeredNote } from '@/core/left-hand/fingering';
import { noteById } from '@/core/score/find';
import { ticksOf } from '@/core/score/bars';
import type { Part } from '@/core/score/score';
import type { FingeringChoice } from '@/workers/questions';
import { placeLabel } from '@/ui/kit/music';
import { capital, costsAndGains } from '@/ui/kit/words';
import { Compare, type Compared } from './compare';

const WIDTH = 320;
const HEIGHT = 150;
const TOP = 18;
const BOTTOM = 22;

interface Props {
  items: readonly FingeringChoice[];
  compared: Compared;
  instrument: Instrument;
  onPlay(choice: FingeringChoice): void;
}

/** Up to three fingerings of a passage side by side. */
export function CompareFingerings({ items, compared, instrument, onPlay }: Props) {
  const { part, range, passageName, secondsAt, ...opened } = compared;
  const span = ticksOf(part, range);
  const deepest = Math.max(instrument.lengthMm / 4, ...items.flatMap(({ way }) => way.notes.map(({ place }) => stopMm(instrument.lengthMm, place.stop))));
  const share = (tick: number) => (secondsAt(tick) - secondsAt(span.from)) / (secondsAt(span.to) - secondsAt(span.from));
  return (
    <Compare
      {...opened}
      items={items}
      accent="spruce"
      words={{
        what: 'Fingering',
        title: `Fingerings of ${passageName}, side by side`,
        legend: 'Nut above, bridge below, in mm. Inked where the fingerings differ, pale where all are the same.',
      }}
      column={{
        nameOf: ({ way }, i) => (i === 0 ? 'Best on the whole' : capital(way.aim)),
        picture: ({ way }, shown) => (
          <HandPicture
            notes={way.notes.filter(({ id }) => noteById(part, id))}
            xOf={(id) => 10 + (WIDTH - 20) * share(noteById(part, id)!.onset)}
            differing={differences(shown.map((each) => each.way.notes))}
            instrument={instrument}
            deepestMm={deepest}
          />
        ),
        rows: rowsFor(part),
        against: ({ more, less }) => costsAndGains(more, less),
        taken: ({ changes }) => changes.length === 0,
      }}
      onPlay={onPlay}
    />
  );
}

function rowsFor(part: Part): ReadonlyArray<readonly [string, (choice: FingeringChoice) => string]> {
  const at = (noteId: string) => {
    const note = noteById(part, noteId);
    return note ? placeLabel(part, note).toLowerCase() : '';
  };
  return [
    ['shifts', ({ numbers }) => `${numbers.shifts}`],
    ['hand travels', ({ numbers }) => `${Math.round(numbers.shiftMm)} mm`],
    [
      'hardest shift',
      ({ numbers: { hardest } }) => (hardest ? `${Math.round(hardest.mm)} mm in ${(hardest.gapMs / 1000).toFixed(2)} s, ${at(hardest.noteId)}` : 'none'),
    ],
    ['string changes in slurs', ({ numbers }) => `${numbers.stringChangesInSlurs}`],
    ['fourth finger, long notes', ({ numbers }) => `${numbers.fourthFingers}, ${numbers.longFourths}`],
    ['open strings', ({ numbers }) => `${numbers.openStrings}`],
    ['highest position', ({ numbers }) => numbers.highestPosition],
    ['worst risk', ({ outlook: { worst } }) => (worst ? `${Math.round(worst.chance * 100)} %, ${at(worst.noteId)}` : 'none')],
    [
      'works up to',
      ({ outlook: { ceiling } }) => (ceiling ? `quarter = ${Math.floor(ceiling.tempo)} (bar ${part.bars[ceiling.barIndex]!.label})` : 'any tempo'),
    ],
    ['marks to write', ({ changes }) => `${changes.filter((change) => change.to).length}`],
  ];
}

/** Notes that do not have the same finger on the same string in all of them. */
function differences(ways: ReadonlyArray<readonly FingeredNote[]>): ReadonlySet<string> {
  const seen = new Map<string, Set<string>>();
  for (const notes of ways) {
    for (const { id, place } of notes) {
      const what = `${place.finger} on ${place.string}`;
      const set = seen.get(id);
      if (set) set.add(what);
      else seen.set(id, new Set([what]));
    }
  }
  return new Set([...seen].filter(([, set]) => set.size > 1).map(([id]) => id));
}

interface PictureProps {
  notes: readonly FingeredNote[];
  xOf(noteId: string): number;
  differing: ReadonlySet<string>;
  instrument: Instrument;
  deepestMm: number;
}

/** Fingers closer than this would hide one another's numbers, px. */
const CLEAR = 13;

function HandPicture({ notes, xOf, differing, instrument, deepestMm }: PictureProps) {
  const y = (mm: number) => TOP + ((HEIGHT - TOP - BOTTOM) * mm) / deepestMm;
  const placed = notes.map((note) => ({ note, x: xOf(note.id), y: y(stopMm(instrument.lengthMm, note.place.stop)), differs: differing.has(note.id) }));
  const stopped = placed.filter(({ note }) => note.place.finger !== 0);
  const numbered = new Set<string>();
  const strings = new Map<string, string>();
  let numberX = -Infinity;
  let stringX = -Infinity;
  let lastString = 0;
  for (const { note, x, differs } of placed) {
    if (differs && x - numberX >= CLEAR) {
      numbered.add(note.id);
      numberX = x;
    }
    if (differs && note.place.string !== lastString && x - stringX >= CLEAR) {
      strings.set(note.id, stringName(instrument, note.place.string));
      stringX = x;
    }
    lastString = note.place.string;
  }
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="block w-full"
      role="img"
      aria-label={`${notes.length} notes, ${placed.filter(({ differs }) => differs).length} fingered differently`}
    >
      <rect x={0} y={0} width={WIDTH} height={HEIGHT} rx={8} fill="var(--spruce-pale)" />
      <line x1={4} x2={WIDTH - 4} y1={y(0)} y2={y(0)} stroke="var(--soft)" />
      <polyline
        points={stopped.map(({ note, x }) => `${x},${y(note.place.handMm)}`).join(' ')}
        fill="none"
        stroke="var(--spruce)"
        strokeWidth={1}
        opacity={0.35}
      />
      {placed.map(({ note, x, y: at, differs }) => {
        const open = note.place.finger === 0;
        const big = numbered.has(note.id);
        return (
          <g key={note.id} opacity={differs ? 1 : 0.5}>
            <circle
              cx={x}
              cy={at}
              r={big ? 7 : 2.5}
              fill={big ? (open ? 'var(--sheet)' : 'var(--spruce)') : differs ? 'var(--spruce)' : 'var(--soft)'}
              stroke={big ? 'var(--spruce)' : undefined}
            />
            {big && (
              <text x={x} y={at + 4} fontSize={12} fontWeight={700} textAnchor="middle" fill={open ? 'var(--spruce)' : 'var(--sheet)'}>
                {fingerName(note.place.finger)}
              </text>
            )}
            {strings.has(note.id) && (
              <text x={x} y={HEIGHT - 6} fontSize={12} textAnchor="middle" fill="var(--spruce)">
                {strings.get(note.id)}
              </text>
            )}
          </g>
        );
      })}
    </svg>
  );
}
