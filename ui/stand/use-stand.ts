'use client';

/** The Stand's model: the part as engraved for this screen, its pages, which one is seen, what was said. */
import { useMemo, useState, useSyncExternalStore } from 'react';
import { z } from 'zod';
import { paged, turnsPlayed, type Paper } from '@/core/stand/pages';
import { getJson, useAnswer } from '@/ui/kit/queries';
import type { StandPart } from '@/workers/server/stand';
import type { SheetData } from './stand-data';
import { useLook } from './use-look';
import { useOffline } from './use-offline';
import { usePencil } from './use-pencil';
import { useSaid } from './use-said';

const standShape = z.object({
  systems: z.array(
    z.object({
      svg: z.string(),
      widthPx: z.number(),
      heightPx: z.number(),
      heads: z.record(z.string(), z.object({ x: z.number(), y: z.number() })),
      bars: z.array(z.object({ from: z.number(), to: z.number() })),
      barIndices: z.array(z.number()),
      staffTop: z.number(),
      firstBar: z.number(),
      lastBar: z.number(),
    }),
  ),
  passings: z.array(z.object({ from: z.number(), to: z.number(), restS: z.number(), nextS: z.number() })),
  notes: z.array(
    z.object({
      target: z.string(),
      kind: z.custom<StandPart['notes'][number]['kind']>((kind) => typeof kind === 'string'),
      at: z.string(),
      barIndex: z.number(),
      toBar: z.number(),
      text: z.string(),
    }),
  ),
  labels: z.array(z.string()),
  shifts: z.array(z.object({ from: z.string(), to: z.string(), guide: z.string().nullable() })),
}) satisfies z.ZodType<StandPart>;

/** Room around the music, in px of the screen. */
export const MARGIN = { x: 18, top: 46, bottom: 26, heading: 74 };
/** Over each system there is room for signs of ours, in px of the engraving. */
export const ROW = 20;
export const GAP = 6;
/** Wider than high, and wide enough for two pages. */
const TWO_FROM_PX = 1_100;
const STEP_PX = 20;
interface Screen {
  width: number;
  height: number;
}

const UNKNOWN: Screen = { width: 0, height: 0 };
let screenNow = UNKNOWN;
function readScreen(): Screen {
  const { innerWidth: width, innerHeight: height } = window;
  if (screenNow.width !== width || screenNow.height !== height) screenNow = { width, height };
  return screenNow;
}
const followScreen = (changed: () => void): (() => void) => {
  window.addEventListener('resize', changed);
  return () => window.removeEventListener('resize', changed);
};

export function useStand(sheet: SheetData) {
  const screen = useSyncExternalStore(followScreen, readScreen, () => UNKNOWN);
  const look = useLook();
  const { zoom, fingers, shifts, halfTurns } = look;
  const [asked, setAsked] = useState(0);
  // With half turns: the upper half of what is seen is that of the next page already.
  const [isHalf, setHalf] = useState(false);
  const [which, setWhich] = useState<'latest' | 'earlier'>('latest');
  const { send, ...said } = useSaid(sheet);

  const atOnce: 1 | 2 = screen.width >= TWO_FROM_PX && screen.width > screen.height * 1.15 ? 2 : 1;
  const pageWidth = screen.width / atOnce;
  const width = Math.max(240, Math.min(2_000, Math.floor((pageWidth - 2 * MARGIN.x) / zoom / STEP_PX) * STEP_PX));
  const wishes = `${fingers === 'every note' ? '' : `&fingers=${fingers}`}${shifts ? '&shifts=yes' : ''}`;
  const url = `/api/stand/parts/${sheet.partId}/music?width=${width}&which=${which}&n=${sheet.number}${wishes}${sheet.as ? `&as=${sheet.as}` : ''}`;
  const {
    value: music,
    problem,
    retry,
  } = useAnswer({
    key: ['stand', sheet.handoutId, which, width, fingers, shifts],
    ask: screen.width > 0 ? (signal) => getJson(url, standShape, { signal }) : null,
    keep: true,
  });
  useOffline(music ? url : null);
  const drawnWidth = music?.systems[0]?.widthPx ?? width;
  const scale = (pageWidth - 2 * MARGIN.x) / drawnWidth;
  const paper: Paper = useMemo(() => {
    const heightPx = (screen.height - MARGIN.top - MARGIN.bottom) / scale;
    return { heightPx, firstHeightPx: heightPx - MARGIN.heading / scale, gapPx: GAP, atOnce, firstIsRight: false };
  }, [screen.height, scale, atOnce]);
  const laid = useMemo(() => (music?.systems ?? []).map(({ heightPx, lastBar }) => ({ heightPx: heightPx + ROW, lastBar })), [music]);
  const pages = useMemo(() => paged(laid, music?.passings ?? [], paper).pages, [laid, music, paper]);
  const turns = useMemo(() => turnsPlayed({ pages }, laid, music?.passings ?? [], paper), [pages, laid, music, paper]);
  const last = Math.max(0, pages.length - 1);
  const page = Math.min(asked, last - (last % atOnce));
  const setPage = (to: number) => {
    setHalf(false);
    setAsked(Math.max(0, Math.min(to, last - (last % atOnce))));
  };
  const hasNext = page + atOnce <= last;
  const go = (by: number) => {
    if (halfTurns && by > 0 && !isHalf && hasNext) setHalf(true);
    else if (by < 0 && isHalf) setHalf(false);
    else setPage(page + by * atOnce);
  };
  const goToBar = (bar: number) => {
    const at = pages.findIndex(({ to }) => bar <= music!.systems[to]!.lastBar);
    if (at >= 0) setPage(at - (at % atOnce));
  };
  return {
    sheet,
    screen,
    look,
    scale,
    music,
    problem,
    retry,
    pages,
    page,
    atOnce,
    /** The page that comes in over what is seen, in half a turn. */
    coming: isHalf && hasNext ? page + atOnce : null,
    turns,
    go,
    goToBar,
    first: () => setPage(0),
    last: () => setPage(last - (last % atOnce)),
    which,
    setWhich,
    said,
    pencil: usePencil(sheet, music ?? null, pages.slice(page, page + atOnce), send),
  };
}

export type StandModel = ReturnType<typeof useStand>;
