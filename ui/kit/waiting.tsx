import { LoaderCircle } from 'lucide-react';
import type { ReactNode } from 'react';

/** Something is being worked out. */
export function Waiting({ children, className = '' }: { children: ReactNode; className?: string }) {
  return (
    <p className={`flex items-center gap-2 text-soft ${className}`} role="status">
      <LoaderCircle size={15} className="animate-spin" aria-hidden /> {children}
    </p>
  );
}
