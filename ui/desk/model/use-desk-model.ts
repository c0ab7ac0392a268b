'use client';

import { useEffect, useMemo, useRef, useState } from 'react';
import type { Finding } from '@/core/checks/finding';
import { noteById } from '@/core/score/find';
import type { Part } from '@/core/score/score';
import { usePart, type OpenedPart } from '@/ui/part/use-part';
import type { SettingsChange } from '@/ui/part/use-part-settings';
import { usePlay } from '@/ui/playing/use-play';
import type { Folded } from '@/ui/score/systems';
import { useEngraving } from '@/ui/score/use-engraving';
import { useWidth } from '@/ui/score/use-width';
import type { DeskData } from './desk-data';
import { addressQuery, arrivalAt } from './passage-asked';
import { useChange } from './use-change';
import { useChoices } from './use-choices';
import { useCues } from './use-cues';
import { useDraggedBow } from './use-dragged-bow';
import { useDrawn } from './use-drawn';
import { useFindings } from './use-findings';
import { useGoing } from './use-going';
import { useSelection } from './use-selection';

export type DeskDialog = 'keys' | 'find' | 'part' | 'compare' | 'hand';

/** All that the Desk shows and does. The part itself (`ui/part`) comes first, then what is looked at in it, then both hands at this place. */
export function useDeskModel(data: DeskData) {
  const part = usePart({ data, passageIndex: data.passageIndex, onRead: (read) => arrive(read) });
  const looked = useLooked(part, data);
  const { passage, passages, view, conditions, analyst, setProblem } = part;
  const { selection, pick, clear, order, chosen, score, tab, setTab } = looked;

  const choices = useChoices({ analyst, conditions, noteId: selection.focus, passage, onProblem: setProblem });
  const going = useGoing({
    part: view.part,
    passages: passages.list,
    passage,
    order,
    score,
    setCurrent: passages.setCurrent,
    pick,
    clear,
    closeChoices: choices.close,
  });
  const endWhatWasOffered = () => {
    looked.setSaid(null);
    choices.close();
  };
  const change = useChange(part, endWhatWasOffered);
  function setting(next: SettingsChange) {
    endWhatWasOffered();
    part.settings.set(next);
  }
  const spots = useFindings({
    analyst,
    conditions,
    report: part.checked,
    accepted: part.settings.accepted,
    passage,
    wanted: tab === 'findings',
    does: {
      accept: (findings) => setting({ accept: findings }),
      release: (id) => setting({ release: [id] }),
      change,
      tempo: (tempo) => setting({ tempo }),
      elsewhere: part.elsewhere.make,
    },
  });
  const shown = useShown({ part, looked, choices, spots, change });
  const cues = useCues({ ...part, part: view.part, from: chosen[0]?.onset ?? view.part?.bars[passage.fromBar]?.onset ?? 0, change, onProblem: setProblem });

  /** Goes where the address says, in words that only the part can resolve: letters, notes, "upbeat to 31". */
  function arrive(read: Part) {
    const arrival = arrivalAt(read, part.passages.list, data);
    if (arrival.passage !== null) part.passages.setCurrent(arrival.passage);
    if (arrival.noteId !== null) looked.pick(arrival.noteId, false);
    if (arrival.problem) part.setProblem(arrival.problem);
  }

  function lookAt(finding: Finding) {
    setTab('findings');
    spots.choose(finding.id);
    going.go(finding.noteIds[0]!);
  }

  return { ...part, ...looked, ...going, ...shown, data, choices, change, setting, spots, cues, lookAt, chosen };
}

export type DeskModel = ReturnType<typeof useDeskModel>;

interface ToShow {
  part: OpenedPart;
  looked: ReturnType<typeof useLooked>;
  choices: ReturnType<typeof useChoices>;
  spots: ReturnType<typeof useFindings>;
  change: ReturnType<typeof useChange>;
}

/** What is drawn and played: the plan, or what is being tried. */
function useShown({ part, looked, choices, spots, change }: ToShow) {
  const { analyst, conditions, passage, view, marking, settings, setProblem } = part;
  const report = spots.told;
  const dragged = useDraggedBow(analyst, conditions, passage, report, change);
  const drawn = useDrawn({
    report,
    choices,
    part: view.part,
    passage,
    marking,
    dragged: dragged.strokes,
    tried: spots.tried,
    onStrings: looked.onStrings,
  });
  const play = usePlay({
    open: view.open,
    instrument: view.instrument,
    tempo: settings.tempo,
    line: settings.line,
    passage,
    focus: looked.focus,
    onProblem: setProblem,
  });
  return { report, dragged, drawn, play };
}

/** What is looked at: tab, dialog, notes, and the passage as it is engraved. */
function useLooked(part: OpenedPart, data: DeskData) {
  const { view, passage, passages, conditions } = part;
  const [tab, setTab] = useState(data.tab);
  const [dialog, setDialog] = useState<DeskDialog | null>(null);
  const [folded, setFolded] = useState<Folded>({ hand: false, bow: false, strings: false, risk: false });
  /** The music alone, for reading. */
  const [calm, setCalm] = useState(false);
  const [asTable, setAsTable] = useState(false);
  const [byButtons, setByButtons] = useState(false);
  const [onStrings, setOnStrings] = useState(false);
  /** What was just done, or why it was not; until something else is. */
  const [said, setSaid] = useState<string | null>(null);
  const score = useRef<HTMLDivElement>(null);
  const widthPx = useWidth(score, data.widthPx);
  const selected = useSelection(view.part, data.noteId);
  const { selection, chosen } = selected;
  const focus = selection.focus && view.part ? noteById(view.part, selection.focus) : undefined;
  /** The bars that are drawn: the passage, and for reading the whole part. */
  const seen = useMemo(() => (calm && view.part ? { fromBar: 0, toBar: view.part.bars.length - 1 } : passage), [calm, view.part, passage]);
  const engraved = useEngraving({
    partId: data.part.id,
    range: seen,
    widthPx,
    moved: view.moved,
    marking: conditions.marking,
    first: { engraving: data.engraving, widthPx: data.widthPx },
    ahead: passages.list[passages.current + 1],
    reach: focus?.barIndex ?? (calm ? passage.toBar : null),
  });
  const chosenIds = useMemo(() => new Set(chosen.map((note) => note.id)), [chosen]);
  const selectionBars = chosen.length ? { fromBar: chosen[0]!.barIndex, toBar: chosen.at(-1)!.barIndex } : null;

  // The address says which passage, note and tab are shown, in the words that people use.
  const { print } = view;
  useEffect(() => {
    if (print) window.history.replaceState(null, '', `/desk/${data.part.id}?${addressQuery(print, passage, selection.focus, tab)}`);
  }, [print, data.part.id, passage, selection.focus, tab]);

  return {
    ...selected,
    focus,
    chosenIds,
    selectionBars,
    tab,
    setTab,
    dialog,
    setDialog,
    seen,
    calm,
    setCalm,
    folded,
    setFolded,
    asTable,
    setAsTable,
    byButtons,
    setByButtons,
    onStrings,
    setOnStrings,
    said,
    setSaid,
    score,
    engraved,
  };
}
