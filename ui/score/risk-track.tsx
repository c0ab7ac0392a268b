/** Risk: one stem per note that may go wrong; height is the chance, shape and letter the cause, never colour alone. */
import { memo } from 'react';
import { FINDINGS, labelOf, type FindingKind, type Shape } from '@/core/checks/kinds';
import type { NoteRisk } from '@/core/checks/context';
import type { Finding } from '@/core/checks/finding';
import type { System } from './engraving';
import { useHeights } from './heights';
import { LABEL_WIDTH, Row, textWidth } from './layout';

/** A chance of this much fills the height. */
const FULL = 0.6;

interface Props {
  system: System;
  risks: readonly NoteRisk[];
  findings: readonly Finding[];
  /** Label of a bar by note id, so that only the worst spot of a bar is labelled. */
  barOf: (noteId: string) => number;
}

export const RiskTrack = memo(function RiskTrack({ system, risks, findings, barOf }: Props) {
  const height = useHeights().risk;
  const base = height - 6;
  const end = system.widthPx - 4;
  const drawn = risks.filter((risk) => system.heads[risk.noteId]);
  const severity = new Map<string, number>();
  for (const finding of findings) for (const id of finding.noteIds.slice(0, 1)) severity.set(id, Math.max(severity.get(id) ?? 0, finding.severity));
  const spots = worstByBar(
    findings.filter((finding) => finding.noteIds.some((id) => system.heads[id])),
    barOf,
  );
  const row = new Row();
  const stems = [...severity.keys()].map((id) => system.heads[id]?.x ?? -1);
  const clearOfStems = (from: number, to: number) => stems.every((x) => x < from || x > to);
  return (
    <svg width={system.widthPx} height={height} className="block" role="img" aria-label={`Risk: ${spots.length} bars with a finding in this system.`}>
      <line x1={LABEL_WIDTH} x2={end} y1={base} y2={base} stroke="var(--line)" />
      <text x={0} y={base + 3} fontSize={12} fill="var(--soft)">
        risk
      </text>
      {drawn.map((risk) => {
        const x = system.heads[risk.noteId]!.x;
        const bad = (severity.get(risk.noteId) ?? 0) > 0;
        const tall = Math.min(1, risk.chance / FULL) * (base - 8);
        if (!bad && risk.chance < 0.01) return <circle key={risk.noteId} cx={x} cy={base} r={1.5} fill="var(--line)" />;
        return (
          <g key={risk.noteId}>
            <line x1={x} x2={x} y1={base} y2={base - tall} stroke={bad ? 'var(--plum)' : 'var(--soft)'} strokeWidth={bad ? 2.5 : 1.2} />
            <Outline cause={risk.cause} x={x} y={base - tall} size={bad ? 4.5 : 2.5} colour={bad ? 'var(--plum)' : 'var(--soft)'} />
          </g>
        );
      })}
      {spots.map((finding) => {
        const id = finding.noteIds.find((each) => system.heads[each]);
        if (!id) return null;
        const x = system.heads[id]!.x;
        const label = labelOf(finding);
        const width = textWidth(label);
        const at = [x + 8, x - 8 - width].find(
          (from) => from >= LABEL_WIDTH && from + width <= end && clearOfStems(from, from + width) && row.claim({ from, to: from + width }),
        );
        const chance = drawn.find((risk) => risk.noteId === id)?.chance ?? 0;
        const y = Math.max(12, base - Math.min(1, chance / FULL) * (base - 8) + 3);
        return (
          <g key={finding.id}>
            {finding.kind !== 'out-of-tune risk' && <Outline cause={finding.kind} x={x} y={base - 4} size={4.5} colour="var(--plum)" />}
            {at !== undefined && (
              <text x={at} y={Math.min(y, base - 4)} fontSize={12} fontWeight={600} fill="var(--plum)">
                {label}
              </text>
            )}
          </g>
        );
      })}
    </svg>
  );
});

function worstByBar(findings: readonly Finding[], barOf: (noteId: string) => number): Finding[] {
  const worst = new Map<number, Finding>();
  for (const finding of findings) {
    const bar = barOf(finding.noteIds[0]!);
    const best = worst.get(bar);
    if (!best || finding.severity > best.severity) worst.set(bar, finding);
  }
  return [...worst.values()].sort((a, b) => b.severity - a.severity);
}

/** Causes of a risk that are no findings. */
const CAUSES: Readonly<Record<string, Shape>> = { shift: 'diamond', extension: 'triangle up', 'cold entry': 'square' };

const shapeOf = (cause: string): Shape => (cause in FINDINGS ? FINDINGS[cause as FindingKind].shape : (CAUSES[cause] ?? 'dot'));

/** Each cause has its own outline. */
function Outline({ cause, x, y, size, colour }: { cause: string; x: number; y: number; size: number; colour: string }) {
  switch (shapeOf(cause)) {
    case 'diamond':
      return <path d={`M${x} ${y - size} L${x + size} ${y} L${x} ${y + size} L${x - size} ${y} Z`} fill={colour} />;
    case 'triangle up':
      return <path d={`M${x} ${y - size} L${x + size} ${y + size} L${x - size} ${y + size} Z`} fill={colour} />;
    case 'square':
      return <rect x={x - size * 0.85} y={y - size * 0.85} width={size * 1.7} height={size * 1.7} fill={colour} />;
    case 'triangle down':
      return <path d={`M${x - size} ${y - size} H${x + size} L${x} ${y + size} Z`} fill={colour} />;
    case 'bar':
      return <rect x={x - size} y={y - size / 2} width={size * 2} height={size} fill="none" stroke={colour} strokeWidth={1.5} />;
    case 'cross':
      return <path d={`M${x - size} ${y - size} L${x + size} ${y + size} M${x + size} ${y - size} L${x - size} ${y + size}`} stroke={colour} strokeWidth={2} />;
    case 'dot':
      return <circle cx={x} cy={y} r={size} fill={colour} />;
  }
}
