import fc from 'fast-check';
import { runs } from '@/core/testing/runs';
import { applyChanges, type ChangeSet } from '@/core/marking/change';
import { markKey } from '@/core/marking/mark';
import { saveState } from './state';
import { type Mood } from './world';

import { change, mark, part, valuesOf, world } from '@/tests/support/desks';

describe('changed elsewhere too', () => {
  /** Another browser has marked a and b; this one a, c and again a. */
  async function clash() {
    const made = world();
    const { server, browser, desk } = made;
    const mine = desk();
    await browser.settle();
    const theirs: ChangeSet = {
      id: browser.newId(),
      at: '2030-01-01T00:00:00.000Z',
      reason: 'x',
      undoes: null,
      changes: [change('a', null, '1'), change('b', null, '1')],
    };
    server.marking.m = applyChanges({}, theirs.changes).marking;
    server.history = [theirs];
    mine.finger('c', '3');
    mine.finger('a', '2');
    mine.finger('d', '4');
    mine.finger('a', '4');
    await browser.settle();
    return { ...made, mine };
  }
  test('is shown mark by mark, nothing is written over, and more can be made meanwhile', async () => {
    const { server, browser, mine } = await clash();
    expect(mine.save()).toBe('conflict');
    expect(mine.store.snapshot().clash).toEqual([{ key: markKey('a', 'finger'), target: 'a', kind: 'finger', mine: mark('4'), theirs: mark('1') }]);
    expect(valuesOf(server.marking.m!)).toEqual({ a: '1', b: '1', c: '3' });
    mine.finger('e', '2');
    await browser.settle();
    expect([mine.marking(), browser.disk.entries.length]).toEqual([{ a: '4', c: '3', d: '4', e: '2' }, 4]);
  });
  test.each([
    ['mine', '4'],
    ['theirs', '1'],
  ] as const)('%s: this mark so, and what did not clash is not lost', async (whose, a) => {
    const { server, browser, mine } = await clash();
    mine.finger('e', '2');
    mine.store.settle(() => whose);
    await browser.settle();
    const all = { a, b: '1', c: '3', d: '4', e: '2' };
    expect([mine.save(), mine.marking(), valuesOf(server.marking.m!), mine.store.snapshot().clash]).toEqual(['saved', all, all, null]);
  });
  test('a page that is opened while it waits shows it too, and can settle it', async () => {
    const { server, browser, desk, mine } = await clash();
    const other = desk();
    await browser.settle();
    expect([other.save(), other.store.snapshot().clash?.length]).toEqual(['conflict', 1]);
    other.store.settle(() => 'mine');
    await browser.settle();
    expect([mine.save(), other.marking(), mine.marking(), valuesOf(server.marking.m!)]).toEqual(['saved', mine.marking(), other.marking(), mine.marking()]);
    expect(mine.marking().a).toBe('4');
  });
  test('one lane that waits holds up no other', async () => {
    const { server, browser, mine } = await clash();
    mine.tab.outbox.add({ about: 'settings', part, change: { tempo: 60 } });
    await browser.settle();
    expect(server.settings).toEqual([{ tempo: 60 }]);
  });
  test('both did the same: there is nothing to decide', async () => {
    const { server, browser, desk } = world();
    const mine = desk();
    await browser.settle();
    server.marking.m = { [markKey('a', 'finger')]: mark('2') };
    mine.finger('a', '2');
    await browser.settle();
    expect([mine.save(), mine.store.snapshot().clash]).toEqual(['saved', null]);
  });
  test.each([
    ['mine', ['A', 'C']],
    ['theirs', ['B']],
  ] as const)('passages, %s', async (whose, names) => {
    const { server, browser } = world();
    const passage = (name: string) => ({ name, fromBar: 0, toBar: 1 });
    const tab = browser.openTab();
    server.passages.part = [passage('B')];
    tab.outbox.add({ about: 'passages', part, from: [passage('A')], to: [passage('A'), passage('C')] });
    await browser.settle();
    expect(saveState(tab.outbox.snapshot())).toBe('conflict');
    await tab.outbox.settlePassages('passages part', whose);
    await browser.settle();
    expect([saveState(tab.outbox.snapshot()), (server.passages.part as Array<{ name: string }>).map(({ name }) => name)]).toEqual(['saved', names]);
  });
});

describe('several tabs', () => {
  test('what is marked in one is in the other at once, and is sent once, also when the one that sends is closed', async () => {
    const { server, browser, desk } = world();
    const [one, two] = [desk(), desk()];
    await browser.settle();
    one.finger('a', '3');
    await browser.settle(0);
    expect(two.marking()).toEqual({ a: '3' });
    server.moods = ['away'];
    two.finger('b', '2');
    await browser.settle(0);
    browser.closeTab(one.tab);
    await browser.settle();
    expect([two.save(), valuesOf(server.marking.m!), server.history.length]).toEqual(['saved', { a: '3', b: '2' }, 2]);
  });
  test('whatever is done in three tabs and whatever the server does: in the end all is stored, once, and all tabs show it', async () => {
    const step = fc.record({
      tab: fc.nat(2),
      target: fc.constantFrom('a', 'b', 'c'),
      value: fc.constantFrom('1', '2', '3', '4'),
      undo: fc.boolean(),
      wait: fc.boolean(),
    });
    const mood = fc.constantFrom<Mood>('well', 'well', 'away', 'answer lost', 'html', 'busy', 'nonsense', 'full');
    await fc.assert(
      fc.asyncProperty(fc.array(step, { maxLength: 25 }), fc.array(mood, { maxLength: 12 }), fc.nat(25), async (steps, moods, closeAt) => {
        const { server, browser, desk } = world();
        server.moods = moods;
        const tabs = [desk(), desk(), desk()];
        await browser.settle(0);
        let made = 0;
        for (const [i, { tab, target, value, undo, wait }] of steps.entries()) {
          const here = tabs[tab]!;
          if (i === closeAt) {
            browser.closeTab(here.tab);
            tabs[tab] = desk();
            await browser.settle(0);
            continue;
          }
          const before = here.store.snapshot().pending.length + server.history.length;
          if (undo) here.store.undo();
          else if (here.marking()[target] !== value) here.finger(target, value);
          made += here.store.snapshot().pending.length + server.history.length - before;
          await browser.settle(wait ? 700 : 0);
        }
        await browser.settle();
        expect(tabs.map(({ save }) => save())).toEqual(['saved', 'saved', 'saved']);
        expect([server.history.length, new Set(server.history.map(({ id }) => id)).size]).toEqual([made, made]);
        for (const each of tabs) expect(each.marking()).toEqual(valuesOf(server.marking.m ?? {}));
        expect(browser.disk.entries).toEqual([]);
      }),
      { numRuns: runs(60) },
    );
  });
});
