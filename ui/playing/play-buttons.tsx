'use client';

import { ChevronUp, Play as PlayIcon, Square } from 'lucide-react';
import { useSyncExternalStore, type ReactNode } from 'react';
import { Menu, MenuCheck, MenuChoice, MenuRule } from '@/ui/kit/menu';
import { SPEEDS } from './play-options';
import type { Play } from './use-play';

const HEARD: ReadonlyArray<readonly [key: 'sound' | 'click' | 'countIn', label: string]> = [
  ['sound', 'Sound'],
  ['click', 'Click on the beats'],
  ['countIn', 'Count a bar in'],
];

interface Props {
  play: Pick<Play, 'playing' | 'options' | 'change'>;
  /** The key that does it. */
  hint: ReactNode;
  onPlay(): void;
}

/** Plays or stops, and what is heard. */
export function PlayButtons({ play, hint, onPlay }: Props) {
  const { playing, options, change } = play;
  const moving = useSyncExternalStore(
    playing.subscribe,
    () => playing.snapshot().seconds !== null,
    () => false,
  );
  return (
    <span className="flex items-center">
      <button type="button" aria-pressed={moving} className="flex min-h-6 cursor-pointer items-center gap-1 font-semibold text-rosin" onClick={onPlay}>
        {moving ? <Square size={12} aria-hidden /> : <PlayIcon size={12} aria-hidden />} {moving ? 'Stop' : 'Play'} {hint}
      </button>
      <Menu
        className="ml-1 flex min-h-6 min-w-6 cursor-pointer items-center gap-1 rounded px-1"
        label="How it is played: sound, click, count-in, tempo"
        align="end"
        stays
        trigger={
          <>
            {[options.sound ? 'sound' : 'silent', options.click && 'click', options.countIn && 'count-in', options.speed < 1 && `${options.speed * 100} %`]
              .filter(Boolean)
              .join(', ')}
            <ChevronUp size={12} aria-hidden />
          </>
        }
      >
        {HEARD.map(([key, label]) => (
          <MenuCheck key={key} checked={options[key]} onChecked={(on) => change({ [key]: on })}>
            {label}
          </MenuCheck>
        ))}
        <MenuRule />
        <MenuChoice
          value={String(options.speed)}
          options={SPEEDS.map((speed) => [String(speed), speed === 1 ? 'At the tempo above' : `At ${Math.round(speed * 100)} % of it`] as const)}
          onValue={(speed) => change({ speed: Number(speed) })}
        />
      </Menu>
    </span>
  );
}
