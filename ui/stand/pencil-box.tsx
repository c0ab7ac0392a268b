'use client';

import { useEffect, useEffectEvent, useState } from 'react';
import { PENCIL_BOWS, PENCIL_FINGERS, pencilInWords } from '@/core/handout/pencil';
import { LIMITS } from '@/core/util/limits';
import { Button } from '@/ui/kit/button';
import type { PencilModel } from './use-pencil';

const BOW_KEYS: Readonly<Record<string, (typeof PENCIL_BOWS)[number]>> = { u: 'up', d: 'down' };

/** What the pencil writes at the note that it points at; at the lower edge, under the thumbs. */
export function PencilBox({ pencil, onDone }: { pencil: PencilModel; onDone(): void }) {
  usePencilKeys(pencil, onDone);
  const isNone = pencil.selected === null;
  const press = (kind: 'finger' | 'bow' | 'circle' | 'look', value: string, label: string, shown = label) => (
    <Button
      key={label}
      small
      className="min-h-9 min-w-9 justify-center"
      aria-label={label}
      aria-pressed={pencil.valueAt(kind) === value}
      disabled={isNone}
      onClick={() => pencil.write(kind, value)}
    >
      {shown}
    </Button>
  );
  return (
    <section aria-label="Pencil" className="shrink-0 border-t border-line bg-paper px-3 py-2 text-[13px]">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2">
        <span className="flex gap-1">{PENCIL_FINGERS.map((finger) => press('finger', finger, finger === 'T' ? 'Thumb' : `Finger ${finger}`, finger))}</span>
        <span className="flex gap-1">{PENCIL_BOWS.map((bow) => press('bow', bow, bow === 'up' ? 'Up-bow' : 'Down-bow', bow === 'up' ? '∨' : '⊓'))}</span>
        <span className="flex gap-1">
          {press('circle', '', 'Circle')}
          {press('look', '', 'Look up')}
        </span>
        <Words key={pencil.selected} pencil={pencil} />
        <span className="grow" />
        <label className="flex cursor-pointer items-center gap-2">
          <input type="checkbox" checked={pencil.isShown} onChange={(event) => pencil.show(event.target.checked)} /> my coach may look at it
        </label>
        <Button small onClick={onDone}>
          Put it down
        </Button>
      </div>
      {pencil.lost.length > 0 && (
        <ul className="mt-2 grid gap-1 border-t border-line pt-2">
          <li>What has no note any more in this hand-out:</li>
          {pencil.lost.map((mark) => (
            <li key={`${mark.target}|${mark.kind}`} className="flex items-center gap-2">
              <span>
                {mark.where}: {pencilInWords(mark)}
              </span>
              <Button small onClick={() => pencil.rub(mark)}>
                Rub out
              </Button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

function Words({ pencil }: { pencil: PencilModel }) {
  const has = pencil.valueAt('words') ?? '';
  const [text, setText] = useState(has);
  const done = () => {
    const words = text.trim();
    if (words === has) return;
    pencil.write('words', words === '' ? has : words);
  };
  return (
    <input
      className="field w-44"
      aria-label="Words"
      placeholder="words"
      maxLength={LIMITS.pencilWords}
      disabled={pencil.selected === null}
      value={text}
      onChange={(event) => setText(event.target.value)}
      onBlur={done}
      onKeyDown={(event) => {
        if (event.key !== 'Enter') return;
        event.preventDefault();
        event.currentTarget.blur();
      }}
    />
  );
}

/** As on the Desk: digits are fingers, d and u bows. */
function usePencilKeys(pencil: PencilModel, onDone: () => void): void {
  const obey = useEffectEvent((event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey || (event.target as Element).closest('input:not([type=checkbox]), textarea, [role=dialog]')) return;
    const finger = PENCIL_FINGERS.find((each) => each.toLowerCase() === event.key.toLowerCase());
    if (event.key === 'ArrowRight') pencil.step(1);
    else if (event.key === 'ArrowLeft') pencil.step(-1);
    else if (event.key === 'Escape') onDone();
    else if (finger) pencil.write('finger', finger);
    else if (BOW_KEYS[event.key]) pencil.write('bow', BOW_KEYS[event.key]!);
    else return;
    event.preventDefault();
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent) => obey(event);
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);
}
