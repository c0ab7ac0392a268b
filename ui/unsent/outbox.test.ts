import { type ChangeSet } from '@/core/marking/change';
import { markKey } from '@/core/marking/mark';
import { MarkingStore } from '@/ui/part/marking-store';
import { entryAsText, entryInWords, type Entry } from './entry';
import { markingOutbox } from '@/ui/part/marking-outbox';
import { VIEW_MS } from './outbox';
import { isLostWithPage, saveState } from './state';
import { type Mood } from './world';

import { change, mark, part, valuesOf, world } from '@/tests/support/desks';

describe('a change', () => {
  test('is there at once, kept, then stored', async () => {
    const { server, browser, desk } = world();
    const { tab, finger, save, marking } = desk();
    await browser.settle();
    finger('a', '3');
    expect([marking(), save(), isLostWithPage(tab.outbox.snapshot())]).toEqual([{ a: '3' }, 'saving', true]);
    server.moods = ['away'];
    await browser.settle(0);
    expect([save(), isLostWithPage(tab.outbox.snapshot())]).toEqual(['waiting', false]);
    await browser.settle();
    expect([save(), valuesOf(server.marking.m!), browser.disk.entries]).toEqual(['saved', { a: '3' }, []]);
  });
  test('made in the first moments goes on top of what an earlier visit left', async () => {
    const { server, browser, desk } = world();
    server.moods = Array<Mood>(3).fill('away');
    const first = desk();
    await browser.settle(0);
    first.finger('a', '3');
    await browser.settle(0);
    expect(first.save()).toBe('waiting');
    browser.closeTab(first.tab);
    const again = desk({}, []);
    again.finger('a', '4');
    await browser.settle();
    expect([again.marking(), valuesOf(server.marking.m!), again.save()]).toEqual([{ a: '4' }, { a: '4' }, 'saved']);
    expect(server.history.map(({ changes }) => changes[0]!.from?.value ?? null)).toEqual([null, '3']);
  });
  test('what an earlier visit left and is sent before its part is open again is there all the same, and no clash with oneself', async () => {
    const { server, browser, desk } = world();
    server.moods = ['away'];
    const first = desk();
    await browser.settle(0);
    first.finger('a', '3');
    first.finger('b', '1');
    await browser.settle(0);
    browser.closeTab(first.tab);
    // The page was made before, and comes to life after what was left has been sent.
    const marking = server.marking.m ?? {};
    const history = [...server.history];
    const late = desk(marking, history, false);
    await browser.settle();
    expect(valuesOf(server.marking.m!)).toEqual({ a: '3', b: '1' });
    late.store.open();
    await browser.settle();
    expect(late.marking()).toEqual({ a: '3', b: '1' });
    late.finger('a', '4');
    late.store.undo();
    await browser.settle();
    expect([late.save(), late.marking(), valuesOf(server.marking.m!)]).toEqual(['saved', { a: '3', b: '1' }, { a: '3', b: '1' }]);
    // A view that was made after it knows of it, also of what somebody else did since.
    server.marking.m = { ...server.marking.m, [markKey('b', 'finger')]: mark('2') };
    const outbox = { ...markingOutbox(late.tab.outbox, 'm', part), newId: browser.newId, now: () => '2030-01-01T00:00:00.000Z' };
    const again = new MarkingStore(server.marking.m, server.history, outbox);
    again.open();
    await browser.settle();
    expect(valuesOf(again.snapshot().marking)).toEqual({ a: '3', b: '2' });
  });
  test('what the page before stored while this one was being made is in this one, and no longer later', async () => {
    const { server, browser, desk } = world();
    const before = desk();
    await browser.settle();
    // The view is read; the page before stores two things and is gone.
    const history = [...server.history];
    before.finger('a', '3');
    before.tab.outbox.add({ about: 'settings', part, change: { tempo: 80 } });
    await browser.settle();
    browser.closeTab(before.tab);
    expect([valuesOf(server.marking.m!), server.settings, browser.disk.entries]).toEqual([{ a: '3' }, [{ tempo: 80 }], []]);
    const now = desk({}, history);
    await browser.settle();
    expect(now.marking()).toEqual({ a: '3' });
    const settings = async (tab = now.tab) => (await tab.outbox.left(`settings ${part.id}`, VIEW_MS)).stored.map(({ body }) => body);
    expect(await settings()).toEqual([{ about: 'settings', part, change: { tempo: 80 } }]);
    now.finger('a', '4');
    await browser.settle();
    expect([now.save(), valuesOf(server.marking.m!)]).toEqual(['saved', { a: '4' }]);
    browser.time += VIEW_MS + 1;
    const later = desk();
    await browser.settle();
    expect([await settings(), await settings(later.tab), later.marking()]).toEqual([[], [], { a: '4' }]);
  });
  test('undo and redo are changes too', async () => {
    const { server, browser, desk } = world();
    const { store, finger, marking } = desk();
    finger('a', '3');
    store.undo();
    store.redo();
    store.redo();
    await browser.settle();
    expect(marking()).toEqual({ a: '3' });
    expect(server.history.map(({ undoes }) => undoes)).toEqual([null, server.history[0]!.id, server.history[1]!.id]);
  });
  test('text is cleaned and a long reason shortened, so that the server takes it', async () => {
    const { server, browser, desk } = world();
    const { store, save } = desk();
    store.apply(`tempo ${'x'.repeat(400)}`, [{ target: 'at-0-0', kind: 'tempo', from: null, to: { ...mark('Andante\u000B\uD83C'), why: '\u0001' } }]);
    await browser.settle();
    expect(save()).toBe('saved');
    expect(server.history[0]!.reason).toHaveLength(300);
    expect(server.history[0]!.changes[0]!.to).toEqual({ value: 'Andante', origin: 'coach' });
  });
});

