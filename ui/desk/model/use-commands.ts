'use client';

import { useEffect, useRef, type KeyboardEvent } from 'react';
import { commandFor, type Command } from './keys';
import { ownKeys } from './own-keys';

/** These work from anywhere on the page but a text field; all others only while the score has the focus. */
const EVERYWHERE: ReadonlySet<Command['do']> = new Set<Command['do']>(['undo', 'redo', 'go to', 'help']);

/** Listens to the keys of the page and returns the listener for the score. */
export function useCommands(obey: (command: Command) => void): (event: KeyboardEvent) => void {
  const latest = useRef(obey);
  useEffect(() => {
    latest.current = obey;
  });
  useEffect(() => {
    const listen = (event: globalThis.KeyboardEvent) => {
      if (event.defaultPrevented || (event.target as Element).closest('input, textarea, [role=dialog]')) return;
      const command = commandFor(event, ownKeys());
      if (!command || !EVERYWHERE.has(command.do)) return;
      event.preventDefault();
      latest.current(command);
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);
  return (event) => {
    const command = commandFor(event.nativeEvent, ownKeys());
    if (!command) return;
    event.preventDefault();
    obey(command);
  };
}
