import type { Report } from '@/core/checks/check';
import type { Tempi } from '@/core/checks/tempi';
import type { NearReport } from '@/core/checks/near';
import { PLAIN_CONDITIONS } from '@/tests/support/conditions';
import type { Conditions } from '@/workers/questions';
import { Checking, QUIET_MS, type CheckShown } from './checking';

const TEMPO = { wanted: 60, floor: null, ceiling: null, limitedBy: null, next: null };
const report = (name: string): Report =>
  ({ about: null, tempo: { ...TEMPO }, passages: [{ name }], findings: [], risks: [], fingering: null, bowing: null }) as unknown as Report;
const near = (name: string): NearReport => ({ ...report(name), range: RANGE, covers: [], notes: [], strokes: [], changes: [] });
const RANGE = { fromBar: 0, toBar: 7 };
const marked = (tempo: number): Conditions => ({ ...PLAIN_CONDITIONS, tempo });

/** A checker that answers when it is told to, and a clock. @param holdsTempi they are answered when it is told to, and not at all otherwise */
function bench({ holdsTempi = false } = {}) {
  jest.useFakeTimers();
  let now = 0;
  const asked: Array<{ what: string; answer(value?: null): Promise<void>; fail(): Promise<void> }> = [];
  const shown: string[] = [];
  const about: Array<Report['about'] | undefined> = [];
  const tempi: Array<{ of: number | null; answer(value: string | null): Promise<void> }> = [];
  const known: Array<string | null> = [];
  const question =
    <T>(kind: string, make: (name: string) => T) =>
    (conditions: Conditions) =>
      new Promise<T>((resolve, reject) => {
        const what = `${kind} ${conditions.tempo}`;
        const settle = async (done: () => void) => {
          done();
          for (let i = 0; i < 10; i++) await Promise.resolve();
        };
        asked.push({
          what,
          answer: (value) => settle(() => resolve(value === null ? (null as T) : make(what))),
          fail: () => settle(() => reject(new Error('broken'))),
        });
      });
  const checking = new Checking(
    {
      near: question('near', near),
      report: question('whole', report),
      tempi: ({ tempo }) =>
        new Promise((resolve) => {
          if (!holdsTempi) resolve(null);
          const answer = async (name: string | null) => {
            resolve(name === null ? null : ({ tempo: TEMPO, passages: [{ name }] } as unknown as Tempi));
            for (let i = 0; i < 10; i++) await Promise.resolve();
          };
          tempi.push({ of: tempo, answer });
        }),
    },
    ({ report: got, whole, failed, tempi: best }: CheckShown) => {
      known.push(best?.passages[0]?.name ?? null);
      shown.push(`${got?.passages[0]?.name ?? 'nothing'}${whole ? ' whole' : ''}${failed ? ' failed' : ''}`);
      about.push(got?.about);
    },
    () => now,
  );
  return {
    checking,
    asked: () => asked.map(({ what }) => what),
    shown,
    about,
    tempi,
    known,
    last: () => asked.at(-1)!,
    answers: (what: string, value?: null) => asked.find((each) => each.what === what)!.answer(value),
    want: (conditions: Conditions, more: { known?: number; range?: typeof RANGE | null } = {}) =>
      checking.want({ conditions, passages: [], known: 0, range: RANGE, ...more }),
    pass: async (ms: number) => {
      now += ms;
      await jest.advanceTimersByTimeAsync(ms);
    },
  };
}
afterEach(() => jest.useRealTimers());

test('at first the passage, then the whole at once', async () => {
  const { want, asked, last, shown } = bench();
  want(marked(1));
  expect(asked()).toEqual(['near 1']);
  await last().answer();
  expect(asked()).toEqual(['near 1', 'whole 1']);
  await last().answer();
  expect(shown).toEqual(['near 1', 'whole 1 whole']);
});

test('after a mark the passage at once, the whole when nothing was typed for a moment', async () => {
  const { want, asked, last, shown, pass } = bench();
  want(marked(1));
  await last().answer();
  await last().answer();
  await pass(1000);
  want(marked(2));
  await last().answer();
  await pass(QUIET_MS - 1);
  want(marked(3));
  await last().answer();
  await pass(QUIET_MS - 1);
  expect(asked().slice(2)).toEqual(['near 2', 'near 3']);
  await pass(1);
  expect(asked().slice(2)).toEqual(['near 2', 'near 3', 'whole 3']);
  await last().answer();
  expect(shown.slice(2)).toEqual(['near 2', 'near 3', 'whole 3 whole']);
});

