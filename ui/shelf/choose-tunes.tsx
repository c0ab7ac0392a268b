'use client';

import { useState } from 'react';
import type { TuneInText } from '@/core/formats/abc/tunes';
import { Button } from '@/ui/kit/button';
import { Dialog, DialogClose } from '@/ui/kit/dialog';

export interface TuneBook {
  fileName: string;
  tunes: TuneInText[];
}

/** A text of several tunes: which of them are taken in, each as a piece of its own. */
export function ChooseTunes({ book, onClose, onTake }: { book: TuneBook | null; onClose(): void; onTake(files: File[]): void }) {
  return (
    <Dialog
      bare
      open={book !== null}
      onOpen={(open) => open || onClose()}
      title={book ? `${book.fileName} holds ${book.tunes.length} tunes` : ''}
      description="Choose those that are wanted; each becomes a piece of its own."
    >
      {book && <Choice key={book.fileName} book={book} onTake={onTake} />}
    </Dialog>
  );
}

function Choice({ book: { fileName, tunes }, onTake }: { book: TuneBook; onTake(files: File[]): void }) {
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const set = (index: number, wanted: boolean) => setChosen((before) => new Set(wanted ? [...before, index] : [...before].filter((each) => each !== index)));
  const all = chosen.size === tunes.length;
  const stem = fileName.replace(/\.[^.]*$/, '');
  const take = () => onTake(tunes.flatMap(({ number, title, text }, i) => (chosen.has(i) ? [new File([text], `${stem} ${number} ${title}.abc`)] : [])));
  return (
    <>
      <ul className="grid max-h-80 gap-1 overflow-y-auto">
        {tunes.map(({ number, title }, i) => (
          <li key={i}>
            <label className="flex min-h-7 cursor-pointer items-center gap-2">
              <input type="checkbox" checked={chosen.has(i)} onChange={(event) => set(i, event.target.checked)} />
              <span className="w-8 text-right text-soft">{number}</span>
              <span>{title}</span>
            </label>
          </li>
        ))}
      </ul>
      <div className="mt-4 flex flex-wrap gap-2">
        <Button look="spruce" disabled={chosen.size === 0} onClick={take}>
          {chosen.size === 0 ? 'Choose at least one' : chosen.size === 1 ? 'Take in this tune' : `Take in these ${chosen.size} tunes`}
        </Button>
        <Button onClick={() => setChosen(all ? new Set() : new Set(tunes.keys()))}>{all ? 'None of them' : 'All of them'}</Button>
        <DialogClose>Close</DialogClose>
      </div>
    </>
  );
}
