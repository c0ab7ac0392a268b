/** The outbox as one marking sees it. */
import type { ChangeSet } from '@/core/marking/change';
import { RECORD_VERSION } from '@/core/marking/versions';
import { laterThanBefore } from '@/ui/kit/clock';
import type { MarkingNews, MarkingOutbox } from './marking-store';
import { marksLane, type Body, type Entry, type PartNamed } from '@/ui/unsent/entry';
import type { Outbox } from '@/ui/unsent/outbox';

const setOf = (entry: Entry): ChangeSet => (entry.body as Extract<Body, { about: 'marks' }>).set;

/** @param outbox null while a page is made on the server: nothing is changed there */
export function markingOutbox(outbox: Outbox | null, markingId: string, part: PartNamed): MarkingOutbox {
  const body = (set: ChangeSet): Body => ({ about: 'marks', markingId, part, set: { ...set, version: RECORD_VERSION } });
  const lane = marksLane(markingId);
  return {
    add: (set) => outbox?.add(body(set), set.id),
    left: async () => {
      const { stored, waiting } = (await outbox?.left(lane)) ?? { stored: [], waiting: [] };
      return { stored: stored.map(setOf), waiting: waiting.map(setOf) };
    },
    settle: async (whose) => outbox?.settleMarks(lane, whose),
    follow: (listener) =>
      outbox?.follow(lane, (event) => {
        switch (event.is) {
          case 'made elsewhere':
            return listener({ is: 'made elsewhere', set: setOf(event.entry) });
          case 'stored elsewhere':
            return event.body.about === 'marks' ? listener({ is: 'stored elsewhere', set: event.body.set }) : undefined;
          case 'stored':
            return listener(event);
          case 'clash':
            return event.clash.about === 'marks' ? listener({ is: 'clash', stored: event.clash.marking }) : undefined;
          case 'rewritten':
            return listener({ is: 'rewritten', sets: event.entries.map(setOf), base: event.base } satisfies MarkingNews);
        }
      }) ?? (() => undefined),
    newId: () => crypto.randomUUID(),
    now: laterThanBefore,
  };
}
