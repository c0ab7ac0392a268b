'use client';

import { PlayButtons } from '@/ui/playing/play-buttons';
import type { Folded } from '@/ui/score/systems';
import { KeyHint } from './key-hint';
import { deskDeeds } from './model/deeds';
import { useDesk } from './model/desk';

const TRACKS: ReadonlyArray<[track: keyof Folded, name: string]> = [
  ['hand', 'Left hand'],
  ['bow', 'Bow'],
  ['strings', 'Strings'],
  ['risk', 'Risk'],
];

/** The keys that are needed most. */
const KEYS: ReadonlyArray<[keys: readonly string[], what: string]> = [
  [['0', '–', '4'], 'finger'],
  [['Shift', '1', '–', '4'], 'string'],
  [['d', 'u'], 'bow'],
  [['x', 'j'], 'slur'],
  [['Ctrl K'], 'go to bar'],
];

/** The keys that are needed most, how it is played, and which tracks are shown. */
export function Footer() {
  const desk = useDesk();
  const { calm, setCalm, folded, setFolded, asTable, setAsTable, byButtons, setByButtons, setDialog, play } = desk;
  return (
    <footer className="flex min-h-8 flex-wrap items-center gap-x-4 gap-y-1 border-t border-line px-4 py-1 text-xs text-soft">
      {KEYS.map(([keys, what]) => (
        <span key={what} className="max-lg:hidden">
          {keys.map((key) => (key === '–' ? '–' : <Key key={key} name={key} />))} {what}
        </span>
      ))}
      <button type="button" className="min-h-6 cursor-pointer" onClick={() => setDialog('keys')}>
        <kbd className="key">?</kbd> all keys
      </button>
      <span className="grow" />
      <PlayButtons play={play} hint={<KeyHint name="p" />} onPlay={deskDeeds(desk).playOrStop} />
      <span role="group" aria-label="Tracks" className="flex gap-1 max-sm:hidden">
        {(calm ? [] : TRACKS).map(([track, name]) => (
          <Shown key={track} name={name} on={!folded[track]} off="line-through" onSet={(on) => setFolded({ ...folded, [track]: !on })} />
        ))}
        <Shown name="Music alone" on={calm} off="" onSet={setCalm} />
        <Shown name="Buttons" on={byButtons} off="" onSet={setByButtons} />
        <Shown name="Table" on={asTable} off="" onSet={setAsTable} />
      </span>
    </footer>
  );
}

const Key = ({ name }: { name: string }) => (
  <>
    <KeyHint name={name} />{' '}
  </>
);

/** Something that is shown or not. */
function Shown({ name, on, off, onSet }: { name: string; on: boolean; off: string; onSet(on: boolean): void }) {
  return (
    <button
      type="button"
      aria-pressed={on}
      className={`min-h-6 cursor-pointer rounded px-2 ${on ? 'font-semibold text-ink' : `text-soft ${off}`}`}
      onClick={() => onSet(!on)}
    >
      {name}
    </button>
  );
}
