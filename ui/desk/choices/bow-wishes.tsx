'use client';

import { Button } from '@/ui/kit/button';
import { useState } from 'react';
import { valueProblem, type BowWishKind } from '@/core/marking/kinds';
import { BOW_ZONES, STROKE_WISHES, UNEQUAL_RATIOS } from '@/core/marking/values';
import type { BowPanel, WishFor } from '../model/use-bow-panel';

const PLACES = BOW_ZONES.filter((zone) => zone !== 'whole bow');

interface Field {
  kind: BowWishKind;
  label: string;
  values: readonly string[];
  /** A value may also be typed. */
  typed?: string;
  for: readonly WishFor[];
}

const FIELDS: readonly Field[] = [
  { kind: 'bow-zone', label: 'part of the bow', values: BOW_ZONES, for: ['notes', 'passage'] },
  { kind: 'bow-amount', label: 'amount', values: ['little', 'half', 'whole'], typed: '12 cm', for: ['notes', 'passage'] },
  { kind: 'bow-from', label: 'begins at', values: PLACES, typed: '63 %', for: ['notes'] },
  { kind: 'bow-to', label: 'ends at', values: PLACES, typed: '63 %', for: ['notes'] },
  { kind: 'stroke', label: 'stroke', values: STROKE_WISHES, for: ['notes', 'passage'] },
  { kind: 'sound-school', label: 'quiet tone', values: ['flowing', 'held'], for: ['notes', 'passage'] },
  { kind: 'unequal', label: 'short notes', values: UNEQUAL_RATIOS, for: ['passage'] },
];

/** Wishes for the selected bows or for the passage; the rest is planned around them. */
export function BowWishes({ wished, count, passageName, slurBegins, onWish }: BowPanel) {
  const [target, setTarget] = useState<WishFor>('notes');
  const own = wished[target];
  return (
    <fieldset className="rounded-xl border border-line px-3 py-2">
      <legend className="px-1 text-[13px] font-bold">Wishes</legend>
      <div className="mb-1 flex flex-wrap gap-3 text-[13px]">
        <label className="flex min-h-6 items-center gap-1.5">
          <input type="radio" name="wish-for" checked={target === 'notes'} onChange={() => setTarget('notes')} />
          {count > 1 ? `these ${count} bows` : 'this bow'}
        </label>
        <label className="flex min-h-6 items-center gap-1.5">
          <input type="radio" name="wish-for" checked={target === 'passage'} onChange={() => setTarget('passage')} />
          all of {passageName}
        </label>
      </div>
      <div className="grid gap-1">
        {FIELDS.filter((field) => field.for.includes(target)).map((field) => (
          <WishField
            key={`${target} ${field.kind} ${own[field.kind] ?? ''}`}
            field={field}
            value={own[field.kind] ?? ''}
            onSet={(value) => onWish(field.kind, value, target)}
          />
        ))}
        {slurBegins && target === 'notes' && (
          <WishField
            field={{ kind: 'slur-is', label: 'this slur is', values: ['bow', 'phrase'], for: ['notes'] }}
            value={own['slur-is'] ?? ''}
            onSet={(value) => onWish('slur-is', value, 'notes')}
          />
        )}
      </div>
    </fieldset>
  );
}

const TYPED = 'other …';

function WishField({ field, value, onSet }: { field: Field; value: string; onSet(value: string | null): void }) {
  const known = value === '' || field.values.includes(value);
  const [typing, setTyping] = useState(!known);
  const [text, setText] = useState(known ? (field.typed ?? '') : value);
  const problem = typing ? valueProblem(field.kind, text) : null;
  const id = `wish-${field.kind}`;
  return (
    <div className="grid grid-cols-[6.5rem_1fr] items-center gap-2 text-[13px]">
      <label htmlFor={id} className="text-soft">
        {field.label}
      </label>
      {typing ? (
        <span className="flex gap-1">
          <input
            id={id}
            className="field w-24"
            value={text}
            aria-invalid={problem !== null}
            aria-describedby={problem ? `${id}-problem` : undefined}
            onChange={(event) => setText(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === 'Enter' && problem === null) onSet(text);
            }}
          />
          <Button small disabled={problem !== null || text === value} onClick={() => onSet(text)}>
            Set
          </Button>
          <Button
            small
            aria-label={`No wish: ${field.label}`}
            onClick={() => {
              setTyping(false);
              if (value) onSet(null);
            }}
          >
            ×
          </Button>
        </span>
      ) : (
        <select
          id={id}
          className="field"
          value={value}
          onChange={(event) => {
            if (event.target.value === TYPED) setTyping(true);
            else onSet(event.target.value === '' ? null : event.target.value);
          }}
        >
          <option value="">as it comes</option>
          {field.values.map((each) => (
            <option key={each} value={each}>
              {each}
            </option>
          ))}
          {field.typed && <option value={TYPED}>{TYPED}</option>}
        </select>
      )}
      {problem && (
        <p id={`${id}-problem`} className="col-span-2 text-xs text-plum">
          {problem}
        </p>
      )}
    </div>
  );
}
