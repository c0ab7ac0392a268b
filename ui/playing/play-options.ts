'use client';

/** How passages are played on this machine, kept from one visit to the next. */
import type { SoundOptions } from './sound';

export const SPEEDS = [0.5, 0.6, 0.7, 0.8, 0.9, 1] as const;
const USUAL: SoundOptions = { sound: true, click: false, countIn: false, speed: 1 };
const KEPT = 'omaggio.play';

let current: SoundOptions | null = null;
const listeners = new Set<() => void>();

export const playOptions = {
  subscribe(listener: () => void): () => void {
    listeners.add(listener);
    return () => listeners.delete(listener);
  },
  snapshot: (): SoundOptions => (current ??= read()),
  onServer: (): SoundOptions => USUAL,
  change(next: Partial<SoundOptions>): void {
    current = { ...playOptions.snapshot(), ...next };
    try {
      localStorage.setItem(KEPT, JSON.stringify(current));
    } catch {
      // Without storage the choice holds for this page.
    }
    for (const listener of listeners) listener();
  },
};

function read(): SoundOptions {
  try {
    const found = JSON.parse(localStorage.getItem(KEPT) ?? '{}') as Partial<SoundOptions>;
    const speed = SPEEDS.find((each) => each === found.speed) ?? USUAL.speed;
    return { sound: found.sound ?? USUAL.sound, click: found.click ?? USUAL.click, countIn: found.countIn ?? USUAL.countIn, speed };
  } catch {
    return USUAL;
  }
}