describe('without an answer', () => {
  test.each<[Mood, RegExp]>([
    ['away', /does not answer/],
    ['html', /sign-in page/],
    ['nonsense', /Something else/],
    ['busy', /Too much to do/],
    ['full', /disk is full/],
  ])('%s: everything is kept, said, and sent again with growing pauses', async (mood, said) => {
    const { server, browser, desk } = world();
    server.moods = Array<Mood>(8).fill(mood);
    const { tab, finger, save } = desk();
    finger('a', '3');
    await browser.settle(0);
    expect(save()).toBe('waiting');
    const { way, entries } = tab.outbox.snapshot();
    expect(way.to === 'waiting' && way.problem.what).toMatch(said);
    expect(browser.disk.entries).toHaveLength(1);
    expect([entries[0]!.refused, server.marking.m]).toEqual([null, undefined]);
    finger('b', '2');
    await browser.settle(29_000);
    expect(server.requests).toBeLessThan(10);
    await browser.settle();
    expect([save(), valuesOf(server.marking.m!)]).toEqual(['saved', { a: '3', b: '2' }]);
  });
  test('an answer that is lost, or comes twice, stores once', async () => {
    const { server, browser, desk } = world();
    server.moods = ['answer lost', 'answer lost'];
    const { finger, save } = desk();
    finger('a', '3');
    finger('a', '4');
    await browser.settle();
    expect([save(), server.history.length, valuesOf(server.marking.m!)]).toEqual(['saved', 2, { a: '4' }]);
  });
  test('an error of our own stops nothing for good: it is told, everything stays kept, and is sent later', async () => {
    const { server, browser, desk } = world();
    const printed = jest.spyOn(console, 'error').mockImplementation(() => undefined);
    let broken = true;
    const ask = server.ask;
    Object.assign(server, {
      ask: async (...args: Parameters<typeof ask>) => {
        if (!broken) return ask(...args);
        broken = false;
        throw new Error('unthought of');
      },
    });
    const { tab, finger, save } = desk();
    finger('a', '3');
    await browser.settle(0);
    const { way } = tab.outbox.snapshot();
    expect([save(), way.to === 'waiting' && way.problem.what]).toEqual(['waiting', 'Sending your changes met an error of its own.']);
    await browser.settle();
    expect([save(), valuesOf(server.marking.m!), printed.mock.calls.length]).toEqual(['saved', { a: '3' }, 1]);
    printed.mockRestore();
  });
  test('who says "try now" does not wait', async () => {
    const { server, browser, desk } = world();
    server.moods = Array<Mood>(6).fill('away');
    const { tab, finger, save } = desk();
    finger('a', '3');
    await browser.settle(20_000);
    server.moods = [];
    const before = browser.time;
    tab.outbox.go();
    await browser.settle(0);
    expect([save(), browser.time - before]).toEqual(['saved', 0]);
  });
  test('300 changes made in two tabs while the network is away arrive in order, a hundred at a time', async () => {
    const { server, browser, desk } = world();
    server.moods = Array<Mood>(4).fill('away');
    const [one, two] = [desk(), desk()];
    await browser.settle(0);
    for (let i = 0; i < 150; i++) {
      one.finger(`a${i % 7}`, String(i % 5));
      await browser.settle(0);
      two.finger(`a${i % 7}`, String((i + 1) % 5));
      await browser.settle(0);
    }
    expect([one.marking(), one.tab.outbox.snapshot().entries.length]).toEqual([two.marking(), 300]);
    const before = server.requests;
    server.moods = [];
    await browser.settle();
    expect([one.save(), two.save(), server.history.length]).toEqual(['saved', 'saved', 300]);
    expect(valuesOf(server.marking.m!)).toEqual(one.marking());
    expect(server.requests - before).toBe(3);
  });
  test('where the browser keeps nothing the page says so, and sends all the same', async () => {
    const { server, browser, desk } = world();
    browser.disk.full = true;
    server.moods = ['away'];
    const other = desk();
    const { finger, save } = desk();
    await browser.settle(0);
    finger('a', '3');
    await browser.settle(0);
    expect([save(), other.save()]).toEqual(['only here', 'saved']);
    await browser.settle();
    expect([save(), valuesOf(server.marking.m!)]).toEqual(['saved', { a: '3' }]);
  });
});

