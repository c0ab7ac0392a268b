'use client';

import { useState } from 'react';
import { CARRIED, type Carried } from '@/core/ensemble/carry';
import type { Member, RhythmGroup } from '@/core/ensemble/groups';
import type { Agreed } from '@/core/ensemble/together';
import type { CarriedTo, EntryShown } from '@/workers/score-questions';
import { barsText } from './bars-text';
import type { Score } from './use-score';

/** What is done to several parts at once: each is one step of undo over all that it touches. */
export function useDeeds(score: Score, make: (reason: string, all: readonly CarriedTo[]) => void, group: RhythmGroup | null) {
  const { shown } = score;
  const [agreed, setAgreed] = useState<(Agreed & { id: string }) | null>(null);
  /** An entry whose cue no note values can say. */
  const [notSaid, setNotSaid] = useState<string | null>(null);
  const bars = (of: RhythmGroup) => barsText(shown!.bars, of);

  /** Carries from one member to the others; nothing is written where they do it already. */
  async function carry(what: readonly Carried[], of: RhythmGroup, from: Member) {
    const all = await Promise.all(what.map((each) => score.carried(each, of, from, of.members)));
    const byPart = new Map<string, Awaited<typeof all>[number][number]['changes']>();
    for (const { partId, changes } of all.flat()) byPart.set(partId, [...(byPart.get(partId) ?? []), ...changes]);
    const names = what.length === CARRIED.length ? 'All' : what.map((each) => each[0]!.toUpperCase() + each.slice(1)).join(', ');
    make(
      `${names} as ${from.name}, ${bars(of)}`,
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
    make(`Bowed together${agreed.model ? ` as ${agreed.model.name}` : ''}, ${bars(of)}`, agreed.to);
    setAgreed(null);
  }

  async function leave(of: RhythmGroup, because: string | null) {
    make(because === null ? `Looked at again, ${bars(of)}` : `Left apart, ${bars(of)}: ${because}`, await score.left(of, because));
  }

  async function printCue({ partId, noteId, at, cues }: Pick<EntryShown, 'partId' | 'noteId' | 'at' | 'cues'>, index: number) {
    const made = await score.cue(partId, noteId, index);
    if (made.length) make(`${at}: cue of ${cues[index]!.name}`, made);
    else setNotSaid(noteId);
  }

  async function takeCue({ partId, barIndex, at }: Pick<EntryShown, 'partId' | 'barIndex' | 'at'>) {
    make(`${at}: cue taken away`, await score.withoutCue(partId, barIndex));
  }

  return {
    carry,
    propose,
    takeAgreed,
    forgetAgreed: () => setAgreed(null),
    agreed: agreed?.id === group?.id ? agreed : null,
    leave,
    printCue,
    takeCue,
    notSaid,
  };
}
