'use client';

import Link from 'next/link';
import { memo, useEffect, useLayoutEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import type { RhythmGroup } from '@/core/ensemble/groups';
import { Button, TextButton } from '@/ui/kit/button';
import type { Phrase, Role } from '@/core/ensemble/roles';
import type { BarShown, ChordShown, LaneShown, StrokeShown } from '@/workers/score-questions';
import { AGREEMENT, AgreementSign } from './agreement';
import { chunksIn, chunksOf, laneHeight, NAME_PX, rowsOf, xOf, type Chunk } from './layout';
import { FocusStaff, STAFF_PX } from './staff';
import { barsText } from './model/bars-text';
import { useCrossreadModel } from './model/use-crossread';

const BAND_PX = 20;

/** Time from left to right, one lane to a part; only what is in view is drawn. */
export function Lanes() {
  const { shown, scroller, pxPerQuarter, group, othersOpen, setOthersOpen, data } = useCrossreadModel();
  const { bars, lanes, groups } = shown!;
  const chunks = useMemo(() => chunksOf(bars, pxPerQuarter), [bars, pxPerQuarter]);
  const [view, setView] = useState({ first: 0, last: 2 });
  const look = () => {
    const box = scroller.current;
    if (!box) return;
    const next = chunksIn(chunks, box.scrollLeft, box.scrollLeft + box.clientWidth);
    setView((now) => (now.first === next.first && now.last === next.last ? now : next));
  };
  // What is in view changes with the size of a bar, too.
  useLayoutEffect(look, [chunks, scroller]);
  useFirstBar(bars, data.bar);
  const inView = chunks.slice(view.first, view.last + 1);
  const strings = lanes.filter(({ instrument }) => instrument !== null);
  const others = lanes.filter(({ instrument }) => instrument === null);
  const height = laneHeight(strings.length + (othersOpen ? others.length : 0));
  const width = NAME_PX + (chunks.at(-1)?.to ?? 0) + 24;
  return (
    <div
      ref={scroller}
      tabIndex={0}
      role="group"
      aria-label="Parts side by side. Left and right arrows go from group to group, up and down show the notes of a part, b bows together, c carries, l leaves it for a reason, Escape closes."
      className="min-h-0 grow overflow-auto focus-visible:-outline-offset-2"
      onScroll={look}
    >
      <div style={{ width }} className="relative">
        <Ruler bars={bars} chunks={inView} pxPerQuarter={pxPerQuarter} />
        <Chords bars={bars} chords={shown!.chords} chunks={inView} pxPerQuarter={pxPerQuarter} />
        <Band bars={bars} groups={groups} chunks={inView} pxPerQuarter={pxPerQuarter} />
        {strings.map((lane) => (
          <Lane key={lane.partId} lane={lane} bars={bars} chunks={inView} pxPerQuarter={pxPerQuarter} height={height} group={group} />
        ))}
        {others.length > 0 && (
          <div className="sticky left-0 w-fit px-3 py-2">
            <Button small aria-expanded={othersOpen} onClick={() => setOthersOpen(!othersOpen)}>
              {othersOpen ? 'Without the other parts' : `${others.length} other ${others.length === 1 ? 'part' : 'parts'}`}
            </Button>
          </div>
        )}
        {othersOpen &&
          others.map((lane) => <Lane key={lane.partId} lane={lane} bars={bars} chunks={inView} pxPerQuarter={pxPerQuarter} height={height} group={null} />)}
      </div>
    </div>
  );
}

/** Once: where the address asked for. */
function useFirstBar(bars: readonly BarShown[], label: string | null): void {
  const { scroller, pxPerQuarter } = useCrossreadModel();
  const done = useRef(label === null);
  useEffect(() => {
    if (done.current) return;
    done.current = true;
    const bar = bars.find((each) => each.label === label);
    if (bar) scroller.current?.scrollTo({ left: Math.max(0, xOf(bar.onset, pxPerQuarter) - 40) });
  }, [bars, label, scroller, pxPerQuarter]);
}

interface Drawn {
  bars: readonly BarShown[];
  chunks: readonly Chunk[];
  pxPerQuarter: number;
}

const Corner = ({ children, height }: { children?: ReactNode; height: number }) => (
  <div className="sticky left-0 z-10 flex shrink-0 items-center border-r border-line bg-paper px-3 text-xs text-soft" style={{ width: NAME_PX, height }}>
    {children}
  </div>
);

/** Bar numbers and letters. */
function Ruler({ bars, chunks, pxPerQuarter }: Drawn) {
  const wide = xOf(bars[0]?.ticks ?? 1, pxPerQuarter);
  const every = Math.max(1, Math.ceil(34 / Math.max(1, wide)));
  return (
    <div className="sticky top-0 z-20 flex border-b border-line bg-paper">
      <Corner height={24}>bar</Corner>
      <div className="relative grow" style={{ height: 24 }}>
        {chunks.flatMap(({ fromBar, toBar }) =>
          bars.slice(fromBar, toBar + 1).map(({ label, onset, rehearsal }, i) => {
            const index = fromBar + i;
            if (index % every && !rehearsal) return null;
            return (
              <span key={index} className="absolute top-1 text-xs" style={{ left: xOf(onset, pxPerQuarter) + 2 }}>
                {rehearsal && <strong className="mr-1 border border-ink px-0.5">{rehearsal}</strong>}
                {index % every === 0 && <span className="text-soft">{label}</span>}
              </span>
            );
          }),
        )}
      </div>
    </div>
  );
}

/** A sign narrower than this is left out; zoomed in it is there. */
const CHORD_PX = 22;

/** The chords that sound, as short as they can be said; none where two readings tie. */
function Chords({ bars, chords, chunks, pxPerQuarter }: Drawn & { chords: readonly ChordShown[] }) {
  const [first, last] = [bars[chunks[0]?.fromBar ?? 0], bars[chunks.at(-1)?.toBar ?? 0]];
  const [from, to] = [first?.onset ?? 0, last ? last.onset + last.ticks : 0];
  return (
    <div className="flex border-b border-line">
      <Corner height={20}>chord</Corner>
      <div className="relative grow" style={{ height: 20 }}>
        {chords
          .filter((chord) => chord.sign !== null && chord.to > from && chord.from < to && xOf(chord.to - chord.from, pxPerQuarter) >= CHORD_PX)
          .map((chord) => (
            <span
              key={chord.from}
              title={chord.name!}
              className="absolute top-0.5 overflow-hidden border-l border-line pl-0.5 text-xs whitespace-nowrap"
              style={{ left: xOf(chord.from, pxPerQuarter), width: xOf(chord.to - chord.from, pxPerQuarter) - 1 }}
            >
              {chord.sign}
            </span>
          ))}
      </div>
    </div>
  );
}

/** Who plays together, and how well they agree. */
function Band({ bars, groups, chunks, pxPerQuarter }: Drawn & { groups: readonly RhythmGroup[] }) {
  const { group: selected, select } = useCrossreadModel();
  const { rows, count } = useMemo(() => rowsOf(groups), [groups]);
  const [from, to] = [chunks[0]?.fromBar ?? 0, chunks.at(-1)?.toBar ?? 0];
  return (
    <div className="flex border-b border-line">
      <Corner height={count * BAND_PX + 6}>together</Corner>
      <div className="relative grow" style={{ height: count * BAND_PX + 6 }}>
        {groups
          .filter((group) => group.toBar >= from && group.fromBar <= to)
          .map((group) => {
            const left = xOf(bars[group.fromBar]!.onset, pxPerQuarter);
            const last = bars[group.toBar]!;
            const width = xOf(last.onset + last.ticks, pxPerQuarter) - left - 3;
            const { words, colour } = AGREEMENT[group.agreement];
            const name = `${group.members.map((member) => member.name).join(', ')}, ${barsText(bars, group)}: ${words}`;
            return (
              <button
                key={group.id}
                type="button"
                title={name}
                aria-label={name}
                aria-pressed={selected?.id === group.id}
                className={`absolute flex cursor-pointer items-center gap-1 overflow-hidden border-t-2 px-0.5 text-left text-[11px] whitespace-nowrap ${selected?.id === group.id ? 'bg-sheet font-semibold' : ''}`}
                style={{ left, width: Math.max(14, width), top: 3 + rows.get(group.id)! * BAND_PX, height: BAND_PX - 2, borderColor: colour }}
                onClick={() => select(selected?.id === group.id ? null : group)}
              >
                <AgreementSign agreement={group.agreement} />
                {width > 90 && group.members.map((member) => member.name).join(', ')}
              </button>
            );
          })}
      </div>
    </div>
  );
}

function Lane({ lane, bars, chunks, pxPerQuarter, height, group }: Drawn & { lane: LaneShown; height: number; group: RhythmGroup | null }) {
  const { shown, focused, setFocused } = useCrossreadModel();
  const isFocused = focused === lane.partId;
  const tall = height + (isFocused ? STAFF_PX : 0);
  const phrases = useMemo(() => shown!.phrases.filter(({ partId }) => partId === lane.partId), [shown, lane.partId]);
  const isMember = group?.members.some(({ partId }) => partId === lane.partId) ?? false;
  const last = group && bars[group.toBar];
  return (
    <section aria-label={lane.name} className="flex border-b border-line bg-sheet">
      <div className="sticky left-0 z-10 flex shrink-0 flex-col justify-center border-r border-line bg-paper px-3" style={{ width: NAME_PX, height: tall }}>
        <Link
          href={`/desk/${lane.partId}${group ? `?bars=${bars[group.fromBar]!.label}-${last!.label}` : ''}`}
          className="line-clamp-2 font-semibold hover:underline"
        >
          {lane.name}
        </Link>
        <TextButton
          className="w-fit text-xs text-soft"
          aria-expanded={isFocused}
          aria-label={`Notes of ${lane.name}`}
          onClick={() => setFocused(isFocused ? null : lane.partId)}
        >
          {isFocused ? 'strokes alone' : 'notes'}
        </TextButton>
        {!lane.planned && <span className="text-[11px] text-soft">not bowed yet …</span>}
      </div>
      <div className="relative grow" style={{ height: tall }}>
        {group && isMember && (
          <span
            aria-hidden
            className="absolute inset-y-0 bg-rosin-pale"
            style={{ left: xOf(bars[group.fromBar]!.onset, pxPerQuarter), width: xOf(last!.onset + last!.ticks - bars[group.fromBar]!.onset, pxPerQuarter) }}
          />
        )}
        <Roles phrases={phrases} bars={bars} chunks={chunks} pxPerQuarter={pxPerQuarter} />
        {chunks.map((chunk) => (
          <LanePiece key={chunk.fromBar} strokes={lane.strokes} bars={bars} chunk={chunk} pxPerQuarter={pxPerQuarter} height={height} />
        ))}
        {isFocused && <FocusStaff partId={lane.partId} bars={bars} chunks={chunks} pxPerQuarter={pxPerQuarter} above={height} />}
      </div>
    </section>
  );
}

/** The tune is seen from across the room; whatever else it is, is said. */
const RIBBONS: Readonly<Record<Exclude<Role, 'silent'>, string>> = {
  tune: 'border-t-4 border-solid border-ink font-semibold text-ink',
  'second tune': 'border-t-4 border-double border-ink text-ink',
  'moving figure': 'border-t-2 border-dashed border-soft text-soft',
  held: 'border-t border-solid border-soft text-soft',
  'off-beats': 'border-t-2 border-dotted border-soft text-soft',
  bass: 'border-t-2 border-solid border-line text-soft',
};
/** Less sure than this has a question mark (judgement). */
const SURE = 0.15;

/** What the part does from where to where. */
function Roles({ phrases, bars, chunks, pxPerQuarter }: Drawn & { phrases: readonly Phrase[] }) {
  const [from, to] = [chunks[0]?.fromBar ?? 0, chunks.at(-1)?.toBar ?? 0];
  return phrases
    .filter(({ role, fromBar, toBar }) => role !== 'silent' && toBar >= from && fromBar <= to)
    .map(({ role, fromBar, toBar, sure }) => {
      const last = bars[toBar]!;
      const left = xOf(bars[fromBar]!.onset, pxPerQuarter);
      const width = xOf(last.onset + last.ticks, pxPerQuarter) - left - 3;
      const words = `${role}${sure < SURE ? '?' : ''}`;
      return (
        <span
          key={fromBar}
          title={`${words}, ${barsText(bars, { fromBar, toBar })}`}
          className={`absolute top-0 h-4 overflow-hidden pl-0.5 text-[11px] leading-3 whitespace-nowrap ${RIBBONS[role as keyof typeof RIBBONS]}`}
          style={{ left, width }}
        >
          {width > 40 && words}
        </span>
      );
    });
}

/** Between a stroke and the edge of its lane; above it the ribbon has its room. */
const EDGE_PX = 10;
const RIBBON_PX = 10;

/** Strokes that begin in a few bars. Down-bows slope down, up-bows up; what is only planned is hollow. */
const LanePiece = memo(function LanePiece({
  strokes,
  bars,
  chunk,
  pxPerQuarter,
  height,
}: Omit<Drawn, 'chunks'> & { strokes: readonly StrokeShown[]; chunk: Chunk; height: number }) {
  const start = bars[chunk.fromBar]!.onset;
  const end = bars[chunk.toBar]!.onset + bars[chunk.toBar]!.ticks;
  const x = (tick: number) => xOf(tick, pxPerQuarter) - chunk.from;
  return (
    <svg aria-hidden className="absolute overflow-visible" style={{ left: chunk.from }} width={chunk.to - chunk.from} height={height}>
      {bars.slice(chunk.fromBar, chunk.toBar + 1).map(({ onset }) => (
        <line key={onset} x1={x(onset)} x2={x(onset)} y1={0} y2={height} stroke="var(--line)" />
      ))}
      {between(strokes, start, end).map((stroke) => (
        <StrokeSign key={stroke.onset} stroke={stroke} height={height} x={x} />
      ))}
    </svg>
  );
});

/** Strokes are in order: the first one is found by halving. */
function between(strokes: readonly StrokeShown[], from: number, to: number): StrokeShown[] {
  let [low, high] = [0, strokes.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (strokes[middle]!.onset < from) low = middle + 1;
    else high = middle;
  }
  const found: StrokeShown[] = [];
  for (let i = low; i < strokes.length && strokes[i]!.onset < to; i++) found.push(strokes[i]!);
  return found;
}

function StrokeSign({ stroke, height, x }: { stroke: StrokeShown; height: number; x(tick: number): number }) {
  const { onset, end, direction, written, attacks, loud } = stroke;
  const [from, to] = [x(onset) + 1, Math.max(x(onset) + 3, x(end) - 2)];
  const [top, bottom] = [EDGE_PX + RIBBON_PX, height - EDGE_PX];
  const [a, b] = direction === 'down' ? [top, bottom] : direction === 'up' ? [bottom, top] : [(top + bottom) / 2, (top + bottom) / 2];
  const half = 1 + loud * 0.45;
  const y = (tick: number) => a + ((b - a) * (x(tick) - from)) / Math.max(1, to - from);
  const shape = `M${from} ${a - half}L${to} ${b - half}V${b + half}L${from} ${a + half}Z`;
  return (
    <>
      <path
        d={shape}
        fill={written ? 'var(--rosin)' : direction === null ? 'var(--soft)' : 'var(--sheet)'}
        stroke={direction === null ? 'none' : 'var(--rosin)'}
        strokeWidth={1}
        strokeLinejoin="round"
      />
      {attacks.map((tick) => (
        <line key={tick} x1={x(tick)} x2={x(tick)} y1={y(tick) - half - 3} y2={y(tick) + half + 3} stroke="var(--ink)" strokeWidth={1} />
      ))}
    </>
  );
}
