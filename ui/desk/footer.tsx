'use client';

import { PlayButtons } from '@/ui/playing/play-buttons';
import type { Play } from '@/ui/playing/use-play';
import type { Folded } from '@/ui/score/systems';

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
  play: Pick<Play, 'playing' | 'options' | 'change'>;
  onPlay(): void;
}

/** The keys that are needed most, and which tracks are shown. */
export function Footer({ folded, onFold, asTable, onTable, onKeys, play, onPlay }: Props) {
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
      <PlayButtons play={play} onPlay={onPlay} />
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
