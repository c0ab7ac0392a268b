'use client';

import { useRouter } from 'next/navigation';
import { useMemo, useState, type KeyboardEvent } from 'react';
import { barsAt, placeAt } from '@/core/score/address';
import type { Part } from '@/core/score/score';
import { Dialog, type Opened } from '@/ui/kit/dialog';
import { useDesk } from './model/desk';
import { foundPlaces, type FoundPlace } from './model/found-places';
import { reach } from './model/reach';

/** Finds by what is typed: a place in the score, a passage, anything that can be done here, a player, another part. */
export function FindDialog({ onOpen, ...opened }: Opened) {
  const desk = useDesk();
  const [text, setText] = useState('');
  const [at, setAt] = useState(0);
  const { view, passages, players, data } = desk;
  const items = useMemo(
    () => foundPlaces(text, { part: view.part, passages: passages.list, players, parts: data.siblings, partId: data.part.id }),
    [text, view.part, passages.list, players, data],
  );
  const router = useRouter();
  const act = (index: number) => {
    const found = items[index];
    if (!found) return;
    onOpen(false);
    setText('');
    if (found.aim.to === 'page') router.push(found.aim.href);
    else reach(desk, found.aim);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault();
      setAt(Math.max(0, Math.min(items.length - 1, at + (event.key === 'ArrowDown' ? 1 : -1))));
    }
    if (event.key === 'Enter') {
      event.preventDefault();
      act(at);
    }
  };
  return (
    <Dialog
      {...opened}
      bare
      title="Find"
      onOpen={(next) => {
        setText('');
        setAt(0);
        onOpen(next);
      }}
    >
      <label>
        <span className="text-soft">
          A place as you would say it (47, 47/3, E+2, -6, upbeat to 31, 17-24), a passage, a player, a part, or what is to be done
        </span>
        <input
          autoFocus
          role="combobox"
          aria-expanded
          aria-controls="found"
          aria-activedescendant={items[at] ? `found-${at}` : undefined}
          value={text}
          onKeyDown={onKeyDown}
          onChange={(event) => {
            setText(event.target.value);
            setAt(0);
          }}
          className="mt-1 w-full rounded-lg border border-line bg-paper px-3 py-2 text-base"
        />
      </label>
      <FoundList items={items} at={at} onPoint={setAt} onTake={act} />
      {items.length === 0 && (
        <p role="alert" className="mt-2 text-plum">
          {notFound(text, view.part)}
        </p>
      )}
    </Dialog>
  );
}

function FoundList({ items, at, onPoint, onTake }: { items: readonly FoundPlace[]; at: number; onPoint(i: number): void; onTake(i: number): void }) {
  return (
    <ul id="found" role="listbox" aria-label="Found" className="mt-2 max-h-[46vh] overflow-y-auto">
      {items.map(({ name, sort }, i) => (
        <li
          key={sort + name}
          id={`found-${i}`}
          role="option"
          aria-selected={i === at}
          className={`flex min-h-8 cursor-pointer items-center justify-between gap-3 rounded-lg px-3 ${i === at ? 'bg-paper font-semibold' : ''}`}
          onMouseEnter={() => onPoint(i)}
          onClick={() => onTake(i)}
        >
          <span className="min-w-0 break-words">{name}</span>
          <span className="shrink-0 text-xs font-normal text-soft">{sort}</span>
        </li>
      ))}
    </ul>
  );
}

/** Why it is no place, where it looks like one. */
function notFound(text: string, part: Part | null): string {
  // A row of bars by its hyphen between two of them; a hyphen in front counts back from a letter.
  const asked = /.\s*[-–]\s*\S/.test(text) ? barsAt : placeAt;
  const place = part && /\d/.test(text) ? asked(part, text) : null;
  return place && !place.ok
    ? `${place.problem.what} ${place.problem.remedy}`
    : `Nothing here is called “${text.trim()}”. Try a bar, the name of a passage, or a word of what is to be done.`;
}
