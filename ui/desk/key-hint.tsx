'use client';

import { isOwn, keyOf } from './model/keys';
import { useOwnKeys } from './model/own-keys';

/** A key as it is on this device. @param name as it usually is */
export function KeyHint({ name }: { name: string }) {
  const own = useOwnKeys();
  return <kbd className="key">{isOwn(name) ? keyOf(name, own) : name}</kbd>;
}
