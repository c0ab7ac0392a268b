'use client';

import { useEffect, useMemo, useState } from 'react';
import type { Report } from '@/core/checks/check';
import { findingKey, type Finding } from '@/core/checks/finding';
import type { TriedRemedy } from '@/core/checks/remedies';
import type { Stroke } from '@/core/bow-arm/describe';
import type { FingeredNote } from '@/core/left-hand/fingering';
import type { Change } from '@/core/marking/change';
import { RECORD_VERSION } from '@/core/marking/versions';
import { LIMITS } from '@/core/util/limits';
import { cleanText, shortened } from '@/core/util/text';
import type { Problem } from '@/ui/kit/problem';
import type { Conditions } from '@/workers/analyst';
import { EVERYTHING, parted, passes, type FindingFilter } from '@/ui/part/findings-shown';
import type { AcceptedFinding } from '@/ui/part/part-data';
import { timed, type RemoteAnalyst } from '@/ui/part/use-analyst';

interface Asked {
  analyst: RemoteAnalyst | null;
  conditions: Conditions;
  /** With nothing taken out. */
  report: Report | null;
  accepted: readonly AcceptedFinding[];
  /** The tab is open. */
  wanted: boolean;
  onAccept(accepted: AcceptedFinding): void;
  onRelease(id: string): void;
  onChange(reason: string, changes: readonly Change[]): void;
  onTempo(tempo: number): void;
  /** Marks for another part of the piece. */
  onElsewhere(marking: { markingId: string; part: { id: string; name: string } }, reason: string, changes: readonly Change[]): void;
  onProblem(problem: Problem): void;
}

const NOT_TRIED: Problem = {
  place: null,
  what: 'What helps could not be tried here.',
  remedy: 'Nothing was changed; choose the finding again, or reload the page.',
};

/** Both hands as a remedy would have them. */
export interface TriedPlan {
  notes: readonly FingeredNote[];
  strokes: readonly Stroke[];
}

/** The findings that are told, the one that is looked at, its remedies, and the remedy that is being tried. */
export function useFindings({ analyst, conditions, report, accepted, wanted, onAccept, onRelease, onChange, onTempo, onElsewhere, onProblem }: Asked) {
  const [filter, setFilter] = useState<FindingFilter>(EVERYTHING);
  const [chosen, setChosen] = useState<string | null>(null);
  const [remedies, setRemedies] = useState<{ key: string; items: TriedRemedy[] } | null>(null);
  const [pointed, setPointed] = useState<number | null>(null);
  const [tried, setTried] = useState<{ of: TriedRemedy; plan: TriedPlan } | null>(null);
  const { open, quiet } = useMemo(() => parted(report?.findings ?? [], accepted), [report, accepted]);
  /** The report without what was accepted: what the rail and the tracks tell. */
  const told = useMemo(() => (report && quiet.length ? { ...report, findings: open } : report), [report, open, quiet.length]);
  const current = (wanted && open.find(({ id }) => id === chosen)) || null;
  const key = current && findingKey(current);
  const items = remedies && remedies.key === key ? remedies.items : null;

  // The remedies of the finding that is looked at, tried anew with every change.
  useEffect(() => {
    if (!analyst || !current || !key) return;
    let gone = false;
    timed('remedies', analyst.remedies(conditions, current)).then(
      (found) => {
        if (!gone) setRemedies({ key, items: found });
      },
      () => !gone && onProblem(NOT_TRIED),
    );
    return () => {
      gone = true;
    };
  }, [analyst, conditions, current, key, onProblem]);

  const remedy = pointed === null ? null : (items?.[pointed] ?? null);
  // A remedy that is pointed at is shown in the tracks.
  useEffect(() => {
    if (!analyst || !remedy?.changes?.length) return;
    let gone = false;
    analyst.tried(conditions, remedy.changes).then(
      (plan) => {
        if (!gone) setTried({ of: remedy, plan });
      },
      () => !gone && onProblem(NOT_TRIED),
    );
    return () => {
      gone = true;
    };
  }, [analyst, conditions, remedy, onProblem]);

  function choose(id: string | null) {
    setChosen(id);
    setPointed(null);
  }

  function take(index: number) {
    const taken = items?.[index];
    if (!taken || !current) return;
    setPointed(null);
    if (taken.changes?.length) onChange(`Bar ${current.bar}, ${current.kind}: ${taken.text}`, taken.changes);
    else if (taken.elsewhere) {
      const { partId, markingId, name, changes } = taken.elsewhere;
      onElsewhere({ markingId, part: { id: partId, name } }, `Bowed like another part, from its bar ${current.bar}`, changes);
    } else if (taken.tempo) onTempo(taken.tempo);
  }

  return {
    filter,
    setFilter,
    open,
    quiet,
    told,
    current,
    remedies: items,
    pointed,
    /** What the tracks show instead of the plan. */
    tried: remedy && tried?.of === remedy ? tried.plan : null,
    choose,
    point: setPointed,
    take,
    takePointed: () => take(pointed ?? 0),
    stepRemedy: (by: number) => setPointed((at) => Math.max(0, Math.min((items?.length ?? 1) - 1, (at ?? -1) + by))),
    /** The finding after (or before) the one that is looked at, among those that the filter lets through. */
    next(by: number): Finding | null {
      const list = open.filter((finding) => passes(finding, filter));
      const at = list.findIndex(({ id }) => id === chosen);
      return list[at < 0 ? (by > 0 ? 0 : list.length - 1) : (at + by + list.length) % Math.max(1, list.length)] ?? null;
    },
    accept: (finding: Finding, why: string) =>
      onAccept({ id: finding.id, key: findingKey(finding), why: shortened(cleanText(why).trim(), LIMITS.acceptedWhy), version: RECORD_VERSION }),
    bringBack: (finding: Finding) => onRelease(finding.id),
  };
}

export type Findings = ReturnType<typeof useFindings>;
