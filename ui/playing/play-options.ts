/** How passages are played on this machine, kept from one visit to the next. */
import { keptHere, useKept } from '@/ui/kit/kept';
import type { SoundOptions } from './sound';

export const SPEEDS = [0.5, 0.6, 0.7, 0.8, 0.9, 1] as const;
const USUAL: SoundOptions = { sound: true, click: false, countIn: false, speed: 1 };

const kept = keptHere<SoundOptions>('omaggio.play', USUAL, (stored) => {
  const found = stored as Partial<SoundOptions>;
  const speed = SPEEDS.find((each) => each === found.speed) ?? USUAL.speed;
  return { sound: found.sound ?? USUAL.sound, click: found.click ?? USUAL.click, countIn: found.countIn ?? USUAL.countIn, speed };
});

export const usePlayOptions = (): SoundOptions => useKept(kept);
export const changePlayOptions = (next: Partial<SoundOptions>): void => kept.set({ ...kept.now(), ...next });