describe('what is refused for good', () => {
  test('is set aside in words, and the rest goes on as if it had never been', async () => {
    const { server, browser, desk } = world();
    const { tab, store, finger, marking, save } = desk();
    store.apply('Finger 9', [change('a', null, '9'), change('b', null, '1')]);
    finger('a', '2');
    finger('c', '3');
    store.undo();
    await browser.settle();
    expect([save(), valuesOf(server.marking.m!), marking()]).toEqual(['refused', { a: '2' }, { a: '2' }]);
    const [aside] = tab.outbox.snapshot().entries;
    expect([aside!.refused!.what, entryAsText(aside!)]).toEqual(['No such mark.', 'Violin I: Finger 9\na  finger: 9\nb  finger: 1']);
    expect(browser.disk.entries).toHaveLength(1);
    // Also after a reload, until it is dropped.
    browser.closeTab(tab);
    const again = desk();
    again.finger('d', '1');
    await browser.settle();
    expect([again.save(), valuesOf(server.marking.m!)]).toEqual(['refused', { a: '2', d: '1' }]);
    await again.tab.outbox.drop(aside!.id);
    expect([again.save(), browser.disk.entries]).toEqual(['saved', []]);
  });
  test('a marking that is no longer there: each change is set aside', async () => {
    const { browser } = world();
    const tab = browser.openTab();
    const set = (id: string): ChangeSet => ({ id, at: '', reason: id, undoes: null, changes: [change('a', null, '1')] });
    for (const id of ['one', 'two']) tab.outbox.add({ about: 'marks', markingId: 'gone', part, set: set(id) }, id);
    await browser.settle();
    expect(tab.outbox.snapshot().entries.map(({ refused }) => refused?.what)).toEqual(Array(2).fill('This marking is no longer there.'));
  });
  test('a setting that cannot be does not hold up the next one', async () => {
    const { server, browser } = world();
    const tab = browser.openTab();
    tab.outbox.add({ about: 'settings', part, change: { tempo: 'unheard of' } });
    tab.outbox.add({ about: 'settings', part, change: { tempo: 80 } });
    await browser.settle();
    expect([server.settings, saveState(tab.outbox.snapshot())]).toEqual([[{ tempo: 80 }], 'refused']);
    expect(entryInWords(tab.outbox.snapshot().entries[0]!)).toBe('Violin I: tempo');
  });
});

test('an entry in words, to be shown and copied', () => {
  const of = (body: Entry['body']): Entry => ({ id: 'x', madeAt: '', body, refused: null, seq: 1 });
  const player = of({ about: 'player', playerId: 'p', name: 'Robin', change: { hand: 'small' } });
  const passages = of({ about: 'passages', part, from: [], to: [{ name: 'A', fromBar: 0, toBar: 3 }] });
  expect([entryInWords(player), entryInWords(passages)]).toEqual(['Robin: hand', 'Violin I: passages']);
  expect([entryAsText(player), entryAsText(passages)]).toEqual(['Robin: hand\n{\n  "hand": "small"\n}', expect.stringContaining('"name": "A"')]);
});
