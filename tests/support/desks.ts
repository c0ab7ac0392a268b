/** Desks in tabs of one browser that is made up, for tests of what is not stored yet. */
import type { Change, ChangeSet } from '@/core/marking/change';
import { markKey, type Mark, type Marking } from '@/core/marking/mark';
import { markingOutbox } from '@/ui/part/marking-outbox';
import { MarkingStore } from '@/ui/part/marking-store';
import { saveState } from '@/ui/unsent/state';
import { FakeBrowser, FakeServer } from '@/ui/unsent/world';

export const part = { id: 'part', name: 'Violin I' };
export const mark = (value: string): Mark => ({ value, origin: 'coach' });
export const change = (target: string, from: string | null, to: string | null): Change => ({
  target,
  kind: 'finger',
  from: from ? mark(from) : null,
  to: to ? mark(to) : null,
});

export function world() {
  const server = new FakeServer();
  const browser = new FakeBrowser(server);
  /** A tab with the Desk of a part in it. */
  const desk = (marking: Marking = server.marking.m ?? {}, history: readonly ChangeSet[] = server.history, open = true) => {
    const tab = browser.openTab();
    const outbox = { ...markingOutbox(tab.outbox, 'm', part), newId: browser.newId, now: () => '2030-01-01T00:00:00.000Z' };
    const store = new MarkingStore(marking, history, outbox);
    if (open) store.open();
    const finger = (target: string, to: string | null) => {
      const from = store.snapshot().marking[markKey(target, 'finger')];
      store.apply(`Finger ${to}`, [change(target, from?.value ?? null, to)]);
    };
    return { tab, store, finger, save: () => saveState(tab.outbox.snapshot()), marking: () => valuesOf(store.snapshot().marking) };
  };
  return { server, browser, desk };
}
export const valuesOf = (marking: Marking) => Object.fromEntries(Object.entries(marking).map(([key, { value }]) => [key.split('|')[0]!, value]));
