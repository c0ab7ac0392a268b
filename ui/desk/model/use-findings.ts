'use client';

import { useMemo, useState } from 'react';
import type { Report } from '@/core/checks/check';
import { findingKey, type Finding } from '@/core/checks/finding';
import type { TriedRemedy } from '@/core/checks/remedies';
import type { Stroke } from '@/core/bow-arm/describe';
import type { FingeredNote } from '@/core/left-hand/fingering';
import type { Change } from '@/core/marking/change';
import { RECORD_VERSION } from '@/core/marking/versions';
import type { BarRange } from '@/core/score/bars';
import { LIMITS } from '@/core/util/limits';
import { cleanText, shortened } from '@/core/util/text';
import type { Problem } from '@/ui/kit/problem';
import { nameOf } from '@/ui/kit/queries';
import type { Conditions } from '@/workers/questions';
import { EVERYTHING, listed, parted, type FindingFilter } from '@/ui/part/findings-shown';
import type { AcceptedFinding } from '@/ui/part/part-data';
import { timed, useAnalysed, type RemoteAnalyst } from '@/ui/part/use-analyst';

interface Asked {
  analyst: RemoteAnalyst | null;
  conditions: Conditions;
  /** With nothing taken out. */
  report: Report | null;
  accepted: readonly AcceptedFinding[];
  passage: BarRange;
  /** The tab is open. */
  wanted: boolean;
  does: Doing;
}

/** What becomes of findings. */
interface Doing {
  accept(accepted: AcceptedFinding[]): void;
  release(id: string): void;
  change(reason: string, changes: readonly Change[]): void;
  tempo(tempo: number): void;
  /** Marks for another part of the piece. */
  elsewhere(marking: { markingId: string; part: { id: string; name: string } }, reason: string, changes: readonly Change[]): void;
}

const NOT_TRIED: Problem = {
  place: null,
  what: 'What helps could not be tried here.',
  remedy: 'Nothing was changed.',
};

/** Both hands of the passage as a remedy would have them. */
export interface TriedPlan {
  notes: readonly FingeredNote[];
  strokes: readonly Stroke[];
}

/** The findings that are told, the one that is looked at, its remedies, and the remedy that is being tried. */
export function useFindings({ analyst, conditions, report, accepted, passage, wanted, does }: Asked) {
  const [filter, setFilter] = useState<FindingFilter>(EVERYTHING);
  const [chosen, setChosen] = useState<string | null>(null);
  const [pointed, setPointed] = useState<number | null>(null);
  const { open, quiet } = useMemo(() => parted(report?.findings ?? [], accepted), [report, accepted]);
  /** The report without what was accepted: what the rail and the tracks tell. */
  const told = useMemo(() => (report && quiet.length ? { ...report, findings: open } : report), [report, open, quiet.length]);
  const current = (wanted && open.find(({ id }) => id === chosen)) || null;
  const remedies = useRemedies(analyst, conditions, current);
  const items = remedies.value;
  const tried = useTried(analyst, conditions, pointed === null ? null : (items?.[pointed] ?? null), passage);

  function take(index: number) {
    const taken = items?.[index];
    if (!taken || !current) return;
    setPointed(null);
    if (taken.changes?.length) does.change(`Bar ${current.bar}, ${current.kind}: ${taken.text}`, taken.changes);
    else if (taken.elsewhere) {
      const { partId, markingId, name, changes } = taken.elsewhere;
      does.elsewhere({ markingId, part: { id: partId, name } }, `Bowed like another part, from its bar ${current.bar}`, changes);
    } else if (taken.tempo) does.tempo(taken.tempo);
  }

  return {
    filter,
    setFilter,
    open,
    quiet,
    told,
    current,
    remedies,
    pointed,
    /** What the tracks show instead of the plan. */
    tried,
    choose(id: string | null) {
      setChosen(id);
      setPointed(null);
    },
    point: setPointed,
    take,
    takePointed: () => take(pointed ?? 0),
    stepRemedy: (by: number) => setPointed((at) => Math.max(0, Math.min((items?.length ?? 1) - 1, (at ?? -1) + by))),
    /** The finding after (or before) the one that is looked at, among those that the filter lets through. */
    next(by: number): Finding | null {
      const list = listed(open, filter);
      const at = list.findIndex(({ id }) => id === chosen);
      return list[at < 0 ? (by > 0 ? 0 : list.length - 1) : (at + by + list.length) % Math.max(1, list.length)] ?? null;
    },
    accept(findings: readonly Finding[], why: string) {
      const said = shortened(cleanText(why).trim(), LIMITS.acceptedWhy);
      does.accept(findings.map((finding) => ({ id: finding.id, key: findingKey(finding), why: said, version: RECORD_VERSION })));
    },
    bringBack: (finding: Finding) => does.release(finding.id),
  };
}

/** The remedies of the finding that is looked at, tried anew with every change. */
function useRemedies(analyst: RemoteAnalyst | null, conditions: Conditions, current: Finding | null) {
  const key = current && findingKey(current);
  const answer = useAnalysed({
    analyst,
    conditions,
    of: ['remedies', key ?? ''],
    wanted: current !== null,
    keep: true,
    ask: async (of) => ({ key, items: await timed('remedies', of.remedies(conditions, current!)) }),
    failed: NOT_TRIED,
  });
  return { ...answer, value: current && answer.value?.key === key ? answer.value.items : null };
}

/** Both hands as the remedy that is pointed at would have them. */
function useTried(analyst: RemoteAnalyst | null, conditions: Conditions, remedy: TriedRemedy | null, { fromBar, toBar }: BarRange): TriedPlan | null {
  const { value } = useAnalysed({
    analyst,
    conditions,
    of: ['tried', remedy ? nameOf(remedy) : 0, fromBar, toBar],
    wanted: Boolean(remedy?.changes?.length),
    ask: (of) => of.tried(conditions, remedy!.changes!, { fromBar, toBar }),
  });
  return remedy ? value : null;
}
