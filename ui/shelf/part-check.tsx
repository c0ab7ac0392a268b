/** What the last check of a part came to. */
export interface PartCheck {
  counts: [watch: number, risk: number, fail: number] | null;
  worst: { bar: string; text: string } | null;
  trouble: string | null;
  isCurrent: boolean;
}

/** "2 will fail, 5 at risk": what one goes to first. */
export function checkInWords({ counts, trouble }: Pick<PartCheck, 'counts' | 'trouble'>): string {
  if (!counts) return trouble ? 'too long to be checked as a whole' : 'not checked';
  const [watch, risk, fail] = counts;
  const said = [fail && `${fail} will fail`, risk && `${risk} at risk`, watch && `${watch} to watch`].filter(Boolean);
  return said.length ? said.slice(0, 2).join(', ') : 'nothing found';
}

export function PartCheckLine({ check }: { check: PartCheck }) {
  const { counts, worst, trouble, isCurrent } = check;
  const title = [worst && `Bar ${worst.bar}: ${worst.text}`, trouble, !isCurrent && 'It was checked before the latest changes.'].filter(Boolean).join(' ');
  const isBad = isCurrent && counts !== null && counts[2] > 0;
  return (
    <span title={title} className={`block text-xs ${isBad ? 'font-semibold text-plum' : 'text-soft'}`}>
      {checkInWords(check)}
      {!isCurrent && ' (before the latest changes)'}
    </span>
  );
}
