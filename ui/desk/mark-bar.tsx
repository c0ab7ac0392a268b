'use client';

import { Undo2 } from 'lucide-react';
import { IconButton } from '@/ui/kit/icon-button';
import { BarButton, MarkButtons, type MarkItem } from './mark-buttons';
import { useDesk } from './model/desk';
import { obeying } from './model/deeds';

const YES = 'yes';
const FINGERS: readonly MarkItem[] = [
  ...['0', '1', '2', '3', '4'].map((value): MarkItem => ({ kind: 'finger', value, text: value, name: `Finger ${value}` })),
  { kind: 'finger', value: 'T', text: 'T', name: 'Thumb' },
];
const STRINGS: readonly MarkItem[] = ['I', 'II', 'III', 'IV', 'V'].map((text, i) => ({ kind: 'string', value: String(i + 1), text, name: `String ${text}` }));
const BOWS: readonly MarkItem[] = [
  { kind: 'bow', value: 'down', text: 'down' },
  { kind: 'bow', value: 'up', text: 'up' },
  { kind: 'retake', value: YES, text: 'retake' },
  { kind: 'hook', value: YES, text: 'hook' },
];
const SLURS: readonly MarkItem[] = [
  { kind: 'slur', value: 'split', text: 'split' },
  { kind: 'slur', value: 'join', text: 'join' },
];
/** Every mark as a button, for whoever has no keys at hand or has not learned them: within reach of a thumb on a tablet. */
export function MarkBar() {
  const desk = useDesk();
  const { byButtons, chosen, view, undo } = desk;
  const strings = view.instrument?.strings.length ?? 4;
  return (
    <section
      aria-label="Marks"
      className={`z-10 shrink-0 gap-x-3 gap-y-1 overflow-x-auto border-t border-line bg-sheet px-3 py-1.5 max-lg:flex pointer-coarse:flex ${byButtons ? 'flex flex-wrap' : 'hidden'}`}
    >
      <MarkButtons name="Fingers" items={FINGERS} />
      <MarkButtons name="Strings" items={STRINGS.slice(0, strings)} />
      <MarkButtons name="Bow" items={BOWS} />
      <MarkButtons name="Slur" items={SLURS} />
      <span className="flex gap-1">
        <BarButton disabled={!chosen.length} onClick={() => obeying(desk)({ do: 'clear' })}>
          none
        </BarButton>
        <IconButton label="Undo the last mark" disabled={!undo} onClick={() => obeying(desk)({ do: 'undo' })}>
          <Undo2 size={16} aria-hidden />
        </IconButton>
      </span>
    </section>
  );
}
