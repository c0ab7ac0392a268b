'use client';

import type { ReactNode } from 'react';
import type { MarkKind } from '@/core/marking/kinds';
import { inForce } from '@/ui/part/mark-changes';
import { useDesk } from './model/desk';
import { obeying } from './model/deeds';

export interface MarkItem {
  kind: MarkKind;
  value: string;
  /** On the button. */
  text: string;
  /** For those who hear the page, where the text is short. */
  name?: string;
}

/** Marks of one sort as buttons; what is in force on the note is pressed, and pressing it again takes it away. */
export function MarkButtons({ name, items }: { name: string; items: readonly MarkItem[] }) {
  const desk = useDesk();
  const { marking, chosen, focus } = desk;
  return (
    <span role="group" aria-label={name} className="flex shrink-0 gap-1">
      {items.map(({ kind, value, text, name: said }) => (
        <BarButton
          key={kind + value}
          label={said}
          disabled={!chosen.length}
          pressed={focus !== undefined && inForce(focus, marking, kind) === value}
          onClick={() => obeying(desk)({ do: 'mark', kind, value })}
        >
          {text}
        </BarButton>
      ))}
    </span>
  );
}

interface ButtonProps {
  label?: string | undefined;
  pressed?: boolean;
  disabled: boolean;
  onClick(): void;
  children: ReactNode;
}

export function BarButton({ label, pressed, disabled, onClick, children }: ButtonProps) {
  return (
    <button
      type="button"
      aria-label={label}
      aria-pressed={pressed}
      disabled={disabled}
      className={`min-h-8 min-w-8 cursor-pointer rounded-lg border px-2 text-[13px] disabled:cursor-default disabled:text-soft pointer-coarse:min-h-11 pointer-coarse:min-w-11 ${pressed ? 'border-ink bg-paper font-bold' : 'border-line'}`}
      onClick={onClick}
    >
      {children}
    </button>
  );
}
