'use client';

import { Check, ChevronUp, Play as PlayIcon, Square } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useSyncExternalStore } from 'react';
import { SPEEDS } from './play-options';
import type { Play } from './use-play';

/** Plays or stops, and what is heard. */
export function PlayButtons({ play, onPlay }: { play: Pick<Play, 'playing' | 'options' | 'change'>; onPlay(): void }) {
  const { playing, options, change } = play;
  const moving = useSyncExternalStore(
    playing.subscribe,
    () => playing.snapshot().seconds !== null,
    () => false,
  );
  const heard: ReadonlyArray<[key: 'sound' | 'click' | 'countIn', label: string]> = [
    ['sound', 'Sound'],
    ['click', 'Click on the beats'],
    ['countIn', 'Count a bar in'],
  ];
  return (
    <span className="flex items-center">
      <button type="button" aria-pressed={moving} className="flex min-h-6 cursor-pointer items-center gap-1 font-semibold text-rosin" onClick={onPlay}>
        {moving ? <Square size={12} aria-hidden /> : <PlayIcon size={12} aria-hidden />} {moving ? 'Stop' : 'Play'} <kbd className="key">p</kbd>
      </button>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger
          className="ml-1 flex min-h-6 min-w-6 cursor-pointer items-center gap-1 rounded px-1"
          aria-label="How it is played: sound, click, count-in, tempo"
        >
          {[options.sound ? 'sound' : 'silent', options.click && 'click', options.countIn && 'count-in', options.speed < 1 && `${options.speed * 100} %`]
            .filter(Boolean)
            .join(', ')}
          <ChevronUp size={12} aria-hidden />
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content className="menu" sideOffset={6} side="top" align="end">
            {heard.map(([key, label]) => (
              <DropdownMenu.CheckboxItem
                key={key}
                className="menu-item"
                checked={options[key]}
                onCheckedChange={(on) => change({ [key]: on })}
                onSelect={(event) => event.preventDefault()}
              >
                <span className="w-4">{options[key] && <Check size={14} aria-hidden />}</span> {label}
              </DropdownMenu.CheckboxItem>
            ))}
            <DropdownMenu.Separator className="my-1 border-t border-line" />
            <DropdownMenu.RadioGroup value={String(options.speed)} onValueChange={(value) => change({ speed: Number(value) })}>
              {SPEEDS.map((speed) => (
                <DropdownMenu.RadioItem key={speed} value={String(speed)} className="menu-item" onSelect={(event) => event.preventDefault()}>
                  <span className="w-4">{options.speed === speed && <Check size={14} aria-hidden />}</span>
                  {speed === 1 ? 'At the tempo above' : `At ${Math.round(speed * 100)} % of it`}
                </DropdownMenu.RadioItem>
              ))}
            </DropdownMenu.RadioGroup>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </span>
  );
}
