'use client';

import { buttonClass } from './button';
import { AlertDialog } from 'radix-ui';
import type { ReactNode } from 'react';
import { CONTENT, OVERLAY } from './dialog';

interface Props {
  /** What opens the question. */
  trigger: ReactNode;
  question: string;
  /** What it does, and what cannot be taken back. */
  children: ReactNode;
  yes: string;
  onYes(): void;
}

/** Asks before something that undo does not take back. */
export function Confirm({ trigger, question, children, yes, onYes }: Props) {
  return (
    <AlertDialog.Root>
      <AlertDialog.Trigger asChild>{trigger}</AlertDialog.Trigger>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className={OVERLAY} />
        <AlertDialog.Content className={CONTENT}>
          <AlertDialog.Title className="text-lg">{question}</AlertDialog.Title>
          <AlertDialog.Description className="mt-2 text-soft">{children}</AlertDialog.Description>
          <div className="mt-4 flex gap-2">
            <AlertDialog.Action className={buttonClass({ look: 'spruce' })} onClick={onYes}>
              {yes}
            </AlertDialog.Action>
            <AlertDialog.Cancel className={buttonClass()}>Leave it as it is</AlertDialog.Cancel>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
