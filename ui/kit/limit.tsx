/** How much more fits in a field: said once it is nearly full, so that nobody wonders why typing stops. */
export function LimitHint({ text, limit }: { text: string; limit: number }) {
  const left = limit - text.length;
  if (left > limit / 5) return null;
  return (
    <span role="status" className={`block text-xs ${left <= 0 ? 'text-plum' : 'text-soft'}`}>
      {left > 0 ? `${left} of ${limit} characters left` : `${limit} characters: no more fit here`}
    </span>
  );
}
