/** A choice that this device keeps from one visit to the next. */
import { useSyncExternalStore } from 'react';

export interface Kept<T> {
  now(): T;
  set(value: T): void;
  /** When it changes, here or in another tab. */
  subscribe(listen: () => void): () => void;
  onServer(): T;
}

/** What it is now. (By its name the compiler knows that it is a hook: a method `use` of the choice was taken for a plain call, and left out.) */
export const useKept = <T>({ subscribe, now, onServer }: Kept<T>): T => useSyncExternalStore(subscribe, now, onServer);

/** @param read the value out of what was stored, which may be anything @param usual without one, and on the server */
export function keptHere<T>(place: string, usual: T, read: (stored: unknown) => T): Kept<T> {
  let kept: { value: T } | null = null;
  const listeners = new Set<() => void>();
  const now = (): T => (kept ??= { value: stored() }).value;
  const stored = (): T => {
    try {
      const text = localStorage.getItem(place);
      return text === null ? usual : read(JSON.parse(text));
    } catch {
      return usual;
    }
  };
  const subscribe = (listen: () => void): (() => void) => {
    const elsewhere = (event: StorageEvent) => {
      if (event.key !== place) return;
      kept = null;
      listen();
    };
    listeners.add(listen);
    window.addEventListener('storage', elsewhere);
    return () => {
      listeners.delete(listen);
      window.removeEventListener('storage', elsewhere);
    };
  };
  return {
    now,
    set(value) {
      kept = { value };
      try {
        localStorage.setItem(place, JSON.stringify(value));
      } catch {
        // Where the browser keeps nothing it holds for this page.
      }
      for (const listen of listeners) listen();
    },
    subscribe,
    onServer: () => usual,
  };
}
