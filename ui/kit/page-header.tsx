import Link from 'next/link';
import type { ReactNode } from 'react';
import { ThemeSwitch } from './theme';

/** A name, or a page of ours that it leads to. */
type Step = string | { name: string; href: string };

interface Props {
  /** What lies between the shelf and here; the last of it names the page where `here` does not. */
  path?: readonly Step[];
  /** The page, or a menu of those beside it; absent on the shelf itself. */
  here?: ReactNode;
  /** Beside the path. */
  beside?: ReactNode;
  /** What can be done here. */
  children?: ReactNode;
}

/** The top of every page: the way back on the left, what can be done on the right. */
export function PageHeader({ path = [], here, beside, children }: Props) {
  const isShelf = path.length === 0 && here === undefined;
  return (
    <header className="no-print flex min-h-13 shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-b border-line px-4 py-1.5">
      <Link href="/" className="font-serif text-xl font-semibold">
        Omaggio
      </Link>
      <nav aria-label="Where you are" className="flex max-w-full min-w-0 items-baseline gap-1.5 text-soft">
        {isShelf ? (
          <h1 className="font-sans text-sm font-normal">Shelf</h1>
        ) : (
          <Link href="/" className="shrink-0 hover:underline">
            Shelf
          </Link>
        )}
        {path.map((step, i) => (
          <span key={i} className="flex min-w-0 items-baseline gap-1.5">
            <span aria-hidden>/</span>
            <StepShown step={step} isPage={i === path.length - 1} />
          </span>
        ))}
        {here !== undefined && <span aria-hidden>/</span>}
        {here}
      </nav>
      {beside}
      <span className="grow" />
      {children}
      <ThemeSwitch />
    </header>
  );
}

function StepShown({ step, isPage }: { step: Step; isPage: boolean }) {
  if (typeof step !== 'string')
    return (
      <Link href={step.href} className="truncate font-semibold text-ink hover:underline">
        {step.name}
      </Link>
    );
  return isPage ? <h1 className="truncate font-sans text-sm font-normal">{step}</h1> : <span className="truncate">{step}</span>;
}
