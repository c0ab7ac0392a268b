'use client';

import { useMemo } from 'react';
import { asTold, type Told } from '@/core/instruments/as-told';
import { playerFrom, usualPlayer } from '@/core/instruments/player';
import type { Marking } from '@/core/marking/mark';
import { editedPart, isEdited } from '@/core/marking/print-edits';
import { playerNotes } from '@/core/marking/notes';
import { linesOf } from '@/core/score/lines';
import type { InstrumentKind } from '@/core/score/score';
import type { OpenPart } from '@/workers/analyst';
import type { PlayerChoice } from './types';

interface Asked {
  opened: OpenPart | null;
  told: Told;
  /** What the marks that are shown make of it. */
  shown: Marking;
  marking: Marking;
  player: PlayerChoice | null;
  /** By the part's own name. */
  named: InstrumentKind | null;
}

/** The part in its shapes: as printed, as told and edited, with who plays it and what is said about it. */
export function useShownPart({ opened, told, shown, marking, player, named }: Asked) {
  const print = useMemo(() => opened && asTold(opened.part, told), [opened, told]);
  const part = useMemo(() => print && editedPart(print, shown), [print, shown]);
  const open = useMemo(() => (opened && part ? { ...opened, part } : null), [opened, part]);
  const kind = told.instrument ?? named;
  /** Instrument and hand as the core knows them. */
  const person = useMemo(() => {
    const made = player ? playerFrom(player) : null;
    return made?.ok ? made.value : usualPlayer(kind ?? 'violin');
  }, [player, kind]);
  const { instrument } = person;
  const lines = useMemo(() => (part ? linesOf(part).length : 1), [part]);
  const notes = useMemo(() => (print ? playerNotes(print, marking) : []), [print, marking]);
  const changed = useMemo(() => new Set(part?.notes.filter((note) => isEdited(note, shown)).map((note) => note.id)), [part, shown]);
  /** A solo-tuned bass: only the coach knows whether the part is written for the fingers or for the ear. */
  const askSounds = kind === 'bass' && player?.tuning === 'solo' && told.sounds === 'file' && opened !== null && !opened.part.transposesItself;
  return { print, part, open, kind, person, instrument, lines, notes, changed, askSounds };
}
