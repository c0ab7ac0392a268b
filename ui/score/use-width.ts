'use client';

import { useEffect, useState, type RefObject } from 'react';

/** Room for the engraving in px; remembered in a cookie, so that the server's first picture fits. */
export function useWidth(element: RefObject<HTMLDivElement | null>, first: number): number {
  const [width, setWidth] = useState(first);
  useEffect(() => {
    const node = element.current;
    if (!node) return;
    const observer = new ResizeObserver(() => {
      const room = Math.max(240, Math.floor((node.clientWidth - 42) / 8) * 8);
      setWidth((before) => {
        if (Math.abs(before - room) < 8) return before;
        document.cookie = `score-width=${room}; path=/; max-age=31536000; samesite=lax`;
        return room;
      });
    });
    observer.observe(node);
    return () => observer.disconnect();
  }, [element]);
  return width;
}
