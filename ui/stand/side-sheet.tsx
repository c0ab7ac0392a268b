'use client';

import { X } from 'lucide-react';
import type { ReactNode } from 'react';
import { IconButton } from '@/ui/kit/icon-button';

/** Something beside the music, over its edge; the music stays where it is. */
export function SideSheet({ title, onClose, children }: { title: string; onClose(): void; children: ReactNode }) {
  return (
    <aside
      aria-label={title}
      className="fixed top-12 right-0 bottom-7 z-30 flex w-[min(24rem,92vw)] flex-col border-l border-line bg-paper shadow-xl"
      onKeyDown={(event) => event.key === 'Escape' && onClose()}
    >
      <header className="flex items-center justify-between gap-2 border-b border-line px-4 py-2">
        <h2 className="text-base">{title}</h2>
        <IconButton label="Close" onClick={onClose}>
          <X size={16} aria-hidden />
        </IconButton>
      </header>
      <div className="min-h-0 grow overflow-y-auto px-4 py-3">{children}</div>
    </aside>
  );
}
