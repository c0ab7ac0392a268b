'use client';

import { useMemo, type MouseEvent } from 'react';
import { isSpot } from '@/core/checks/finding';
import { feltUnitOf } from '@/core/score/beat-unit';
import { splitKey } from '@/core/marking/mark';
import { MARKS } from '@/core/marking/kinds';
import { barIndexAt } from '@/core/score/score';
import { barsLabel } from '@/ui/kit/music';
import { beatsPerMinute, signOf } from '@/ui/kit/tempo';
import { useDesk } from './model/desk';

const HEIGHT = 30;
const TOP = 11;
const BASE = 23;
/** Height of the worst finding. */
const WORST = 3;

/** The whole part as one strip: passages, rehearsal letters, tempi, the worst spot of each bar, where fingers and bows are marked. A click goes there. */
export function PartMap() {
  const { view, report, passages, marking, goToBar, focus } = useDesk();
  const { part } = view;
  const marked = useMemo(() => (part ? markedBars(part.notes, marking) : null), [part, marking]);
  const worst = useMemo(() => {
    const bars = new Map<number, number>();
    for (const { barIndex, severity } of report?.findings.filter(isSpot) ?? []) bars.set(barIndex, Math.max(bars.get(barIndex) ?? 0, severity));
    return bars;
  }, [report]);
  if (!part || part.bars.length < 2) return null;
  const count = part.bars.length;
  const x = (bar: number) => `${((bar / count) * 100).toFixed(2)}%`;
  const width = (bars: number) => `${((bars / count) * 100).toFixed(2)}%`;
  const unit = feltUnitOf(part);
  const letters = part.bars.flatMap(({ rehearsal }, i) => (rehearsal ? [{ bar: i, text: rehearsal.slice(0, 3), title: `Letter ${rehearsal}` }] : []));
  const tempi = part.tempi.slice(1).map(({ tick, quartersPerMinute }) => ({
    bar: barIndexAt(part.bars, tick),
    title: `${signOf(unit)} = ${beatsPerMinute(quartersPerMinute, unit)}`,
  }));
  const go = (event: MouseEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    goToBar(Math.max(0, Math.min(count - 1, Math.floor(((event.clientX - box.left) / box.width) * count))));
  };
  return (
    <svg
      role="img"
      aria-label={`Map of the part, ${count} bars: ${worst.size} with spots, ${marked!.fingers.size + marked!.bows.size} marked. Ctrl+K goes to a bar.`}
      height={HEIGHT}
      className="w-full shrink-0 cursor-pointer px-3 max-lg:hidden"
      onClick={go}
    >
      {passages.list.map((passage, i) => (
        <rect
          key={`${passage.fromBar} ${passage.toBar} ${passage.name}`}
          x={x(passage.fromBar)}
          width={width(passage.toBar - passage.fromBar + 1)}
          y={TOP}
          height={BASE - TOP}
          rx={3}
          fill={i === passages.current ? 'var(--sheet)' : 'transparent'}
          stroke={i === passages.current ? 'var(--ink)' : 'var(--line)'}
        >
          <title>{`${passage.name}, bars ${barsLabel(part, passage.fromBar, passage.toBar)}`}</title>
        </rect>
      ))}
      {letters.map(({ bar, text, title }) => (
        <text key={bar} x={x(bar)} dx={2} y={9} fontSize={12} fontWeight={600} fill="var(--soft)">
          {text}
          <title>{title}</title>
        </text>
      ))}
      {tempi.map(({ bar, title }) => (
        <line key={bar} x1={x(bar)} x2={x(bar)} y1={TOP} y2={BASE} stroke="var(--soft)" strokeDasharray="2 2">
          <title>{title}</title>
        </line>
      ))}
      {[...worst].map(([bar, severity]) => {
        const tall = ((BASE - TOP - 1) * severity) / WORST;
        return <rect key={bar} x={x(bar)} width={width(0.8)} y={BASE - tall} height={tall} fill={severity > 1 ? 'var(--plum)' : 'var(--soft)'} />;
      })}
      {[...marked!.fingers].map((bar) => (
        <rect key={`f${bar}`} x={x(bar)} width={width(0.9)} y={BASE + 1.5} height={2} fill="var(--spruce)" />
      ))}
      {[...marked!.bows].map((bar) => (
        <rect key={`b${bar}`} x={x(bar)} width={width(0.9)} y={BASE + 4.5} height={2} fill="var(--rosin)" />
      ))}
      {focus && <rect x={x(focus.barIndex)} width={width(1)} y={TOP - 1} height={BASE - TOP + 2} fill="none" stroke="var(--ink)" strokeWidth={1.5} />}
    </svg>
  );
}

/** Bars in which fingers, and bows, are marked. */
function markedBars(notes: ReadonlyArray<{ id: string; barIndex: number }>, marking: Readonly<Record<string, unknown>>) {
  const bars = new Map(notes.map(({ id, barIndex }) => [id, barIndex]));
  const [fingers, bows] = [new Set<number>(), new Set<number>()];
  for (const key of Object.keys(marking)) {
    const { target, kind } = splitKey(key);
    const bar = bars.get(target);
    if (bar === undefined) continue;
    if (MARKS[kind].alike === 'hand') fingers.add(bar);
    else if (MARKS[kind].bow && MARKS[kind].group !== 'edit') bows.add(bar);
  }
  return { fingers, bows };
}
