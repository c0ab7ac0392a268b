'use client';

import { createContext, use, useMemo, useRef, useState } from 'react';
import type { RhythmGroup } from '@/core/ensemble/groups';
import { quartersOf } from '@/core/score/ticks';
import type { ScoreData } from './score-data';
import { useDeeds } from './use-deeds';
import { useScore } from './use-score';
import { useStores } from './use-stores';
import { useTempi } from './use-tempi';

export type Shown = 'all' | 'differing' | 'opposite' | 'left';
export type SideTab = 'groups' | 'entries' | 'tempo';

/** All that Crossread shows and does. */
export function useCrossread(data: ScoreData) {
  const tempi = useTempi(data);
  const stores = useStores(data, [tempi.lane]);
  const score = useScore(data.pieceId, stores.markings, tempi.tempi);
  const { shown } = score;
  const [which, setWhich] = useState<Shown>('differing');
  const [selected, setSelected] = useState<string | null>(null);
  const [pxPerQuarter, setPxPerQuarter] = useState(16);
  const [othersOpen, setOthersOpen] = useState(false);
  const [tab, setTab] = useState<SideTab>('groups');
  /** The part whose notes are shown. */
  const [focused, setFocused] = useState<string | null>(null);
  const scroller = useRef<HTMLDivElement>(null);
  const listed = useMemo(() => (shown?.groups ?? []).filter((group) => isListed(group, which)), [shown, which]);
  const group = shown?.groups.find(({ id }) => id === selected) ?? null;
  const deeds = useDeeds(score, stores.make, group);

  function select(next: RhythmGroup | null) {
    setSelected(next?.id ?? null);
    if (!next) return;
    setTab('groups');
    lookAt(next.fromBar);
  }

  /** Scrolls where it is not in view. */
  function lookAt(barIndex: number) {
    const bar = shown?.bars[barIndex];
    const box = scroller.current;
    if (!bar || !box) return;
    const x = quartersOf(bar.onset) * pxPerQuarter;
    if (x < box.scrollLeft || x > box.scrollLeft + box.clientWidth - 300) box.scrollTo({ left: Math.max(0, x - 80) });
  }

  function step(by: number) {
    const at = listed.findIndex(({ id }) => id === selected);
    const next = listed[at < 0 ? (by > 0 ? 0 : listed.length - 1) : at + by];
    if (next) select(next);
  }

  /** The notes of the lane above or below; from the last one on there are none. */
  function stepLane(by: number) {
    const ids = strings.map(({ partId }) => partId);
    const at = focused === null ? (by > 0 ? -1 : ids.length) : ids.indexOf(focused);
    setFocused(ids[at + by] ?? null);
  }

  const strings = shown?.lanes.filter(({ instrument }) => instrument !== null) ?? [];
  return {
    data,
    ...score,
    ...stores,
    ...deeds,
    which,
    setWhich,
    listed,
    group,
    select,
    lookAt,
    step,
    focused,
    setFocused,
    stepLane,
    tab,
    setTab,
    tempi: tempi.tempi,
    /** One tempo for every string part. */
    want: (tempo: number | null) =>
      tempi.want(
        tempo,
        strings.map(({ partId }) => partId),
      ),
    pxPerQuarter,
    setPxPerQuarter,
    othersOpen,
    setOthersOpen,
    scroller,
  };
}

/** What was left for a reason does not differ any more, but can be looked at. */
export function isListed({ agreement, left }: Pick<RhythmGroup, 'agreement' | 'left'>, which: Shown): boolean {
  if (which === 'all') return true;
  if (which === 'left') return left !== null;
  return left === null && (which === 'opposite' ? agreement === 'opposite bows' : agreement !== 'agree');
}

export type CrossreadModel = ReturnType<typeof useCrossread>;
const Context = createContext<CrossreadModel | null>(null);
export const CrossreadProvider = Context.Provider;
export function useCrossreadModel(): CrossreadModel {
  const model = use(Context);
  if (!model) throw new Error('Crossread is not open');
  return model;
}
