'use client';

import type { ReactNode } from 'react';
import { useWatch, type FieldPath, type FieldValues, type UseFormReturn } from 'react-hook-form';
import { LimitHint } from './limit';

interface Props<Values extends FieldValues, Sent> {
  form: UseFormReturn<Values, unknown, Sent>;
  name: FieldPath<Values>;
  label: string;
  /** Characters. */
  limit: number;
  /** What may be chosen from; other words may be typed all the same. */
  offered?: ReadonlyArray<readonly [value: string, said: string]>;
  /** What may be said here. */
  hint?: ReactNode;
}

/** Words in a form, with what is wrong with them said where they stand. */
export function FormField<Values extends FieldValues, Sent>({ form, name, label, limit, offered, hint }: Props<Values, Sent>) {
  const text = useWatch({ control: form.control, name });
  const { error } = form.getFieldState(name, form.formState);
  const list = offered ? `${name}-offered` : undefined;
  return (
    <label className="grid content-start gap-1">
      <span className="text-[13px] text-soft">{label}</span>
      <input className="field" maxLength={limit} list={list} aria-invalid={error !== undefined} {...form.register(name)} />
      {offered && (
        <datalist id={list}>
          {offered.map(([value, said]) => (
            <option key={value} value={value}>
              {said}
            </option>
          ))}
        </datalist>
      )}
      {hint && <span className="text-xs text-soft">{hint}</span>}
      {error ? (
        <span role="alert" className="text-xs text-plum">
          {error.message}
        </span>
      ) : (
        <LimitHint text={String(text ?? '')} limit={limit} />
      )}
    </label>
  );
}
