'use client';

import { createContext, use, useMemo, useRef, useState } from 'react';
import { CARRIED, type Carried } from '@/core/ensemble/carry';
import type { Agreed } from '@/core/ensemble/together';
import type { Agreement, Member, RhythmGroup } from '@/core/ensemble/groups';
import { quartersOf } from '@/core/score/ticks';
import { barsText } from './bars-text';
import type { ScoreData } from './score-data';
import { useScore } from './use-score';
import { useStores } from './use-stores';

export type Shown = 'all' | 'differing' | 'opposite';

/** All that Crossread shows and does. */
export function useCrossread(data: ScoreData) {
  const stores = useStores(data);
  const score = useScore(data.pieceId, stores.markings);
  const [which, setWhich] = useState<Shown>('differing');
  const [selected, setSelected] = useState<string | null>(null);
  const [pxPerQuarter, setPxPerQuarter] = useState(16);
  const [agreed, setAgreed] = useState<(Agreed & { id: string }) | null>(null);
  const [othersOpen, setOthersOpen] = useState(false);
  const scroller = useRef<HTMLDivElement>(null);
  const { shown } = score;
  const listed = useMemo(() => (shown?.groups ?? []).filter((group) => isListed(group.agreement, which)), [shown, which]);
  const group = shown?.groups.find(({ id }) => id === selected) ?? null;

  function select(next: RhythmGroup | null) {
    setSelected(next?.id ?? null);
    const bar = next && shown?.bars[next.fromBar];
    const box = scroller.current;
    if (bar && box) {
      const x = quartersOf(bar.onset) * pxPerQuarter;
      if (x < box.scrollLeft || x > box.scrollLeft + box.clientWidth - 300) box.scrollTo({ left: Math.max(0, x - 80) });
    }
  }

  function step(by: number) {
    const at = listed.findIndex(({ id }) => id === selected);
    const next = listed[at < 0 ? (by > 0 ? 0 : listed.length - 1) : at + by];
    if (next) select(next);
  }

  /** Carries from one member to the others; nothing is written where they do it already. */
  async function carry(what: readonly Carried[], of: RhythmGroup, from: Member) {
    const all = await Promise.all(what.map((each) => score.carried(each, of, from, of.members)));
    const byPart = new Map<string, Awaited<typeof all>[number][number]['changes']>();
    for (const { partId, changes } of all.flat()) byPart.set(partId, [...(byPart.get(partId) ?? []), ...changes]);
    const names = what.length === CARRIED.length ? 'All' : what.map((each) => each[0]!.toUpperCase() + each.slice(1)).join(', ');
    stores.make(
      `${names} as ${from.name}, ${barsText(shown!.bars, of)}`,
      [...byPart].map(([partId, changes]) => ({ partId, changes })),
    );
  }

  /** The bowing that suits the group best, to be looked at before it is taken. */
  async function propose(of: RhythmGroup) {
    setAgreed(null);
    const best = await score.together(of);
    if (best) setAgreed({ id: of.id, ...best });
  }

  function takeAgreed(of: RhythmGroup) {
    if (agreed?.id !== of.id) return;
    stores.make(`Bowed together${agreed.model ? ` as ${agreed.model.name}` : ''}, ${barsText(shown!.bars, of)}`, agreed.to);
    setAgreed(null);
  }

  return {
    data,
    ...score,
    ...stores,
    which,
    setWhich,
    listed,
    group,
    select,
    step,
    carry,
    agreed: agreed?.id === group?.id ? agreed : null,
    propose,
    takeAgreed,
    forgetAgreed: () => setAgreed(null),
    pxPerQuarter,
    setPxPerQuarter,
    othersOpen,
    setOthersOpen,
    scroller,
  };
}

const isListed = (agreement: Agreement, which: Shown): boolean =>
  which === 'all' || (which === 'opposite' ? agreement === 'opposite bows' : agreement !== 'agree');

export type CrossreadModel = ReturnType<typeof useCrossread>;
const Context = createContext<CrossreadModel | null>(null);
export const CrossreadProvider = Context.Provider;
export function useCrossreadModel(): CrossreadModel {
  const model = use(Context);
  if (!model) throw new Error('Crossread is not open');
  return model;
}
