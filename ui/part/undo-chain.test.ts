/** Everything that a coach can do at the Desks of two parts, taken back to the beginning and done again to the end. */
import fc from 'fast-check';
import { runs } from '@/core/testing/runs';
import { coachChanges, type ChangeSet } from '@/core/marking/change';
import { stacksOf, takingBack, type Logged } from '@/core/marking/history';
import { RECORD_VERSION } from '@/core/marking/versions';
import { markingOutbox } from './marking-outbox';
import { marksLane } from '@/ui/unsent/entry';
import { FakeBrowser, FakeServer } from '@/ui/unsent/world';
import { ElsewhereMarking, togetherIn } from './elsewhere';
import { MarkingStore } from './marking-store';
import type { DeskSettings } from './part-data';
import { nextStep, type Lane } from './undo-chain';
import { withSettings } from './use-part-settings';
import { settingsDeed } from './use-undo';

const PARTS = [0, 1].map((i) => ({ id: `00000000-0000-4000-9000-00000000000${i}`, name: ['Violin I', 'Violin II'][i]! }));
const uuid = (n: number) => `00000000-0000-4000-a000-${String(n).padStart(12, '0')}`;

/** Two Desks in two tabs of one browser, each with the other part's marking elsewhere. */
function desks() {
  const server = new FakeServer();
  const browser = new FakeBrowser(server);
  let ms = 1_900_000_000_000;
  const now = () => new Date(++ms).toISOString();
  let togethers = 0;
  const both = [0, 1].map((i) => {
    const { outbox } = browser.openTab();
    const store = new MarkingStore({}, [], { ...markingOutbox(outbox, `m${i}`, PARTS[i]!), newId: browser.newId, now });
    store.open();
    const other = { markingId: `m${1 - i}`, part: PARTS[1 - i]! };
    const elsewhere = new ElsewhereMarking(PARTS[i]!, other, outbox, { newId: browser.newId, now });
    outbox.follow(marksLane(other.markingId), (event) => elsewhere.hear(event));
    const lanes = (): Lane[] => {
      const own: Lane[] = [{ stacks: store.snapshot().stacks, takeBack: (row) => store.takeBack(row as ChangeSet) }];
      return [...own, { ...elsewhere.lane(togetherIn(own)), takeBack: (row) => void elsewhere.takeBack(row as ChangeSet) }];
    };
    return { store, elsewhere, lanes };
  });
  const markingOf = (i: number) => both[i]!.store.snapshot().marking;
  return {
    browser,
    server,
    both,
    async act(i: number, which: 'undo' | 'redo'): Promise<boolean> {
      const step = nextStep(both[i]!.lanes(), which);
      step?.act();
      await browser.settle(0);
      return step !== null;
    },
    next: (i: number, which: 'undo' | 'redo') => nextStep(both[i]!.lanes(), which)?.what ?? null,
    /** Marks in either part, or both at once, from the Desk of one. */
    async mark(i: number, where: readonly boolean[], at: string, value: string) {
      const together = where[0] && where[1] ? uuid(++togethers) : undefined;
      where.forEach((wanted, of) => {
        const changes = wanted ? coachChanges(markingOf(of), at, 'bow', value) : [];
        if (changes.length === 0) return;
        if (of === i) both[i]!.store.apply(`bow ${value}`, changes, together);
        else
          both[i]!.elsewhere.make({
            id: browser.newId(),
            at: now(),
            reason: 'carried',
            changes,
            undoes: null,
            fromPart: PARTS[i]!.id,
            ...(together ? { together } : {}),
          });
      });
      await browser.settle(0);
    },
    stored: () => JSON.stringify([0, 1].map((i) => Object.entries(server.marking[`m${i}`] ?? {}).sort())),
    shown: () => JSON.stringify([0, 1].map((i) => Object.entries(markingOf(i)).sort())),
  };
}

const deed = fc.oneof(
  {
    weight: 2,
    arbitrary: fc.record({ at: fc.constantFrom('a', 'b', 'c'), value: fc.constantFrom('up', 'down'), where: fc.tuple(fc.boolean(), fc.boolean()) }),
  },
  { weight: 1, arbitrary: fc.record({ act: fc.constantFrom('undo' as const, 'redo' as const) }) },
);

