/** Two browsers on one part: what one stores comes in on the other, whatever waits there. */
import fc from 'fast-check';
import { markKey } from '@/core/marking/mark';
import { runs } from '@/core/testing/runs';
import { markingOutbox } from '@/ui/part/marking-outbox';
import { MarkingStore } from '@/ui/part/marking-store';
import { change, part, valuesOf } from '@/tests/support/desks';
import { sendBatch } from './transport';
import { FakeBrowser, FakeServer, type Mood } from './world';

const uuid = (browser: number, n: number) => `00000000-0000-4000-b${String(browser).padStart(3, '0')}-${String(n).padStart(12, '0')}`;

/** A Desk in a browser of its own, which hears what the server has when it is told to listen. */
function deskIn(server: FakeServer, number: number) {
  const browser = new FakeBrowser(server);
  const { outbox } = browser.openTab();
  let names = 0;
  const store = new MarkingStore({}, [], { ...markingOutbox(outbox, 'm', part), newId: () => uuid(number, ++names), now: () => '2030-01-01T00:00:00.000Z' });
  store.open();
  let heard = 0;
  const hear = () => {
    for (const set of server.history.slice(heard)) outbox.heard({ about: 'marks', markingId: 'm', part, set }, set.id);
    heard = server.history.length;
  };
  const finger = (target: string, to: string | null) =>
    store.apply(`Finger ${to}`, [change(target, store.snapshot().marking[markKey(target, 'finger')]?.value ?? null, to)]);
  return { browser, store, hear, finger, marking: () => valuesOf(store.snapshot().marking), again: () => (heard = 0) };
}

test('what another browser stores is there when it is heard, once, and is no step of one’s own', async () => {
  const server = new FakeServer();
  const [a, b] = [deskIn(server, 1), deskIn(server, 2)];
  await a.browser.settle();
  await b.browser.settle();
  a.finger('a', '3');
  await a.browser.settle();
  b.hear();
  expect([b.marking(), b.store.snapshot().stacks.undo, b.store.snapshot().pending]).toEqual([{ a: '3' }, [], []]);
  // On top of it one goes on as if one had made it; heard again it brings nothing back.
  b.finger('a', '4');
  await b.browser.settle();
  b.again();
  b.hear();
  a.hear();
  expect([a.marking(), b.marking(), valuesOf(server.marking.m!)]).toEqual([{ a: '4' }, { a: '4' }, { a: '4' }]);
  expect(a.store.snapshot().stacks.undo).toHaveLength(1);
});

test('where both changed the same mark ours is shown until the clash is told, then it is decided', async () => {
  const server = new FakeServer();
  const [a, b] = [deskIn(server, 1), deskIn(server, 2)];
  await a.browser.settle();
  await b.browser.settle();
  server.moods = ['away'];
  b.finger('a', '2');
  b.finger('b', '1');
  await b.browser.settle(0);
  a.finger('a', '3');
  a.finger('c', '4');
  await a.browser.settle();
  b.hear();
  expect(b.marking()).toEqual({ a: '2', b: '1', c: '4' });
  await b.browser.settle();
  expect(b.store.snapshot().clash?.map(({ target, mine, theirs }) => [target, mine?.value, theirs?.value])).toEqual([['a', '2', '3']]);
  b.store.settle(() => 'theirs');
  await b.browser.settle();
  a.hear();
  expect([a.marking(), b.marking(), valuesOf(server.marking.m!)]).toEqual(Array(3).fill({ a: '3', b: '1', c: '4' }));
});

const step = fc.record({
  who: fc.nat({ max: 1 }),
  what: fc.oneof(
    fc.record({ target: fc.constantFrom('a', 'b', 'c'), to: fc.constantFrom('1', '2', '3', '4', null) }),
    fc.constantFrom('hear' as const, 'settle' as const, 'undo' as const, 'hear from the start' as const),
  ),
  mood: fc.constantFrom<Mood | null>(null, null, null, 'away', 'answer lost', 'busy'),
});

test('whatever two do at once, each on notes of their own: in the end both see what is stored', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(step, { maxLength: 30 }), async (steps) => {
      const server = new FakeServer();
      const desks = [deskIn(server, 1), deskIn(server, 2)];
      for (const { browser } of desks) await browser.settle();
      for (const { who, what, mood } of steps) {
        const desk = desks[who]!;
        if (mood) server.moods.push(mood);
        if (what === 'settle') await desk.browser.settle();
        else if (what === 'undo') desk.store.undo();
        else if (what === 'hear') desk.hear();
        else if (what === 'hear from the start') desk.again();
        else desk.finger(`${what.target}${who}`, what.to);
      }
      for (let i = 0; i < 4; i++) for (const { browser } of desks) await browser.settle();
      desks.forEach(({ hear }) => hear());
      const stored = valuesOf(server.marking.m ?? {});
      expect(desks.map(({ marking, store }) => [marking(), store.snapshot().pending, store.snapshot().clash])).toEqual(desks.map(() => [stored, [], null]));
    }),
    { numRuns: runs(150) },
  );
});

test('who is shut out keeps what waits, and it is sent once they are in again; what they may not do is set aside', async () => {
  const entry = { id: uuid(1, 1), madeAt: '', body: { about: 'player' as const, playerId: 'p', name: 'Ines', change: {} }, refused: null, seq: 1 };
  const problem = { place: null, what: 'This browser is not let in.', remedy: 'Come in.' };
  const answered = (status: number) => sendBatch([entry], () => Promise.resolve({ status, text: JSON.stringify({ problem }), retryAfter: null }));
  expect(await answered(401)).toEqual({ kind: 'no answer', problem, retryAfterMs: null });
  expect(await answered(403)).toMatchObject({ kind: 'answered', refused: { id: entry.id, problem } });
});
