'use client';

import { Tabs } from 'radix-ui';
import type { ComponentType, KeyboardEvent } from 'react';

interface Props<T extends string> {
  /** What the tabs are about. */
  label: string;
  value: T;
  onValue(value: T): void;
  /** In order. */
  tabs: ReadonlyArray<readonly [value: T, label: string, Content: ComponentType]>;
  /** Many of them stand in one row. */
  tight?: boolean;
  className?: string;
  contentClassName?: string;
  onKeyDown?(event: KeyboardEvent): void;
}

/** The tabs of a panel at the side: one row of words, the content under it scrolls. */
export function SideTabs<T extends string>({ label, value, onValue, tabs, tight = false, className = '', contentClassName = '', onKeyDown }: Props<T>) {
  return (
    <Tabs.Root value={value} onValueChange={(next) => onValue(next as T)} className={`flex flex-col ${className}`}>
      <Tabs.List aria-label={label} className="flex border-b border-line px-0.5">
        {tabs.map(([each, name]) => (
          <Tabs.Trigger
            key={each}
            value={each}
            className={`min-h-11 cursor-pointer font-semibold whitespace-nowrap text-soft data-[state=active]:border-b-2 data-[state=active]:border-ink data-[state=active]:text-ink ${tight ? 'px-1.5 text-[13px]' : 'px-2.5'}`}
          >
            {name}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      {tabs.map(([each, , Content]) => (
        <Tabs.Content key={each} value={each} className={`grow overflow-y-auto p-3 ${contentClassName}`} onKeyDown={onKeyDown}>
          <Content />
        </Tabs.Content>
      ))}
    </Tabs.Root>
  );
}