test('on two parts: undo at one Desk and the other leads to the beginning, whoever did what where', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(fc.tuple(fc.constantFrom(0, 1), deed), { maxLength: 12 }), async (deeds) => {
      const world = desks();
      await world.browser.settle(0);
      for (const [i, each] of deeds) {
        if ('act' in each) await world.act(i, each.act);
        else await world.mark(i, each.where, each.at, each.value);
        expect(world.stored()).toBe(world.shown());
      }
      for (let steps = 0, quiet = 0; quiet < 2 && steps < 100; steps++) quiet = (await world.act(steps % 2, 'undo')) ? 0 : quiet + 1;
      expect([world.stored(), world.shown()]).toEqual(['[[],[]]', '[[],[]]']);
    }),
    { numRuns: runs(120) },
  );
});

test('what was done at one Desk is taken back there and done again, to the end', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(deed, { maxLength: 10 }), async (deeds) => {
      const world = desks();
      await world.browser.settle(0);
      for (const each of deeds) {
        if ('act' in each) await world.act(0, each.act);
        else await world.mark(0, each.where, each.at, each.value);
      }
      const end = world.stored();
      let undone = 0;
      while (undone < 100 && (await world.act(0, 'undo'))) undone++;
      expect(world.stored()).toBe('[[],[]]');
      for (let i = 0; i < undone; i++) expect(await world.act(0, 'redo')).toBe(true);
      expect(world.stored()).toBe(end);
    }),
    { numRuns: runs(80) },
  );
});

test('at once in two parts is undone as one from either; what the other part changed since is said and left alone', async () => {
  const world = desks();
  await world.browser.settle(0);
  await world.mark(0, [true, true], 'a', 'up');
  expect([world.next(0, 'undo'), world.next(1, 'undo')]).toEqual(['Violin II: carried', 'carried']);
  await world.act(1, 'undo');
  expect(world.stored()).toBe('[[],[]]');
  await world.act(1, 'redo');
  await world.mark(1, [false, true], 'a', 'down');
  expect(world.next(0, 'undo')).toBe('bow up (not in Violin II, which was changed since)');
  await world.act(0, 'undo');
  expect(Object.values(world.server.marking.m1!).map(({ value }) => value)).toEqual(['down']);
  expect(world.server.marking.m0).toEqual({});
});

test('the latest of all lanes comes first, whatever it is; something new in one ends what could be done again in another', () => {
  const row = (id: string, at: number, more: Partial<Logged> = {}): Logged => ({ id, at: new Date(at).toISOString(), reason: id, undoes: null, ...more });
  const lanes = [[row('finger 3', 1)], [row('passage A', 2)], [row('tempo 72', 3)]];
  const next = (which: 'undo' | 'redo') =>
    nextStep(
      lanes.map((rows) => ({ stacks: stacksOf(rows), takeBack: () => undefined })),
      which,
    )?.what ?? null;
  const back = (lane: number, at: number) => lanes[lane]!.push(takingBack(lanes[lane]!.at(-1)!, `u${at}`, new Date(at).toISOString()));
  expect([next('undo'), next('redo')]).toEqual(['tempo 72', null]);
  back(2, 4);
  back(1, 5);
  expect([next('undo'), next('redo')]).toEqual(['finger 3', 'passage A']);
  back(1, 6);
  expect([next('undo'), next('redo')]).toEqual(['passage A', 'tempo 72']);
  lanes[0]!.push(row('finger 1', 7));
  expect([next('undo'), next('redo')]).toEqual(['finger 1', null]);
});

test('a change of settings says what takes it back', () => {
  const first = { tempo: 80, density: 'usual', accepted: [{ id: 'x', key: 'k', why: 'so' }] } as unknown as DeskSettings;
  fc.assert(
    fc.property(
      fc.record({ tempo: fc.integer({ min: 40, max: 60 }), accept: fc.subarray(['x', 'y']), release: fc.subarray(['x', 'z']) }),
      ({ tempo, accept, release }) => {
        const change = { tempo, accept: accept.map((id) => ({ id, key: 'new', why: '', version: RECORD_VERSION })), release };
        const { what, back } = settingsDeed(first, change);
        expect(what).toContain(`tempo ${tempo}`);
        expect(withSettings(withSettings(first, change), back)).toEqual(first);
      },
    ),
  );
});
