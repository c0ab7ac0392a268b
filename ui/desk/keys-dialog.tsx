'use client';

import { useState } from 'react';
import { Button, TextButton } from '@/ui/kit/button';
import { Dialog, type Opened } from '@/ui/kit/dialog';
import { Select } from '@/ui/kit/select';
import { useKept } from '@/ui/kit/kept';
import { terms } from '@/ui/kit/terms';
import { isOwn, KEY_LIST, keyOf, withKey } from './model/keys';
import { setOwnKeys, useOwnKeys } from './model/own-keys';

/** All keys; the letters can be others. */
export function KeysDialog(opened: Opened) {
  const own = useOwnKeys();
  const [changed, setChanged] = useState<string | null>(null);
  const set = (letter: string, to: string) => {
    setOwnKeys(withKey(own, letter, to.toLowerCase()));
    setChanged(null);
  };
  return (
    <Dialog {...opened} onOpen={(isOpen) => (changed === null || isOpen ? opened.onOpen(isOpen) : setChanged(null))} title="Keys and words">
      <dl className="gap-x-8 sm:columns-2">
        {KEY_LIST.map(({ keys, what }) => (
          <div key={what} className="mb-1.5 flex break-inside-avoid items-center gap-3">
            <dt className="flex w-32 shrink-0 gap-1">
              {keys.map((key) =>
                key === '–' ? (
                  <span key={key}>–</span>
                ) : isOwn(key) && keys.length === 1 ? (
                  <OwnKey
                    key={key}
                    now={keyOf(key, own)}
                    what={what}
                    changing={changed === key}
                    onChanging={(is) => setChanged(is ? key : null)}
                    onKey={(to) => set(key, to)}
                  />
                ) : (
                  <kbd key={key} className="key">
                    {isOwn(key) ? keyOf(key, own) : key}
                  </kbd>
                ),
              )}
            </dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
      <p className="mt-3 flex flex-wrap items-center gap-3 text-[13px] text-soft">
        A letter becomes another one when you click it and press the new one. They hold on this device.
        {Object.keys(own).length > 0 && (
          <Button small onClick={() => setOwnKeys({})}>
            The usual keys again
          </Button>
        )}
      </p>
      <NoteValues />
    </Dialog>
  );
}

/** How note values and steps are called on this device. */
function NoteValues() {
  return (
    <div className="mt-3 max-w-80">
      <Select
        label="Note values and steps"
        value={useKept(terms)}
        options={[
          ['american', 'quarter, eighth, half step'],
          ['british', 'crotchet, quaver, semitone'],
        ]}
        onValue={terms.set}
      />
    </div>
  );
}

interface OwnKeyProps {
  now: string;
  what: string;
  changing: boolean;
  onChanging(is: boolean): void;
  onKey(key: string): void;
}

function OwnKey({ now, what, changing, onChanging, onKey }: OwnKeyProps) {
  return (
    <TextButton
      className="no-underline"
      aria-label={changing ? `Press the new letter for ${what}` : `${now}: ${what}. Change the key`}
      onClick={() => onChanging(!changing)}
      onBlur={() => changing && onChanging(false)}
      onKeyDown={(event) => {
        if (!changing || event.key === 'Tab') return;
        event.stopPropagation();
        event.preventDefault();
        if (/^\p{L}$/u.test(event.key) && event.key.toLowerCase().length === 1 && !event.ctrlKey && !event.metaKey && !event.altKey) onKey(event.key);
        else if (event.key === 'Escape') onChanging(false);
      }}
    >
      <kbd className={`key ${changing ? 'border-ink' : ''}`}>{changing ? 'press …' : now}</kbd>
    </TextButton>
  );
}
