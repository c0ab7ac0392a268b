'use client';

import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { placeAt, type Place } from '@/core/score/address';
import type { Part } from '@/core/score/score';
import { CONTENT, OVERLAY } from '@/ui/kit/dialog';
import { KEY_LIST } from './keys';

/** The dialogs are opened by keys, not by a button: when they close, the score gets the focus back. */
export const giveBack = (onClosed: () => void) => (event: Event) => {
  event.preventDefault();
  onClosed();
};

export function KeysDialog({ open, onOpen, onClosed }: { open: boolean; onOpen(open: boolean): void; onClosed(): void }) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className={OVERLAY} />
        <Dialog.Content className={CONTENT} aria-describedby={undefined} onCloseAutoFocus={giveBack(onClosed)}>
          <Dialog.Title className="text-lg">Keys of the score</Dialog.Title>
          <dl className="mt-3 gap-x-8 sm:columns-2">
            {KEY_LIST.map(({ keys, what }) => (
              <div key={what} className="mb-1.5 flex break-inside-avoid items-center gap-3">
                <dt className="flex w-32 shrink-0 gap-1">
                  {keys.map((key) =>
                    key === '–' ? (
                      <span key={key}>–</span>
                    ) : (
                      <kbd key={key} className="key">
                        {key}
                      </kbd>
                    ),
                  )}
                </dt>
                <dd>{what}</dd>
              </div>
            ))}
          </dl>
          <Dialog.Close className="button mt-4">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

interface GoToProps {
  open: boolean;
  part: Part | null;
  onOpen(open: boolean): void;
  onClosed(): void;
  onGo(place: Place): void;
}

export function GoToDialog({ open, part, onOpen, onClosed, onGo }: GoToProps) {
  const [text, setText] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  return (
    <Dialog.Root
      open={open}
      onOpenChange={(next) => {
        setText('');
        setProblem(null);
        onOpen(next);
      }}
    >
      <Dialog.Portal>
        <Dialog.Overlay className={OVERLAY} />
        <Dialog.Content className={CONTENT} aria-describedby={undefined} onCloseAutoFocus={giveBack(onClosed)}>
          <Dialog.Title className="text-lg">Go to a bar or a note</Dialog.Title>
          <form
            className="mt-3"
            onSubmit={(event) => {
              event.preventDefault();
              if (!part) return;
              const found = placeAt(part, text);
              if (!found.ok) return setProblem(`${found.problem.what} ${found.problem.remedy}`);
              setText('');
              setProblem(null);
              onGo(found.value);
            }}
          >
            <label>
              <span className="text-soft">As you would say it: 47, 47/3, E, E+2, -6, upbeat to 31, last note of 54</span>
              <input
                autoFocus
                value={text}
                onChange={(event) => setText(event.target.value)}
                className="mt-1 w-full rounded-lg border border-line bg-paper px-3 py-2 text-base"
                aria-invalid={problem !== null}
              />
            </label>
            {problem && (
              <p role="alert" className="mt-2 text-plum">
                {problem}
              </p>
            )}
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
