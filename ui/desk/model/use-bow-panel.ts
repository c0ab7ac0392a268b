'use client';

import { useMemo } from 'react';
import type { Hemiola } from '@/core/bow-arm/hemiola';
import type { Report } from '@/core/checks/check';
import type { Note, Part } from '@/core/score/score';
import { changeTo } from '@/core/marking/change';
import { markAt, type Marking } from '@/core/marking/mark';
import { articulationKind, BOW_WISH_KINDS, type BowWishKind } from '@/core/marking/kinds';
import { barsTarget, barTarget } from '@/core/marking/target';
import { wishesFor, wishInWords, type Wished } from '@/core/marking/wishes';
import { ASIDE_MS, useAnalysed } from '@/ui/part/use-analyst';
import { useDesk } from './desk';

export type WishFor = 'notes' | 'passage';

/** Everything the bow side of the Choices tab shows about the selection, and what its wishes write. */
export function useBowPanel() {
  const { marking, report, drawn, passage, focus, chosen, change: onChange, view } = useDesk();
  const { part } = view;
  const { strokes } = drawn;
  const { fromBar, toBar, name } = passage;
  const noteId = focus?.id ?? null;
  const stroke = useMemo(() => (noteId === null ? null : (strokes.find((each) => each.noteIds.includes(noteId)) ?? null)), [strokes, noteId]);
  const passageTarget = fromBar === toBar ? barTarget(fromBar) : barsTarget({ fromBar, toBar });
  const slurFrom = part?.slurs.find((slur) => slur.from === noteId)?.from ?? null;
  const phrase = useMemo(() => (report && part && focus ? phraseAround(report, part, focus) : null), [report, part, focus]);
  const inForce = useMemo(() => wishesFor(marking), [marking]);
  // A wish belongs to a bow: it stands at the first note of it.
  const bows = useMemo(
    () => [...new Set(chosen.map((note) => strokes.find((each) => each.noteIds.includes(note.id))?.noteIds[0] ?? note.id))],
    [chosen, strokes],
  );

  function onWish(kind: BowWishKind, value: string | null, at: WishFor | string = 'notes') {
    const targets = at === 'passage' ? [passageTarget] : at !== 'notes' ? [at] : kind === 'slur-is' ? [slurFrom ?? bows[0]!] : bows;
    const changes = targets.flatMap((target) => changeTo(marking, target, kind, value === null ? null : { value, origin: 'coach' }) ?? []);
    const words = value === null ? null : (wishInWords(kind, value) ?? `the slur is a ${value}`);
    if (changes.length) onChange(words === null ? 'Wish taken away' : `Wish: ${words}`, changes);
  }

  function onHemiola({ noteIds }: Hemiola) {
    const accents = noteIds.map((id) => changeTo(marking, id, articulationKind('accent'), { value: 'yes', origin: 'coach' }));
    const first = changeTo(marking, noteIds[0], 'bow', { value: 'down', origin: 'coach' });
    const changes = [...accents, first].filter((change) => change !== null);
    if (changes.length) onChange('Three over two: down-bow, and an accent on every second beat', changes);
  }

  return {
    stroke,
    wished: { notes: noteId ? ownWishes(marking, stroke?.noteIds[0] ?? noteId) : {}, passage: ownWishes(marking, passageTarget) },
    count: bows.length,
    passageName: name,
    slurBegins: slurFrom !== null,
    phrase,
    chordWay: (focus && inForce([focus.id], focus.barIndex)['chord-way']) ?? 'two and two',
    onWish,
    onHemiola,
  };
}

function ownWishes(marking: Marking, target: string): Wished {
  return Object.fromEntries(
    BOW_WISH_KINDS.flatMap((kind) => {
      const mark = markAt(marking, target, kind);
      return mark && !mark.off ? [[kind, mark.value]] : [];
    }),
  );
}

/** The slur around a note that is taken for a phrase. */
function phraseAround({ bowing }: Report, part: Part, focus: Note): { from: string; bows: number } | null {
  const onsetOf = (id: string) => part.notes.find((note) => note.id === id)?.onset ?? Infinity;
  const found = bowing?.phrases.find(({ from, to }) => onsetOf(from) <= focus.onset && focus.onset <= onsetOf(to));
  return found ? { from: found.from, bows: found.bows } : null;
}

export type BowPanel = ReturnType<typeof useBowPanel>;

/** Hemiolas and the strings alone, of the passage. */
export function useBowOfPassage() {
  const { analyst, conditions, passage } = useDesk();
  const { fromBar, toBar } = passage;
  return useAnalysed({
    analyst,
    conditions,
    of: ['bow', fromBar, toBar],
    restMs: ASIDE_MS,
    keep: true,
    ask: (of) => of.bowOfPassage(conditions, { fromBar, toBar }),
  });
}
