'use client';

import { createContext, use, type ReactNode } from 'react';
import type { DeskData } from './desk-data';
import { useDeskModel, type DeskModel } from './use-desk-model';

const Context = createContext<DeskModel | null>(null);

/** One part on the Desk: what its tabs, tracks and dialogs show and do. */
export function DeskProvider({ data, children }: { data: DeskData; children: ReactNode }) {
  return <Context value={useDeskModel(data)}>{children}</Context>;
}

export function useDesk(): DeskModel {
  const desk = use(Context);
  if (!desk) throw new Error('useDesk outside of a Desk');
  return desk;
}
