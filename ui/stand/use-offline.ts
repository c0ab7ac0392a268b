'use client';

import { useEffect } from 'react';

/** What is looked at on the Stand is kept on this device, where the browser can (a secure connection, or the machine itself). @param url of the music, once it is there */
export function useOffline(url: string | null): void {
  useEffect(() => {
    if (!('serviceWorker' in navigator)) return;
    let isOver = false;
    void (async () => {
      try {
        await navigator.serviceWorker.register('/stand/worker', { scope: '/stand' });
        const { active } = await navigator.serviceWorker.ready;
        if (isOver) return;
        const loaded = performance.getEntriesByType('resource').map(({ name }) => name);
        active?.postMessage({ keep: [window.location.href, '/stand', ...loaded, ...(url ? [new URL(url, window.location.origin).href] : [])] });
      } catch {
        // A browser that does not let us: the Stand works with a network.
      }
    })();
    return () => {
      isOver = true;
    };
  }, [url]);
}
