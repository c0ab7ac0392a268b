'use client';

import { useEffect, useMemo, useState, useSyncExternalStore } from 'react';
import { takingBack, type Logged } from '@/core/marking/history';
import { outbox } from '@/ui/unsent/browser';
import { laterThanBefore } from '@/ui/kit/clock';
import type { Body } from '@/ui/unsent/entry';
import { Log } from '@/ui/unsent/log';
import { VIEW_MS } from '@/ui/unsent/outbox';
import type { Lane } from '@/ui/part/undo-chain';
import { newDeed } from '@/ui/part/use-undo';
import type { ScoreData } from './score-data';

/** By part; null takes the printed one. */
type Tempi = Readonly<Record<string, number | null>>;

interface TempoStep extends Logged {
  before: Tempi;
  after: Tempi;
}

const tempoOf = (body: Body): number | null | undefined => (body.about === 'settings' ? (body.change as { tempo?: number | null }).tempo : undefined);

/** The wanted tempo of the piece: every part has it as its own, unless it departs from it. One step for all, taken back as one. */
export function useTempi({ title, parts }: ScoreData): { tempi: Tempi; want(tempo: number | null, partIds: readonly string[]): void; lane: Lane } {
  const [tempi, setTempi] = useState<Tempi>(() => Object.fromEntries(parts.map(({ id, tempo }) => [id, tempo])));
  const [log] = useState(() => new Log<TempoStep>([], () => null));
  const stacks = useSyncExternalStore(log.subscribe, log.snapshot, log.snapshot);
  const lanes = useMemo(() => parts.map(({ id }) => ({ id, lane: `settings ${id}` })), [parts]);
  useEffect(() => {
    const follow = (id: string, body: Body) => {
      const tempo = tempoOf(body);
      if (tempo !== undefined) setTempi((before) => ({ ...before, [id]: tempo }));
    };
    const stops = lanes.map(({ id, lane }) => {
      void outbox()
        ?.left(lane, VIEW_MS)
        .then(({ stored, waiting }) => [...stored, ...waiting].forEach(({ body }) => follow(id, body)));
      return outbox()?.follow(lane, (event) => {
        if (event.is === 'made elsewhere') follow(id, event.entry.body);
        if (event.is === 'stored elsewhere') follow(id, event.body);
      });
    });
    return () => stops.forEach((stop) => stop?.());
  }, [lanes]);

  function put(after: Tempi, before: Tempi, reason: string): void {
    setTempi((now) => ({ ...now, ...after }));
    for (const [id, tempo] of Object.entries(after)) {
      const part = parts.find((each) => each.id === id)!;
      const named = { id, name: `${part.name}, ${title}` };
      outbox()?.add(
        { about: 'settings', part: named, change: { tempo }, deed: { ...newDeed(reason), before: { tempo: before[id] ?? null } } },
        crypto.randomUUID(),
      );
    }
  }

  return {
    tempi,
    want(tempo, partIds) {
      const change = Object.fromEntries(partIds.filter((id) => tempi[id] !== tempo).map((id) => [id, tempo]));
      if (Object.keys(change).length === 0) return;
      const before = Object.fromEntries(Object.keys(change).map((id) => [id, tempi[id] ?? null]));
      const reason = tempo === null ? 'Tempo of all parts as printed' : `Tempo of all parts ${Math.round(tempo * 10) / 10}`;
      log.add({ id: crypto.randomUUID(), at: laterThanBefore(), reason, undoes: null, before, after: change }, crypto.randomUUID());
      put(change, before, reason);
    },
    lane: {
      stacks,
      takeBack(row) {
        const step = row as TempoStep;
        const back = takingBack(step, crypto.randomUUID(), laterThanBefore());
        log.add({ ...back, before: step.after, after: step.before }, crypto.randomUUID());
        put(step.before, step.after, back.reason);
      },
    },
  };
}
