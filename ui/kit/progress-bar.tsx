/** How far something is. */
export function ProgressBar({ label, done, of }: { label: string; done: number; of: number }) {
  return (
    <span
      role="progressbar"
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={of}
      aria-valuenow={done}
      className="h-2 w-40 overflow-hidden rounded-full border border-line bg-paper"
    >
      <span className="block h-full bg-spruce" style={{ width: `${(100 * done) / of}%` }} />
    </span>
  );
}
