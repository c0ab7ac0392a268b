'use client';

import { useRef, type ReactNode } from 'react';

interface Props {
  /** Name of the hidden field, for those who hear the page. */
  label: string;
  accept: string;
  multiple?: boolean;
  disabled?: boolean;
  className?: string;
  children: ReactNode;
  onFiles(files: readonly File[]): void;
}

/** A button that lets the user choose files. */
export function FileButton({ label, accept, multiple = false, disabled, className = '', children, onFiles }: Props) {
  const chooser = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={chooser}
        type="file"
        multiple={multiple}
        accept={accept}
        className="sr-only"
        tabIndex={-1}
        aria-label={label}
        onChange={(event) => {
          const files = [...(event.target.files ?? [])];
          event.target.value = '';
          if (files.length) onFiles(files);
        }}
      />
      <button type="button" className={`button ${className}`} disabled={disabled} onClick={() => chooser.current?.click()}>
        {children}
      </button>
    </>
  );
}

/** Kinds of files that a score may come in. */
export const SCORE_FILES = '.musicxml,.xml,.mxl,.abc,.txt';
