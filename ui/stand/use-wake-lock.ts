'use client';

import { useEffect } from 'react';

/** The screen stays on while a part lies on the stand, where the browser lets us. */
export function useWakeLock(): void {
  useEffect(() => {
    let lock: WakeLockSentinel | null = null;
    let isOver = false;
    const ask = async () => {
      if (document.visibilityState !== 'visible' || !('wakeLock' in navigator)) return;
      try {
        lock = await navigator.wakeLock.request('screen');
        if (isOver) await lock.release();
      } catch {
        // A battery that is low, or a browser that does not let us: the screen goes dark as it does elsewhere.
      }
    };
    const askAgain = () => void ask();
    void ask();
    document.addEventListener('visibilitychange', askAgain);
    return () => {
      isOver = true;
      document.removeEventListener('visibilitychange', askAgain);
      void lock?.release();
    };
  }, []);
}
