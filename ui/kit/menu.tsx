'use client';

import { Check } from 'lucide-react';
import Link from 'next/link';
import { DropdownMenu } from 'radix-ui';
import { createContext, use, type ReactNode } from 'react';

interface Props {
  /** What is seen of it while it is closed. */
  trigger: ReactNode;
  /** Its name for those who hear the page. */
  label: string;
  className?: string;
  align?: 'start' | 'end';
  /** Several things are chosen here one after the other: it closes when one clicks elsewhere. */
  stays?: boolean;
  children: ReactNode;
}

const Stays = createContext(false);

/** For what is chosen in a menu that stays. */
const useStay = () => {
  const stays = use(Stays);
  return stays ? { onSelect: (event: Event) => event.preventDefault() } : {};
};

export function Menu({ trigger, label, className, align = 'start', stays = false, children }: Props) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className={className} aria-label={label}>
        {trigger}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="menu" sideOffset={6} align={align}>
          <Stays value={stays}>{children}</Stays>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

export function MenuItem({ disabled, onSelect, children }: { disabled?: boolean; onSelect(): void; children: ReactNode }) {
  return (
    <DropdownMenu.Item className="menu-item data-disabled:text-soft" disabled={disabled} onSelect={onSelect}>
      {children}
    </DropdownMenu.Item>
  );
}

/** Goes to a page of ours. */
export function MenuLink({ href, children }: { href: string; children: ReactNode }) {
  return (
    <DropdownMenu.Item className="menu-item" asChild>
      <Link href={href}>{children}</Link>
    </DropdownMenu.Item>
  );
}

/** Takes a file out. */
export function MenuDownload({ href, mayTake, children }: { href: string; mayTake(): boolean; children: ReactNode }) {
  return (
    <DropdownMenu.Item className="menu-item" asChild>
      <a href={href} download onClick={(event) => mayTake() || event.preventDefault()}>
        {children}
      </a>
    </DropdownMenu.Item>
  );
}

/** Something that holds or does not. */
export function MenuCheck({ checked, onChecked, children }: { checked: boolean; onChecked(checked: boolean): void; children: ReactNode }) {
  return (
    <DropdownMenu.CheckboxItem className="menu-item" checked={checked} onCheckedChange={onChecked} {...useStay()}>
      <span className="w-4">{checked && <Check size={14} aria-hidden />}</span>
      {children}
    </DropdownMenu.CheckboxItem>
  );
}

/** One of several, of which one holds. */
export function MenuChoice({
  value,
  options,
  onValue,
}: {
  value: string;
  options: ReadonlyArray<readonly [value: string, shown: ReactNode]>;
  onValue(value: string): void;
}) {
  const stay = useStay();
  return (
    <DropdownMenu.RadioGroup value={value} onValueChange={onValue}>
      {options.map(([each, shown]) => (
        <DropdownMenu.RadioItem key={each} value={each} className="menu-item" {...stay}>
          <span className="w-4">{each === value && <Check size={14} aria-hidden />}</span>
          {shown}
        </DropdownMenu.RadioItem>
      ))}
    </DropdownMenu.RadioGroup>
  );
}

export function MenuRule() {
  return <DropdownMenu.Separator className="my-1 border-t border-line" />;
}
