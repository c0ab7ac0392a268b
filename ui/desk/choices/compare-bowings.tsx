'use client';

import { Play, Square } from 'lucide-react';
import { useEffect, useMemo, useState, useSyncExternalStore } from 'react';
import { stepInWords } from '@/core/bow-arm/reasons';
import type { Stroke } from '@/core/bow-arm/describe';
import { ticksOf } from '@/core/score/bars';
import type { Part } from '@/core/score/score';
import type { BowingChoice } from '@/workers/questions';
import { capital, costsAndGains } from '@/ui/kit/words';
import { Compare, type Compared } from './compare';
import { bowAt, PlayingStore, strokeTimes } from '@/ui/playing/playing';

const WIDTH = 320;
const HEIGHT = 110;

interface Props {
  items: readonly BowingChoice[];
  compared: Compared;
  onPlay(choice: BowingChoice): void;
}

/** Up to three bowings of a passage side by side. */
export function CompareBowings({ items, compared, onPlay }: Props) {
  const { part, range, passageName, secondsAt, ...opened } = compared;
  const span = ticksOf(part, range);
  const rows = useMemo(() => ROWS.map(([name, value]) => [name, (choice: BowingChoice) => value(choice, part)] as const), [part]);
  return (
    <Compare
      {...opened}
      items={items}
      accent="rosin"
      words={{
        what: 'Bowing',
        title: `Bowings of ${passageName}, side by side`,
        legend: 'Frog above, tip below. Inked where the plans differ, pale where all go the same way.',
      }}
      column={{
        nameOf: ({ plan }, i) => (i === 0 ? 'Best on the whole' : capital(plan.aim)),
        picture: ({ plan }, shown) => (
          <BowPicture strokes={plan.strokes} differing={differences(shown.map((each) => each.plan.strokes))} span={span} secondsAt={secondsAt} />
        ),
        rows,
        against: ({ more, less }) => costsAndGains(more, less),
        taken: ({ changes }) => changes.length === 0,
      }}
      onPlay={onPlay}
    />
  );
}

const bar = (part: Part, limit: { barIndex: number } | null) => (limit ? ` (bar ${part.bars[limit.barIndex]!.label})` : '');

const ROWS: ReadonlyArray<readonly [name: string, value: (choice: BowingChoice, part: Part) => string]> = [
  ['strokes', ({ numbers }) => `${numbers.strokes}`],
  ['bars begun up-bow', ({ numbers }) => `${numbers.barsOnUp}`],
  ['slurs split', ({ numbers }) => `${numbers.splits}`],
  ['hooks, retakes', ({ numbers }) => `${numbers.hooks}, ${numbers.retakes}`],
  ['greatest change of speed', ({ numbers }) => stepInWords(numbers.greatestStepDb)],
  ['bow used', ({ numbers }) => `${Math.round(numbers.nearestFrog * 100)} to ${Math.round(numbers.nearestTip * 100)} %`],
  ['stroke lengths', ({ numbers }) => `${numbers.shortestCm.toFixed(0)} to ${numbers.longestCm.toFixed(0)} cm`],
  ['works from', ({ numbers }, part) => (numbers.floor ? `quarter = ${numbers.floor.tempo}${bar(part, numbers.floor)}` : 'any tempo')],
  ['works up to', ({ numbers }, part) => (numbers.ceiling ? `quarter = ${numbers.ceiling.tempo}${bar(part, numbers.ceiling)}` : 'any tempo')],
  [
    'inside motion',
    ({ numbers }) =>
      numbers.crossings && numbers.crossings.inside + numbers.crossings.outside
        ? `${numbers.crossings.inside} of ${numbers.crossings.inside + numbers.crossings.outside} quick crossings`
        : '–',
  ],
  ['hand travel in crossings', ({ numbers }) => (numbers.crossings ? `${(numbers.crossings.handCm / 100).toFixed(1)} m` : '–')],
  ['marks to write', ({ changes }) => `${changes.filter((change) => change.to).length}`],
];

