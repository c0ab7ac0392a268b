/** Which findings are shown: by hand, kind and severity, and without those that were accepted. Plain functions. */
import { findingKey, type Finding } from '@/core/checks/finding';
import { FINDINGS, type FindingKind } from '@/core/checks/kinds';
import type { AcceptedFinding } from './part-data';

export const SIDES = ['all', 'left hand', 'bow', 'music'] as const;
export type Side = (typeof SIDES)[number];

export interface FindingFilter {
  side: Side;
  kind: FindingKind | 'all';
  /** Least severity. */
  from: 1 | 2 | 3;
  order: 'bars' | 'worst first';
}

export const EVERYTHING: FindingFilter = { side: 'all', kind: 'all', from: 1, order: 'bars' };

export const sideOf = (kind: FindingKind): Side => FINDINGS[kind].side;

export const passes = ({ kind, severity }: Finding, filter: FindingFilter): boolean =>
  severity >= filter.from && (filter.kind === 'all' || filter.kind === kind) && (filter.side === 'all' || sideOf(kind) === filter.side);

/** Those that a filter lets through, in its order. */
export function listed(findings: readonly Finding[], filter: FindingFilter): Finding[] {
  const shown = findings.filter((finding) => passes(finding, filter));
  return filter.order === 'bars' ? shown : shown.sort((a, b) => b.severity - a.severity);
}

/** Findings that say the same of several places. */
export interface SameFindings {
  first: Finding;
  all: Finding[];
}

/** What is said in the same words of several places is one finding with its places; it stands where the first of them does. */
export function grouped(findings: readonly Finding[]): SameFindings[] {
  const groups = new Map<string, SameFindings>();
  for (const finding of findings) {
    const key = JSON.stringify([finding.kind, finding.severity, finding.text]);
    const group = groups.get(key);
    if (group) group.all.push(finding);
    else groups.set(key, { first: finding, all: [finding] });
  }
  return [...groups.values()];
}

/** An accepted finding comes back as soon as anything it depends on has changed. */
export function acceptedNow(finding: Finding, accepted: readonly AcceptedFinding[]): AcceptedFinding | null {
  const found = accepted.find(({ id }) => id === finding.id);
  return found && found.key === findingKey(finding) ? found : null;
}

/** Those of a list that are to be told, and those that are quiet. */
export function parted(
  findings: readonly Finding[],
  accepted: readonly AcceptedFinding[],
): { open: Finding[]; quiet: Array<{ finding: Finding; why: string }> } {
  const open: Finding[] = [];
  const quiet: Array<{ finding: Finding; why: string }> = [];
  for (const finding of findings) {
    const known = acceptedNow(finding, accepted);
    if (known) quiet.push({ finding, why: known.why });
    else open.push(finding);
  }
  return { open, quiet };
}