test('typed while the whole is being checked: the passage at once; what was given up is asked again when it is quiet', async () => {
  const { want, asked, answers, shown, pass } = bench();
  want(marked(1));
  await answers('near 1');
  want(marked(2));
  want(marked(3));
  expect(asked()).toEqual(['near 1', 'whole 1', 'near 2']);
  await answers('near 2');
  expect(asked().slice(3)).toEqual(['near 3']);
  await answers('whole 1', null);
  await answers('near 3');
  await pass(QUIET_MS);
  expect(asked().slice(4)).toEqual(['whole 3']);
  await answers('whole 3');
  expect(shown).toEqual(['near 1', 'near 2', 'near 3', 'whole 3 whole']);
});

test('an answer about marks that are history is not shown', async () => {
  const { want, asked, answers, shown } = bench();
  want(marked(1));
  await answers('near 1');
  want(marked(2));
  await answers('whole 1');
  expect(shown).toEqual(['near 1']);
  await answers('near 2');
  expect(asked()).toEqual(['near 1', 'whole 1', 'near 2']);
  expect(shown).toEqual(['near 1', 'near 2']);
});

test('after a mark what was said elsewhere holds; for another tempo only what was said of the passage', async () => {
  const { want, last, about, pass } = bench();
  const conditions = marked(1);
  want(conditions);
  await last().answer();
  await last().answer();
  want({ ...conditions, marking: {} });
  await last().answer();
  await pass(QUIET_MS);
  await last().answer();
  want(marked(2));
  await last().answer();
  await pass(QUIET_MS);
  await last().answer();
  expect(about).toEqual([RANGE, null, null, null, RANGE, null]);
});

test('more known of the other parts, or other passages: the whole again and nothing else', async () => {
  const { want, asked, last, shown } = bench();
  const conditions = marked(1);
  want(conditions);
  await last().answer();
  await last().answer();
  want(conditions, { known: 1 });
  expect(asked()).toEqual(['near 1', 'whole 1', 'whole 1']);
  await last().answer();
  expect(shown.at(-1)).toBe('whole 1 whole');
});

test('a failing passage is passed over; a failing whole is said, and what was known stays', async () => {
  const { want, last, shown, pass } = bench();
  want(marked(1));
  await last().fail();
  await last().answer();
  expect(shown).toEqual(['whole 1 whole']);
  want(marked(2));
  await last().fail();
  await pass(QUIET_MS);
  await last().fail();
  expect(shown.at(-1)).toBe('whole 1 failed');
});

test('without a passage only the whole; after the end nothing is shown', async () => {
  const { want, asked, last, shown, checking } = bench();
  want(marked(1), { range: null });
  expect(asked()).toEqual(['whole 1']);
  checking.end();
  await last().answer();
  expect(shown).toEqual([]);
});

test('the tempi after the whole; they stay while only marks change, and are unknown for another player or tempo', async () => {
  const { want, last, tempi, known, pass } = bench({ holdsTempi: true });
  const conditions = marked(1);
  want(conditions);
  await last().answer();
  await last().answer();
  expect(tempi.map(({ of }) => of)).toEqual([1]);
  await tempi[0]!.answer('first');
  want({ ...conditions, marking: {} });
  await last().answer();
  await pass(QUIET_MS);
  await last().answer();
  await tempi[1]!.answer('second');
  want(marked(2));
  await last().answer();
  await pass(QUIET_MS);
  await last().answer();
  expect(known).toEqual([null, null, 'first', 'first', 'first', 'second', null, null]);
});

test('tempi of marks that are history are not shown, and are asked for the new ones', async () => {
  const { want, asked, last, tempi, known, pass } = bench({ holdsTempi: true });
  want(marked(1));
  await last().answer();
  await last().answer();
  want(marked(2));
  expect(asked().at(-1)).toBe('near 2');
  await last().answer();
  await pass(QUIET_MS);
  expect(asked().at(-1)).toBe('near 2');
  await tempi[0]!.answer(null);
  expect(asked().at(-1)).toBe('whole 2');
  await last().answer();
  expect(tempi.map(({ of }) => of)).toEqual([1, 2]);
  await tempi[1]!.answer('second');
  expect(known).toEqual([null, null, null, null, 'second']);
});