/** Notes at which the plans do not all do the same. */
function differences(plans: ReadonlyArray<readonly Stroke[]>): ReadonlySet<string> {
  const seen = new Map<string, Set<string>>();
  for (const strokes of plans) {
    for (const stroke of strokes) {
      for (const [i, id] of stroke.noteIds.entries()) {
        const what = `${stroke.direction} ${i === 0 ? `begins ${stroke.hooked} ${stroke.retake}` : 'goes on'}`;
        const set = seen.get(id);
        if (set) set.add(what);
        else seen.set(id, new Set([what]));
      }
    }
  }
  return new Set([...seen].filter(([, set]) => set.size > 1).map(([id]) => id));
}

interface PictureProps {
  strokes: readonly Stroke[];
  differing: ReadonlySet<string>;
  span: { from: number; to: number };
  secondsAt(tick: number): number;
}

/** Time as it passes, from a second of the music on. */
function clockFrom(from: number): () => number {
  const began = performance.now();
  return () => from + (performance.now() - began) / 1000;
}

function BowPicture({ strokes, differing, span, secondsAt }: PictureProps) {
  const [playing] = useState(() => new PlayingStore());
  useEffect(() => () => playing.stop(), [playing]);
  const { seconds } = useSyncExternalStore(playing.subscribe, playing.snapshot, playing.snapshot);
  const [from, to] = [secondsAt(span.from), secondsAt(span.to)];
  const x = (s: number) => 6 + ((WIDTH - 12) * (s - from)) / (to - from);
  const y = (place: number) => 8 + (HEIGHT - 16) * place;
  const timed = useMemo(
    () => strokeTimes(strokes, secondsAt).map((time) => ({ ...time, endS: Math.min(time.endS, to), fromX: time.startS, toX: Math.min(time.endS, to) })),
    [strokes, secondsAt, to],
  );
  const at = seconds === null ? null : bowAt(timed, seconds);
  const moving = seconds !== null;
  return (
    <span className="block">
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="block w-full" role="img" aria-label={`${strokes.length} strokes, ${differing.size} notes differ`}>
        <rect x={0} y={0} width={WIDTH} height={HEIGHT} rx={8} fill="var(--rosin-pale)" />
        {strokes.map((stroke, i) => {
          const differs = stroke.noteIds.some((id) => differing.has(id));
          const { startS, endS } = timed[i]!;
          return (
            <g key={stroke.noteIds[0]} stroke={differs ? 'var(--rosin)' : 'var(--soft)'} opacity={differs ? 1 : 0.45}>
              {stroke.retake && i > 0 && (
                <line x1={x(timed[i - 1]!.endS)} y1={y(strokes[i - 1]!.endsAt)} x2={x(startS)} y2={y(stroke.from)} strokeDasharray="2 2" />
              )}
              <line x1={x(startS)} y1={y(stroke.from)} x2={x(endS)} y2={y(stroke.to)} strokeWidth={differs ? 2 : 1.2} strokeLinecap="round" />
              {stroke.hooked && <line x1={x(startS)} x2={x(startS)} y1={y(stroke.from) - 5} y2={y(stroke.from) + 5} strokeWidth={1.5} />}
            </g>
          );
        })}
        {at && <circle cx={x(at.x)} cy={y(at.place)} r={5} fill="var(--rosin)" />}
      </svg>
      <button
        type="button"
        className="mt-1 flex min-h-6 cursor-pointer items-center gap-1 text-xs font-semibold text-rosin"
        onClick={() => (moving ? playing.stop() : playing.start(clockFrom(from), to))}
      >
        {moving ? <Square size={12} aria-hidden /> : <Play size={12} aria-hidden />} {moving ? 'Stop' : 'Watch it at tempo'}
      </button>
    </span>
  );
}
