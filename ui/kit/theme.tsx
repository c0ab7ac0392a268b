'use client';

import { Button } from './button';
import { Moon, Sun } from 'lucide-react';
import { useState, useSyncExternalStore } from 'react';

const noSubscription = () => () => undefined;
const isDark = () => document.documentElement.dataset.theme === 'dark';

/** Light paper or the dark stage. */
export function ThemeSwitch() {
  const initial = useSyncExternalStore(noSubscription, isDark, () => false);
  const [chosen, setChosen] = useState<boolean | null>(null);
  const dark = chosen ?? initial;
  const toggle = () => {
    setChosen(!dark);
    document.documentElement.dataset.theme = dark ? 'light' : 'dark';
    document.cookie = `theme=${dark ? 'light' : 'dark'}; path=/; max-age=31536000; samesite=lax`;
  };
  return (
    <Button className="px-2" onClick={toggle} aria-label={dark ? 'Light paper' : 'Dark stage'} title={dark ? 'Light paper' : 'Dark stage'}>
      {dark ? <Sun size={16} aria-hidden /> : <Moon size={16} aria-hidden />}
    </Button>
  );
}
