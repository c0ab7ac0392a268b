'use client';

type Key = string | number;

interface Props<Value extends Key> {
  label: string;
  /** The label is only heard: what stands around says it. */
  quiet?: boolean;
  value: Value;
  options: ReadonlyArray<readonly [value: Value, said: string]>;
  title?: string;
  className?: string;
  onValue(value: Value): void;
}

/** One of a few: the browser's own list, so that it works by key, touch and voice as people are used to. */
export function Select<Value extends Key>({ label, quiet = false, value, options, title, className = '', onValue }: Props<Value>) {
  const list = (
    <select
      aria-label={quiet ? label : undefined}
      title={title}
      className={`field ${quiet ? className : 'w-full'}`}
      value={value}
      onChange={(event) => onValue(options[event.target.selectedIndex]![0])}
    >
      {options.map(([each, said]) => (
        <option key={each} value={each}>
          {said}
        </option>
      ))}
    </select>
  );
  if (quiet) return list;
  return (
    <label className={`grid content-start gap-1 ${className}`}>
      <span className="text-[13px] text-soft">{label}</span>
      {list}
    </label>
  );
}
