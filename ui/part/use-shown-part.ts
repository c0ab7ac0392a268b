'use client';

import { useMemo } from 'react';
import { asTold, NOTHING_TOLD, readsAsItSounds, type Told } from '@/core/instruments/as-told';
import { toldOrGuessed, waysToPlay } from '@/core/instruments/play-on';
import { playerFrom, usualPlayer } from '@/core/instruments/player';
import type { Marking } from '@/core/marking/mark';
import { editedPart, isEdited } from '@/core/marking/print-edits';
import { playerNotes } from '@/core/marking/notes';
import { linesOf } from '@/core/instruments/lines';
import type { InstrumentKind, Part } from '@/core/score/score';
import type { OpenPart } from '@/workers/questions';
import type { PlayerChoice } from './part-data';

interface Asked {
  opened: OpenPart | null;
  /** With its notes and clefs as they are corrected. */
  corrected: Part | null;
  told: Told;
  /** What the marks that are shown make of it. */
  shown: Marking;
  marking: Marking;
  player: PlayerChoice | null;
  /** By the part's own name. */
  named: InstrumentKind | null;
}

/** The part in its shapes: as the file has it, with notes corrected, as told and edited, with who plays it and what is said about it. */
export function useShownPart({ opened, corrected, told, shown, marking, player, named }: Asked) {
  const as = useMemo(() => (opened ? toldOrGuessed(opened.part, told) : told), [opened, told]);
  const file = useMemo(() => opened && asTold(opened.part, as), [opened, as]);
  const print = useMemo(() => (opened && corrected === opened.part ? file : corrected && asTold(corrected, as)), [opened, corrected, file, as]);
  const part = useMemo(() => print && editedPart(print, shown), [print, shown]);
  const open = useMemo(() => (opened && part ? { ...opened, part } : null), [opened, part]);
  const kind = as.instrument ?? named;
  const concert = opened !== null && readsAsItSounds(opened.part, as);
  const moved = useMemo(() => ({ concert, octaves: as.octaves }), [concert, as.octaves]);
  /** A part for something else: what it is shown for, and what else it could be played on. */
  const playedOn = useMemo(() => {
    if (!opened || named !== null) return null;
    const staves = [...new Set(opened.part.notes.map(({ staff }) => staff))].sort((a, b) => a - b);
    const chosen = asTold(opened.part, { ...NOTHING_TOLD, staff: told.staff });
    return {
      name: opened.part.name,
      kind: as.instrument,
      octaves: as.octaves,
      told: told.instrument !== null,
      ways: waysToPlay(chosen),
      staves,
      staff: told.staff,
    };
  }, [opened, named, as, told.instrument, told.staff]);
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
  return { file, print, part, open, kind, moved, playedOn, person, instrument, lines, notes, changed, askSounds };
}
