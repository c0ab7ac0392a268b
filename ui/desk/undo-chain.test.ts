/** Everything that a coach can do on two parts, taken back to the beginning and done again to the end. */
import fc from 'fast-check';
import { applyChanges, coachChanges, type ChangeSet } from '@/core/marking/change';
import { undoing } from '@/core/marking/history';
import type { Marking } from '@/core/marking/mark';
import { markingOutbox } from '@/ui/unsent/marking-outbox';
import { FakeBrowser, FakeServer } from '@/ui/unsent/world';
import { MarkingStore } from './marking-store';
import type { DeskSettings } from './types';
import { UndoChain, type Step } from './undo-chain';
import { withSettings, type SettingsChange } from './use-part-settings';
import { settingsDeed } from './use-undo';

const FIRST = { tempo: 80, density: 'usual', octaves: 0, accepted: [] } as unknown as DeskSettings;

/** One part's Desk, with another part beside it that marks can be carried to. */
function desk(history: readonly ChangeSet[] = [], marking: Marking = {}) {
  const browser = new FakeBrowser(new FakeServer());
  let ms = 0;
  /** A clock that stands still for several deeds. */
  const now = () => new Date(1_900_000_000_000 + Math.floor(ms++ / 3)).toISOString();
  let ticks = 0;
  const later = () => new Date(1_900_000_000_000 + 60_000 * ++ticks).toISOString();
  const tab = browser.openTab();
  const store = new MarkingStore(marking, history, { ...markingOutbox(tab.outbox, 'm', { id: 'part', name: 'Violin I' }), newId: browser.newId, now: later });
  store.open();
  const chain = new UndoChain(() => new Date(1_900_000_000_000 + 60_000 * ticks + 1).toISOString());
  const state = { passages: ['Opening'], settings: FIRST, other: {} as Marking };
  const steps = (which: 'undo' | 'redo'): Step[] => {
    const last = store.snapshot().stacks[which].at(-1);
    return last ? [{ at: last.at, what: last.reason, act: () => store[which]() }] : [];
  };
  const marks = () => ({ undo: steps('undo'), redo: steps('redo') });
  const does = {
    mark(target: string, value: string) {
      const changes = coachChanges(store.snapshot().marking, target, 'finger', value);
      if (changes.length === 0) return;
      store.apply(`finger ${value}`, changes);
      chain.marked();
    },
    passages(name: string) {
      const [before, after] = [state.passages, [...state.passages, name]];
      state.passages = after;
      chain.did({ what: `passage ${name}`, undo: () => (state.passages = before), redo: () => (state.passages = after) });
    },
    settings(change: SettingsChange) {
      const { what, back } = settingsDeed(state.settings, change);
      const put = (each: SettingsChange) => (state.settings = withSettings(state.settings, each));
      put(change);
      chain.did({ what, undo: () => put(back), redo: () => put(change) });
    },
    elsewhere(target: string, value: string) {
      const changes = coachChanges(state.other, target, 'bow', value);
      if (changes.length === 0) return;
      let last: ChangeSet = { id: browser.newId(), at: now(), reason: 'carried', changes, undoes: null };
      const send = (set: ChangeSet) => {
        last = set;
        state.other = applyChanges(state.other, set.changes).marking;
      };
      send(last);
      const back = () => send(undoing(last, browser.newId(), now()));
      chain.did({ what: 'carried', undo: back, redo: back });
    },
  };
  const all = () => JSON.stringify([Object.entries(store.snapshot().marking).sort(), state.passages, state.settings, Object.entries(state.other).sort()]);
  const act = (which: 'undo' | 'redo') => (which === 'undo' ? chain.toUndo(marks()) : chain.toRedo(marks()));
  return { browser, does, all, act, state, marking: () => store.snapshot().marking };
}

const deed = fc.oneof(
  fc.record({ do: fc.constant('mark' as const), at: fc.constantFrom('a', 'b', 'c'), value: fc.constantFrom('1', '2', '3') }),
  fc.record({ do: fc.constant('passages' as const), value: fc.constantFrom('A', 'B') }),
  fc.record({ do: fc.constant('tempo' as const), value: fc.integer({ min: 40, max: 60 }) }),
  fc.record({ do: fc.constant('accept' as const), value: fc.constantFrom('x', 'y') }),
  fc.record({ do: fc.constant('release' as const), value: fc.constantFrom('x', 'y') }),
  fc.record({ do: fc.constant('elsewhere' as const), at: fc.constantFrom('a', 'b'), value: fc.constantFrom('up', 'down') }),
  fc.record({ do: fc.constantFrom('undo' as const, 'redo' as const) }),
);

test('whatever was done, undone and done again: undo leads to the beginning, redo from there to the end', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(deed, { maxLength: 25 }), async (deeds) => {
      const { browser, does, all, act } = desk();
      await browser.settle(0);
      const beginning = all();
      for (const each of deeds) {
        if (each.do === 'mark') does.mark(each.at, each.value);
        else if (each.do === 'passages') does.passages(each.value);
        else if (each.do === 'tempo') does.settings({ tempo: each.value });
        else if (each.do === 'accept') does.settings({ accept: [{ id: each.value, key: each.value, why: '' }] });
        else if (each.do === 'release') does.settings({ release: [each.value] });
        else if (each.do === 'elsewhere') does.elsewhere(each.at, each.value);
        else act(each.do)?.act();
      }
      const end = all();
      let undone = 0;
      for (let step = act('undo'); step && undone < 200; step = act('undo'), undone++) step.act();
      expect(all()).toBe(beginning);
      for (let i = 0; i < undone; i++) act('redo')!.act();
      expect(all()).toBe(end);
    }),
    { numRuns: 300 },
  );
});

test('what was done last is taken back first, and is named; something new ends what could be done again', async () => {
  const { browser, does, act, state, marking } = desk();
  await browser.settle(0);
  expect([act('undo'), act('redo')]).toEqual([null, null]);
  does.mark('a', '3');
  does.passages('A');
  does.settings({ tempo: 72 });
  expect(act('undo')!.what).toBe('tempo 72');
  act('undo')!.act();
  expect([state.settings.tempo, act('undo')!.what, act('redo')!.what]).toEqual([80, 'passage A', 'tempo 72']);
  act('undo')!.act();
  expect([state.passages, act('undo')!.what]).toEqual([['Opening'], 'finger 3']);
  act('undo')!.act();
  expect([marking(), act('undo')]).toEqual([{}, null]);
  act('redo')!.act();
  expect(Object.values(marking()).map(({ value }) => value)).toEqual(['3']);
  does.mark('b', '1');
  expect([act('redo'), act('undo')!.what]).toEqual([null, 'finger 1']);
  does.settings({ accept: [{ id: 'shift late n', key: 'k', why: 'she can' }], density: 'every note' as never });
  expect(act('undo')!.what).toBe('how many fingers are written, finding accepted');
});
