'use client';

import { useMemo, useState } from 'react';
import type { Passage } from '@/core/score/passages';
import type { Part } from '@/core/score/score';
import type { Problem } from '@/ui/kit/problem';
import type { Conditions } from '@/workers/questions';
import type { PartData } from './part-data';
import { useLive } from './live';
import { nextStep } from './undo-chain';
import { useAnalyst, useOthers, useReport } from './use-analyst';
import { useCorrected } from './use-corrected';
import { useElsewhere } from './use-elsewhere';
import { useMarking, useShownMarking } from './use-marking';
import { usePartSettings } from './use-part-settings';
import { usePassages } from './use-passages';
import { usePlayers } from './use-players';
import { useShownPart } from './use-shown-part';
import { usePlayersMarking } from './use-variant';

interface Asked {
  data: PartData;
  passageIndex: number;
  onRead(part: Part): void;
}

/** A part with all that is said about it, checked: its marks, passages, settings, player, and the chain of undo. What every screen of a part needs. */
export function usePart({ data, passageIndex, onRead }: Asked) {
  const [problem, setProblem] = useState<Problem | null>(null);
  const [showPrint, setShowPrint] = useState(false);
  const [named] = useState({ id: data.part.id, name: `${data.part.name}, ${data.title}` });
  const { store, state } = useMarking(named, data.markingId, data.marking, data.history);
  const { analyst, open: opened, failed } = useAnalyst(data.part.id, data.musicVersion, onRead);
  const passages = usePassages(named, data.passages, passageIndex, data.deeds.passages);
  const settings = usePartSettings(named, data.settings, data.deeds.settings);
  const { players, changeHand } = usePlayers(data.players);
  const live = useLive({ part: named, seen: data.seen, musicVersion: data.musicVersion });

  const player = players.find((each) => each.id === settings.playerId) ?? null;
  const own = usePlayersMarking({ part: named, everybody: store, base: state, player, first: data.variant, onProblem: setProblem });
  const { marking } = own;
  const shown = useShownMarking(marking, showPrint);
  const corrected = useCorrected({ analyst, opened, shown, onProblem: setProblem });
  const view = useShownPart({ opened, corrected, told: settings.told, shown, marking, player, named: data.part.instrument });
  const passage = usePassageShown(passages, view.part);
  const conditions = useConditions(shown, player, settings);

  const [wasChecked, setWasChecked] = useState(false);
  const others = useOthers(analyst, data.part.id, wasChecked && data.siblings.length > 1);
  const isOpen = (markingId: string) => markingId === data.markingId || own.isOpen(markingId);
  const elsewhere = useElsewhere(named, data.elsewhere, isOpen, (set, partId) => void analyst?.joined(partId, set.changes).then(others.note));
  const ownLanes = [...own.undoLanes, passages.undoLane, settings.undoLane];
  const lanes = [...ownLanes, ...elsewhere.lanes(ownLanes)];
  const { report, whole, tempi, failed: checkFailed } = useReport(analyst, conditions, passages.list, others.known, passage);
  if (whole && !wasChecked) setWasChecked(true);

  return {
    data,
    live,
    problem,
    setProblem,
    analyst,
    opened,
    failed,
    passages,
    /** The passage that is open, or all of the part. */
    passage,
    settings,
    /** Of the part's instrument. */
    players: players.filter((each) => view.kind === null || each.instrument === view.kind),
    player,
    changeHand,
    own,
    marking,
    view,
    conditions,
    /** The check with nothing taken out. */
    checked: report,
    /** It is of the whole part as it is marked now, not of the passage on view alone. */
    wholeChecked: whole,
    /** Up to which tempo it works, the best over plans. */
    tempi,
    checkFailed,
    /** How often that changed what is known of the other parts; 0 until they are there. */
    known: others.known,
    elsewhere,
    undo: nextStep(lanes, 'undo'),
    redo: nextStep(lanes, 'redo'),
    showPrint,
    setShowPrint,
  };
}

export type OpenedPart = ReturnType<typeof usePart>;

function usePassageShown({ list, current }: { list: readonly Passage[]; current: number }, part: Part | null): Passage {
  return useMemo(() => list[current] ?? { name: 'the part', fromBar: 0, toBar: Math.max(0, (part?.bars.length ?? 1) - 1) }, [list, current, part]);
}

type Settings = Pick<Conditions, 'tempo' | 'told' | 'preferences' | 'density' | 'intonation' | 'line'>;

/** What the analyst is asked under; the same value while nothing of it changes. */
export function useConditions(marking: Conditions['marking'], player: Conditions['player'], settings: Settings): Conditions {
  const { tempo, told, preferences, density, intonation, line } = settings;
  return useMemo(
    () => ({ marking, player, tempo, told, preferences, density, intonation, line }),
    [marking, player, tempo, told, preferences, density, intonation, line],
  );
}
