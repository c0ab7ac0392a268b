'use client';

import { Dialog as Radix } from 'radix-ui';
import type { ReactNode } from 'react';
import { buttonClass } from './button';

/** How dialogs look. */
export const OVERLAY = 'fixed inset-0 z-40 bg-ink/30';
const FRAME = 'fixed left-1/2 z-50 -translate-x-1/2 overflow-y-auto rounded-xl border border-line bg-sheet p-5 shadow-xl';
export const CONTENT = `${FRAME} top-24 max-h-[80vh] w-[min(46rem,92vw)]`;
const NARROW = `${FRAME} top-[8vh] max-h-[86vh] w-[min(30rem,94vw)]`;
const WIDE = `${FRAME} top-[6vh] max-h-[88vh] w-[min(58rem,96vw)]`;
const WIDEST = `${FRAME} top-[5vh] max-h-[90vh] w-[min(76rem,94vw)]`;
const SIZES = { narrow: NARROW, usual: CONTENT, wide: WIDE, widest: WIDEST };

/** Open or not, and told of it; what every dialog is given. */
export interface Opened {
  open: boolean;
  onOpen(open: boolean): void;
  /** Where the focus goes: dialogs that keys open have no button that could have it back. */
  onClosed?(): void;
}

interface Props extends Opened {
  title: ReactNode;
  /** What it is about, under the title. */
  description?: ReactNode;
  size?: keyof typeof SIZES;
  /** Without the button at its end: the dialog has its own. */
  bare?: boolean;
  children: ReactNode;
}

export function Dialog({ open, onOpen, onClosed, title, description, size = 'usual', bare = false, children }: Props) {
  return (
    <Radix.Root open={open} onOpenChange={onOpen}>
      <Radix.Portal>
        <Radix.Overlay className={OVERLAY} />
        <Radix.Content
          className={SIZES[size]}
          {...(description ? {} : { 'aria-describedby': undefined })}
          onCloseAutoFocus={(event) => {
            if (!onClosed) return;
            event.preventDefault();
            onClosed();
          }}
        >
          <Radix.Title className="text-lg">{title}</Radix.Title>
          {description && <Radix.Description className="mt-1 text-soft">{description}</Radix.Description>}
          <div className="mt-3">{children}</div>
          {!bare && <DialogClose className="mt-4">Close</DialogClose>}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}

/** A button that closes the dialog that it stands in. */
export function DialogClose({ className, children }: { className?: string; children: ReactNode }) {
  return <Radix.Close className={buttonClass({ className })}>{children}</Radix.Close>;
}
