'use client';

interface Props<Value extends string> {
  label: string;
  /** Name in the form. */
  name: string;
  /** It is what the page came with; the form knows what is chosen. */
  first: Value;
  options: ReadonlyArray<readonly [value: Value, said: string]>;
  onChange(value: Value): void;
}

/** A choice beside its label, in a form that also works without scripts. */
export function LabelledSelect<Value extends string>({ label, name, first, options, onChange }: Props<Value>) {
  return (
    <label className="flex items-center gap-2">
      <span className="text-soft">{label}</span>
      <select key={first} name={name} className="field" defaultValue={first} onChange={(event) => onChange(event.target.value as Value)}>
        {options.map(([value, said]) => (
          <option key={value} value={value}>
            {said}
          </option>
        ))}
      </select>
    </label>
  );
}
