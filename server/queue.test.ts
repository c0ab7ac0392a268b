import { FairQueue } from './fair-queue';
import { SharedWork } from './shared-work';

/** A queue whose work ends when the test says so. */
function stage(places: number) {
  const queue = new FairQueue(places);
  const begun: string[] = [];
  const ends = new Map<string, () => void>();
  const ask = (name: string, asker: string, long = false, signal?: AbortSignal) =>
    queue.run({
      asker,
      long,
      signal,
      run: () => {
        begun.push(name);
        return new Promise<string>((resolve) => ends.set(name, () => resolve(name)));
      },
    });
  const end = async (name: string) => {
    ends.get(name)!();
    await new Promise((resolve) => setTimeout(resolve, 0));
  };
  return { queue, begun, ask, end };
}
const soon = () => new Promise((resolve) => setTimeout(resolve, 0));

describe('the fair queue', () => {
  test('one asker leaves a place for others, however much they ask', async () => {
    const { begun, ask, end } = stage(2);
    for (const name of ['a1', 'a2', 'a3']) void ask(name, 'a');
    await soon();
    expect(begun).toEqual(['a1']);
    void ask('b1', 'b');
    await soon();
    expect(begun).toEqual(['a1', 'b1']);
    await end('b1');
    expect(begun).toEqual(['a1', 'b1']);
    await end('a1');
    expect(begun).toEqual(['a1', 'b1', 'a2']);
  });
  test('long work leaves a place for short work, and short work goes first', async () => {
    const { begun, ask, end } = stage(3);
    for (const [name, asker] of [
      ['L1', 'a'],
      ['L2', 'b'],
      ['L3', 'c'],
    ] as const)
      void ask(name, asker, true);
    await soon();
    expect(begun).toEqual(['L1', 'L2']);
    void ask('s1', 'd');
    void ask('s2', 'e');
    await soon();
    expect(begun).toEqual(['L1', 'L2', 's1']);
    await end('L1');
    expect(begun.at(-1)).toBe('s2');
    await end('s1');
    expect(begun.at(-1)).toBe('L3');
  });
  test('askers take turns: who was served longest ago is next', async () => {
    const { begun, ask, end } = stage(2);
    for (const name of ['a1', 'a2', 'a3']) void ask(name, 'a');
    void ask('b1', 'b');
    void ask('b2', 'b');
    void ask('c1', 'c');
    await soon();
    expect(begun).toEqual(['a1', 'b1']);
    await end('a1');
    expect(begun.at(-1)).toBe('c1');
    await end('c1');
    expect(begun.at(-1)).toBe('a2');
    await end('b1');
    expect(begun.at(-1)).toBe('b2');
  });
  test('who goes away while waiting is not served; the place of failed work is free', async () => {
    const { queue, begun, ask, end } = stage(2);
    const away = new AbortController();
    void ask('a1', 'a');
    const waits = ask('a2', 'a', false, away.signal);
    void ask('a3', 'a');
    away.abort(new Error('gone'));
    await expect(waits).rejects.toThrow('gone');
    await expect(queue.run({ asker: 'b', long: false, run: () => Promise.reject(new Error('broken')) })).rejects.toThrow('broken');
    await end('a1');
    expect(begun).toEqual(['a1', 'a3']);
    expect(queue.length).toBe(0);
    await expect(ask('late', 'a', false, away.signal)).rejects.toThrow('gone');
  });
});

describe('shared work', () => {
  test('is done once for all who ask, and given up when the last has gone', async () => {
    const shared = new SharedWork<string>();
    const [one, two] = [new AbortController(), new AbortController()];
    const given: AbortSignal[] = [];
    const work = (signal: AbortSignal) => {
      given.push(signal);
      return new Promise<string>((_, reject) => signal.addEventListener('abort', () => reject(new Error('given up'))));
    };
    const answers = [shared.get('k', one.signal, work), shared.get('k', two.signal, work)];
    const settled = Promise.allSettled(answers);
    expect(given).toHaveLength(1);
    one.abort(new Error('one gone'));
    expect(given[0]!.aborted).toBe(false);
    two.abort(new Error('two gone'));
    expect(given[0]!.aborted).toBe(true);
    expect((await settled).map((each) => (each as PromiseRejectedResult).reason.message)).toEqual(['one gone', 'two gone']);
    await expect(shared.get('k', undefined, async () => 'anew')).resolves.toBe('anew');
    await soon();
    expect(shared.size).toBe(0);
  });
  test('a failure reaches everybody, and is tried anew the next time', async () => {
    const shared = new SharedWork<number>();
    const signal = new AbortController().signal;
    const failing = () => Promise.reject(new Error('no'));
    await expect(Promise.allSettled([shared.get('k', signal, failing), shared.get('k', undefined, failing)])).resolves.toMatchObject([
      { reason: { message: 'no' } },
      { reason: { message: 'no' } },
    ]);
    await expect(shared.get('k', signal, async () => 3)).resolves.toBe(3);
  });
});
