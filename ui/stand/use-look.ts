'use client';

/** How a part looks on this device: remembered by its browser. */
import { useState, useSyncExternalStore } from 'react';
import { DENSITIES, type Density } from '@/core/left-hand/worth-writing';

const ZOOMS = [0.8, 1, 1.15, 1.3, 1.5, 1.8] as const;
const USUAL_ZOOM = 1.15;

export function useLook() {
  const [zoom, setZoom] = useRemembered<number>('stand-zoom', USUAL_ZOOM, (text) => ZOOMS.find((each) => String(each) === text) ?? null);
  const [halfTurns, setHalfTurns] = useRemembered('stand-half', false, (text) => text === 'true');
  const [fingers, setFingers] = useRemembered<Density>('stand-fingers', 'every note', (text) => DENSITIES.find((each) => each === text) ?? null);
  const [shifts, setShifts] = useRemembered('stand-shifts', false, (text) => text === 'true');
  const step = ZOOMS.indexOf(zoom as (typeof ZOOMS)[number]);
  return {
    zoom,
    canGrow: step < ZOOMS.length - 1,
    canShrink: step > 0,
    resize: (by: 1 | -1) => setZoom(ZOOMS[step + by] ?? zoom),
    halfTurns,
    setHalfTurns,
    fingers,
    setFingers,
    shifts,
    setShifts,
  };
}

/** A choice that this browser remembers. */
function useRemembered<T>(name: string, usual: T, read: (text: string) => T | null): [T, (value: T) => void] {
  const stored = useSyncExternalStore(
    () => () => undefined,
    () => localStorage.getItem(name),
    () => null,
  );
  const [chosen, setChosen] = useState<T | null>(null);
  const known = (stored === null ? null : read(stored)) ?? usual;
  return [
    chosen ?? known,
    (value) => {
      setChosen(value);
      localStorage.setItem(name, String(value));
    },
  ];
}
