import type { ButtonHTMLAttributes, ReactNode } from 'react';
import { Button } from './button';

interface Props extends Omit<ButtonHTMLAttributes<HTMLButtonElement>, 'className' | 'aria-label' | 'title'> {
  /** What it does, for those who hear the page and for those who point at it. */
  label: string;
  /** Without a frame, in the corner of something. */
  bare?: boolean;
  className?: string;
  children: ReactNode;
}

export function IconButton({ label, bare = false, className = '', children, ...rest }: Props) {
  if (!bare)
    return (
      <Button className={`px-2 ${className}`} aria-label={label} title={label} {...rest}>
        {children}
      </Button>
    );
  return (
    <button type="button" aria-label={label} title={label} className={`grid size-6 cursor-pointer place-items-center rounded ${className}`} {...rest}>
      {children}
    </button>
  );
}
