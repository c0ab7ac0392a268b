/** The keys as somebody wants them on this device. */
import { useSyncExternalStore } from 'react';
import { z } from 'zod';
import { isOwn, type OwnKeys } from './keys';

const PLACE = 'omaggio.keys';
const USUAL: OwnKeys = {};
const shape = z.record(z.string().refine(isOwn), z.string().length(1));

let kept: OwnKeys | null = null;
const listeners = new Set<() => void>();

export const ownKeys = (): OwnKeys => (kept ??= stored());

function stored(): OwnKeys {
  try {
    const read = shape.safeParse(JSON.parse(localStorage.getItem(PLACE) ?? '{}'));
    return read.success ? read.data : USUAL;
  } catch {
    return USUAL;
  }
}

/** Where the browser keeps nothing they hold in this page. */
export function setOwnKeys(keys: OwnKeys): void {
  kept = keys;
  try {
    localStorage.setItem(PLACE, JSON.stringify(keys));
  } catch {
    // Said above.
  }
  listeners.forEach((listen) => listen());
}

const subscribe = (listen: () => void): (() => void) => {
  const elsewhere = (event: StorageEvent) => {
    if (event.key !== PLACE) return;
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

export const useOwnKeys = (): OwnKeys => useSyncExternalStore(subscribe, ownKeys, () => USUAL);
