'use client';

import { LoaderCircle } from 'lucide-react';
import { useEffect, useRef } from 'react';

/** At the end of what is engraved: coming into view brings the next bars. */
export function MoreBars({ onMore }: { onMore: (() => void) | null }) {
  const foot = useRef<HTMLParagraphElement>(null);
  useEffect(() => {
    const element = foot.current;
    if (!element || !onMore) return;
    const observer = new IntersectionObserver((entries) => entries.some(({ isIntersecting }) => isIntersecting) && onMore(), { rootMargin: '300px' });
    observer.observe(element);
    return () => observer.disconnect();
  }, [onMore]);
  return (
    <p ref={foot} role="status" className="flex items-center gap-2 p-4 text-soft">
      <LoaderCircle size={16} className="animate-spin" aria-hidden /> More bars of this passage …
    </p>
  );
}
