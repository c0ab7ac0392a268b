'use client';

import { useMemo } from 'react';
import type { Stroke } from '@/core/bow-arm/describe';
import type { Report } from '@/core/checks/check';
import { onOpenStrings } from '@/core/playback/on-open-strings';
import { bowInForce, fingerInForce, type Marking } from '@/core/marking/mark';
import type { Passage } from '@/core/score/passages';
import type { Part } from '@/core/score/score';
import { previewedNotes, previewedStrokes, withNotes } from './preview';
import type { Choices } from './use-choices';
import type { TriedPlan } from './use-findings';

interface Asked {
  report: Report | null;
  choices: Choices;
  part: Part | null;
  passage: Passage;
  marking: Marking;
  /** With a stroke's end where it is dragged to. */
  dragged: readonly Stroke[] | null;
  /** With a remedy that is pointed at. */
  tried: TriedPlan | null;
  /** Without the left hand. */
  onStrings: boolean;
}

/** What the tracks and the lists show of the report, with the highlighted choice put in. */
export function useDrawn({ report, choices, part, passage, marking, dragged, tried, onStrings }: Asked) {
  const { suggestions, ofNote, ofBow, highlighted } = choices;
  const planned = report?.fingering?.notes ?? NONE;
  const previewed = useMemo(() => previewedNotes(planned, { suggestions, ofNote, ofBow, highlighted }), [planned, suggestions, ofNote, ofBow, highlighted]);
  const notes = useMemo(() => {
    const fingered = tried ? withNotes(planned, tried.notes) : previewed;
    return onStrings ? onOpenStrings(fingered) : fingered;
  }, [tried, planned, previewed, onStrings]);
  const plannedStrokes = report?.bowing?.strokes ?? NONE;
  const previewedBow = useMemo(
    () => previewedStrokes(plannedStrokes, { suggestions, ofNote, ofBow, highlighted }, part, passage, dragged ?? tried?.strokes ?? null),
    [plannedStrokes, suggestions, ofNote, ofBow, highlighted, part, passage, dragged, tried],
  );
  const findings = useMemo(
    () => report?.findings.filter((finding) => finding.barIndex >= passage.fromBar && finding.barIndex <= passage.toBar) ?? [],
    [report, passage],
  );
  const [fingersMarked, bowsMarked] = useMemo(() => {
    const having = (inForce: typeof fingerInForce | typeof bowInForce) =>
      new Set(part?.notes.filter((note) => inForce(note, marking) !== null).map((note) => note.id));
    return [having(fingerInForce), having(bowInForce)] as const;
  }, [part, marking]);
  return { notes, strokes: previewedBow, findings, fingersMarked, bowsMarked, risks: report?.risks ?? NONE };
}

const NONE: never[] = [];
