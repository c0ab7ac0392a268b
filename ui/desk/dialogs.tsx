'use client';

import { useState } from 'react';
import { placeAt, type Place } from '@/core/score/address';
import type { Part } from '@/core/score/score';
import { Dialog, type Opened } from '@/ui/kit/dialog';
import { KEY_LIST } from './model/keys';

export function KeysDialog(opened: Opened) {
  return (
    <Dialog {...opened} title="Keys of the score">
      <dl className="gap-x-8 sm:columns-2">
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
    </Dialog>
  );
}

interface GoToProps extends Opened {
  part: Part | null;
  onGo(place: Place): void;
}

export function GoToDialog({ part, onGo, onOpen, ...opened }: GoToProps) {
  const [text, setText] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const empty = () => {
    setText('');
    setProblem(null);
  };
  return (
    <Dialog
      {...opened}
      bare
      title="Go to a bar or a note"
      onOpen={(next) => {
        empty();
        onOpen(next);
      }}
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (!part) return;
          const found = placeAt(part, text);
          if (!found.ok) return setProblem(`${found.problem.what} ${found.problem.remedy}`);
          empty();
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
    </Dialog>
  );
}
