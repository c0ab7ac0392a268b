import type { ButtonHTMLAttributes } from 'react';

type Look = 'plain' | 'spruce' | 'rosin';

interface Shape {
  /** Spruce for what is the next thing to do, rosin where it is about the bow. */
  look?: Look | undefined;
  /** Among text and in cards. */
  small?: boolean | undefined;
  className?: string | undefined;
}

/** How a button looks: also for links and for files that are taken out, which are no buttons. */
export const buttonClass = ({ look = 'plain', small = false, className = '' }: Shape = {}): string =>
  ['button', look !== 'plain' && `button-${look}`, small && 'button-small', className].filter(Boolean).join(' ');

type Native = Omit<ButtonHTMLAttributes<HTMLButtonElement>, 'className'>;

export function Button({ look, small, className, type = 'button', ...rest }: Native & Shape) {
  return <button type={type} className={buttonClass({ look, small, className })} {...rest} />;
}

/** A word or two that do something, underlined where they stand. */
export function TextButton({ className = '', type = 'button', ...rest }: Native & { className?: string | undefined }) {
  return <button type={type} className={`min-h-6 cursor-pointer underline ${className}`} {...rest} />;
}

/** The place that something is about: it leads there. */
export function PlaceButton({ className = '', ...rest }: Native & { className?: string | undefined }) {
  return (
    <button
      type="button"
      className={`min-h-6 cursor-pointer text-left font-bold underline decoration-line underline-offset-4 hover:decoration-ink ${className}`}
      {...rest}
    />
  );
}

/** One of a few in a row, that may be on or off. */
export function ToggleButton({ pressed, className = '', ...rest }: Native & { pressed?: boolean | undefined; className?: string | undefined }) {
  return <Button small aria-pressed={pressed} className={`px-2 text-xs ${pressed ? 'border-ink bg-paper' : 'font-normal'} ${className}`} {...rest} />;
}
