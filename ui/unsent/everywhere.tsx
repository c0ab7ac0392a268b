'use client';

import { usePathname } from 'next/navigation';
import { useEffect } from 'react';
import { outbox } from './browser';
import { UnsentNotices } from './notices';

/** On every page what is not sent yet is sent; where no screen of its own says what waits, it is said at the foot of the page. */
export function UnsentEverywhere() {
  const onDesk = /^\/desk\/[^/]+$/.test(usePathname());
  useEffect(() => void outbox(), []);
  if (onDesk) return null;
  return (
    <div className="no-print fixed inset-x-3 bottom-3 z-40 mx-auto grid max-w-3xl gap-2 empty:hidden">
      <UnsentNotices partId={null} />
    </div>
  );
}
