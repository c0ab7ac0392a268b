'use client';

import { Play, Square } from 'lucide-react';
import { useSyncExternalStore } from 'react';
import type { PlayingStore } from './playing';
import type { Folded } from './systems';

const TRACKS: ReadonlyArray<[track: keyof Folded, name: string]> = [
  ['hand', 'Left hand'],
  ['bow', 'Bow'],
  ['risk', 'Risk'],
];

interface Props {
  folded: Folded;
  onFold(folded: Folded): void;
  asTable: boolean;
  onTable(asTable: boolean): void;
  onKeys(): void;
  playing: PlayingStore;
  onPlay(): void;
}

/** The keys that are needed most, and which tracks are shown. */
export function Footer({ folded, onFold, asTable, onTable, onKeys, playing, onPlay }: Props) {
  const moving = useSyncExternalStore(
    playing.subscribe,
    () => playing.snapshot().seconds !== null,
    () => false,
  );
  return (
    <footer className="flex min-h-8 flex-wrap items-center gap-x-4 gap-y-1 border-t border-line px-4 py-1 text-xs text-soft">
      <span>
        <kbd className="key">0</kbd>–<kbd className="key">4</kbd> finger
      </span>
      <span>
        <kbd className="key">Shift</kbd> <kbd className="key">1</kbd>–<kbd className="key">4</kbd> string
      </span>
      <span>
        <kbd className="key">d</kbd> <kbd className="key">u</kbd> bow
      </span>
      <span>
        <kbd className="key">x</kbd> <kbd className="key">j</kbd> slur
      </span>
      <span>
        <kbd className="key">n</kbd> passage
      </span>
      <span>
        <kbd className="key">Ctrl K</kbd> go to bar
      </span>
      <button type="button" className="min-h-6 cursor-pointer" onClick={onKeys}>
        <kbd className="key">?</kbd> all keys
      </button>
      <span className="grow" />
      <button type="button" aria-pressed={moving} className="flex min-h-6 cursor-pointer items-center gap-1 font-semibold text-rosin" onClick={onPlay}>
        {moving ? <Square size={12} aria-hidden /> : <Play size={12} aria-hidden />} {moving ? 'Stop' : 'Bow at tempo'} <kbd className="key">p</kbd>
      </button>
      <span role="group" aria-label="Tracks" className="flex gap-1">
        {TRACKS.map(([track, name]) => (
          <button
            key={track}
            type="button"
            aria-pressed={!folded[track]}
            className={`min-h-6 cursor-pointer rounded px-2 ${folded[track] ? 'text-soft line-through' : 'font-semibold text-ink'}`}
            onClick={() => onFold({ ...folded, [track]: !folded[track] })}
          >
            {name}
          </button>
        ))}
        <button
          type="button"
          aria-pressed={asTable}
          className={`min-h-6 cursor-pointer rounded px-2 ${asTable ? 'font-semibold text-ink' : 'text-soft'}`}
          onClick={() => onTable(!asTable)}
        >
          As a table
        </button>
      </span>
    </footer>
  );
}
