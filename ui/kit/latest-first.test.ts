import { LatestFirst, Superseded } from './latest-first';

type Kind = 'choices' | 'aside' | 'fit';
const RANKS: Readonly<Record<Kind, number>> = { choices: 0, aside: 1, fit: 2 };

/** Somebody whose answers are given by hand. */
function desk() {
  const queue = new LatestFirst<Kind>((kind) => RANKS[kind]);
  const asked: string[] = [];
  const open: Array<{ name: string; answer: () => void; fail: () => void }> = [];
  const ask = (kind: Kind, name: string, each = false) =>
    queue.ask(
      kind,
      () => {
        asked.push(name);
        return new Promise<string>((resolve, reject) => open.push({ name, answer: () => resolve(name), fail: () => reject(new Error(name)) }));
      },
      each,
    );
  const settle = async (how: 'answer' | 'fail' = 'answer') => {
    open.shift()![how]();
    await new Promise((done) => setTimeout(done));
  };
  return { ask, asked, settle };
}

test('one at a time; of each kind only the newest waits, and the more urgent kind goes first', async () => {
  const { ask, asked, settle } = desk();
  const answers: string[] = [];
  const dropped: string[] = [];
  for (const [kind, name] of [
    ['aside', 'aside 1'],
    ['aside', 'aside 2'],
    ['choices', 'choices 1'],
    ['choices', 'choices 2'],
    ['aside', 'aside 3'],
  ] as const)
    void ask(kind, name).then(
      (answer) => answers.push(answer),
      (error: unknown) => error instanceof Superseded && dropped.push(name),
    );
  expect(asked).toEqual(['aside 1']);
  await settle();
  await settle();
  await settle();
  expect(asked).toEqual(['aside 1', 'choices 2', 'aside 3']);
  expect(answers).toEqual(asked);
  expect(dropped).toEqual(['choices 1', 'aside 2']);
});

test('what has to be answered every time is, in order; a failure is told to who asked, and the rest goes on', async () => {
  const { ask, asked, settle } = desk();
  const failed = ask('fit', 'fit 1', true).catch((error: Error) => `not ${error.message}`);
  const second = ask('fit', 'fit 2', true);
  const third = ask('fit', 'fit 3', true);
  await settle('fail');
  await settle();
  await settle();
  expect(asked).toEqual(['fit 1', 'fit 2', 'fit 3']);
  expect(await Promise.all([failed, second, third])).toEqual(['not fit 1', 'fit 2', 'fit 3']);
});
