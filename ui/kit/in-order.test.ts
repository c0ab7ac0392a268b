import { InOrder } from './in-order';

interface Setting {
  tempo?: number;
  line?: number;
}

/** Sends that are answered by hand. */
function controlled() {
  const sent: Setting[] = [];
  const answers: Array<() => void> = [];
  const queue = new InOrder<Setting>((change) => {
    sent.push(change);
    return new Promise((resolve) => answers.push(resolve));
  });
  const answer = async () => {
    answers.shift()!();
    await new Promise((resolve) => setImmediate(resolve));
  };
  return { queue, sent, answer };
}

test('one at a time; what comes meanwhile is merged, and the last value is sent last', async () => {
  const { queue, sent, answer } = controlled();
  queue.put({ tempo: 60 });
  queue.put({ tempo: 70 });
  queue.put({ line: 1 });
  queue.put({ tempo: 80 });
  expect(sent).toEqual([{ tempo: 60 }]);
  await answer();
  expect(sent).toEqual([{ tempo: 60 }, { tempo: 80, line: 1 }]);
  await answer();
  queue.put({ line: 0 });
  expect(sent.at(-1)).toEqual({ line: 0 });
});

test('when the page is left, what waits goes out at once, and not twice', async () => {
  const { queue, sent, answer } = controlled();
  queue.put({ tempo: 60 });
  queue.put({ tempo: 90 });
  queue.leave();
  expect(sent).toEqual([{ tempo: 60 }, { tempo: 90 }]);
  await answer();
  expect(sent).toHaveLength(2);
});

test('parts of a value may be merged by their own rule', async () => {
  const sent: Array<{ technique: object }> = [];
  const queue = new InOrder<{ technique: object }>(
    async (change) => void sent.push(change),
    (first, then) => ({ technique: { ...first.technique, ...then.technique } }),
  );
  queue.put({ technique: { thumbFrom: 7 } });
  queue.put({ technique: { bassFingers: 'four' } });
  queue.put({ technique: { thumbFrom: 9 } });
  await new Promise((resolve) => setImmediate(resolve));
  expect(sent).toEqual([{ technique: { thumbFrom: 7 } }, { technique: { bassFingers: 'four', thumbFrom: 9 } }]);
});
