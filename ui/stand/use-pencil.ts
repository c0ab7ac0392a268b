'use client';

/** The player's own pencil: what is written, which note it points at, and what found no place on this hand-out. */
import { useEffect, useEffectEvent, useState } from 'react';
import { lostTarget } from '@/core/editions/anchor';
import { penciled, pencilKey, type PencilKind, type PencilMark } from '@/core/handout/pencil';
import type { SaidByPlayer } from '@/core/handout/shapes';
import { outbox } from '@/ui/unsent/browser';
import type { StandPart } from '@/workers/server/stand';
import type { SheetData } from './stand-data';

export function usePencil(
  { handoutId, as, pencil: { marks: stored, isShown: shown } }: SheetData,
  music: StandPart | null,
  pages: ReadonlyArray<{ from: number; to: number }>,
  send: (said: SaidByPlayer) => unknown,
) {
  const [marks, setMarks] = useState<readonly PencilMark[]>(stored);
  const [isShown, setShown] = useState(shown);
  const [isOn, setOn] = useState(false);
  const [noteId, setNote] = useState<string | null>(null);
  // What waits in this browser since an earlier visit is written all the same.
  const takeIn = useEffectEvent((all: readonly SaidByPlayer[]) => {
    setMarks((before) => all.reduce((now, { pencil = [] }) => penciled(now, pencil), before));
    for (const { showsPencil } of all) if (showsPencil !== undefined) setShown(showsPencil);
  });
  useEffect(() => {
    if (as !== null) return;
    void outbox()
      ?.left(`said ${handoutId}`)
      .then(({ stored: sent, waiting }) => takeIn([...sent, ...waiting].flatMap(({ body }) => (body.about === 'said' ? [body.said] : []))));
  }, [handoutId, as]);

  const there = marks.filter(({ value }) => value !== null);
  const order = pages.flatMap(({ from, to }) => (music?.systems.slice(from, to + 1) ?? []).flatMap(({ heads }) => inOrder(heads)));
  const known = new Set(music?.systems.flatMap(({ heads }) => Object.keys(heads)) ?? []);
  const selected = noteId !== null && order.includes(noteId) ? noteId : null;
  const put = (target: string, kind: PencilKind, value: string | null, where: string) => {
    const mark = { target, kind, value, where, at: new Date().toISOString() };
    setMarks((before) => penciled(before, [mark]));
    send({ pencil: [mark] });
  };
  return {
    isOwn: as === null,
    isOn,
    toggle(is: boolean) {
      setOn(is);
      setNote(is ? (order[0] ?? null) : null);
    },
    marks: there,
    /** Those that have no note in what lies here. */
    lost: music ? there.filter(({ target }) => !known.has(target)).map((mark) => ({ ...mark, where: lostTarget(mark.target)?.at ?? mark.where })) : [],
    selected,
    select: setNote,
    /** To the next note of what is seen, or the one before. */
    step(by: number) {
      const at = selected === null ? -1 : order.indexOf(selected);
      setNote(order[Math.max(0, Math.min(order.length - 1, at + by))] ?? null);
    },
    valueAt: (kind: PencilKind): string | null => there.find(({ target, kind: each }) => target === selected && each === kind)?.value ?? null,
    /** At the selected note; said again it is rubbed out. */
    write(kind: PencilKind, value: string) {
      if (selected === null || !music) return;
      const has = there.find((mark) => pencilKey(mark) === pencilKey({ target: selected, kind }));
      put(selected, kind, has?.value === value ? null : value, `bar ${labelOf(music, selected)}`);
    },
    rub: ({ target, kind, where }: Pick<PencilMark, 'target' | 'kind' | 'where'>) => put(target, kind, null, where),
    isShown,
    show(is: boolean) {
      setShown(is);
      send({ showsPencil: is });
    },
  };
}

export type PencilModel = ReturnType<typeof usePencil>;

/** As one reads: from left to right, chords from the bottom. */
const inOrder = (heads: StandPart['systems'][number]['heads']): string[] =>
  Object.entries(heads)
    .sort(([, a], [, b]) => a.x - b.x || b.y - a.y)
    .map(([id]) => id);

function labelOf({ systems, labels }: StandPart, noteId: string): string {
  const system = systems.find(({ heads }) => heads[noteId])!;
  const x = system.heads[noteId]!.x;
  const at = system.bars.findLastIndex(({ from }) => from <= x);
  return labels[system.barIndices[Math.max(0, at)] ?? system.firstBar] ?? '';
}
