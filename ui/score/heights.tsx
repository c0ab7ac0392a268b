'use client';

import { createContext, use, useSyncExternalStore, type ReactNode } from 'react';

/** Heights of the tracks under a system, in px. */
export interface TrackHeights {
  hand: number;
  bow: number;
  strings: number;
  risk: number;
}

const FULL: TrackHeights = { hand: 112, bow: 76, strings: 44, risk: 42 };
/** On a low screen: two systems with all their tracks fit into 800 px. */
const LOW: TrackHeights = { hand: 86, bow: 56, strings: 32, risk: 24 };
const IS_LOW = '(max-height: 920px) and (min-width: 64rem)';

const Heights = createContext<TrackHeights>(LOW);
export const useHeights = (): TrackHeights => use(Heights);

/** Gives the tracks the heights that the screen has room for. */
export function TracksFit({ children }: { children: ReactNode }) {
  const isLow = useSyncExternalStore(
    (changed) => {
      const query = window.matchMedia(IS_LOW);
      query.addEventListener('change', changed);
      return () => query.removeEventListener('change', changed);
    },
    () => window.matchMedia(IS_LOW).matches,
    () => true,
  );
  return <Heights value={isLow ? LOW : FULL}>{children}</Heights>;
}
