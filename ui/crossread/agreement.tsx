import type { Agreement } from '@/core/ensemble/groups';

/** In words, and as a shape: agreement is never said by colour alone. */
export const AGREEMENT: Readonly<Record<Agreement, { words: string; colour: string; path: string }>> = {
  agree: { words: 'together', colour: 'var(--spruce)', path: 'M2 5h10M2 9h10' },
  'print differs': { words: 'same rhythm, other print', colour: 'var(--rosin)', path: 'M2 7q2.5-5 5 0t5 0' },
  'opposite bows': { words: 'opposite bows', colour: 'var(--plum)', path: 'M3 3l8 8M11 3l-8 8' },
};

export function AgreementSign({ agreement }: { agreement: Agreement }) {
  const { colour, path } = AGREEMENT[agreement];
  return (
    <svg width={14} height={14} viewBox="0 0 14 14" aria-hidden className="shrink-0">
      <path d={path} fill="none" stroke={colour} strokeWidth={2} strokeLinecap="round" />
    </svg>
  );
}
