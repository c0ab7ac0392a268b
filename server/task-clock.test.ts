import { Worker } from 'node:worker_threads';
import { computedMs, watchTask } from './task-clock';

const THREAD = "Number(require('fs').readlinkSync('/proc/thread-self').split('/').at(-1))";

/** A thread that computes, or sleeps, from when it is told to. */
function threadThat(does: 'computes' | 'sleeps') {
  const shared = new Int32Array(new SharedArrayBuffer(8));
  const body = does === 'computes' ? 'for (;;);' : 'Atomics.wait(shared, 0, 1);';
  const worker = new Worker(
    `const { workerData: shared } = require('worker_threads'); Atomics.store(shared, 1, ${THREAD}); Atomics.store(shared, 0, 1); ${body}`,
    {
      eval: true,
      workerData: shared,
    },
  );
  return { shared, worker };
}
const ended = async (does: 'computes' | 'sleeps', cpuMs: number, wallMs: number): Promise<{ cpu: number; wall: number }> => {
  const { shared, worker } = threadThat(does);
  const begun = performance.now();
  return new Promise((resolve) => {
    const timer = watchTask(shared, { cpuMs, wallMs }, () => {
      clearInterval(timer);
      const cpu = computedMs(Atomics.load(shared, 1))!;
      void worker.terminate().then(() => resolve({ cpu, wall: performance.now() - begun }));
    });
  });
};

test('a thread that computes is ended by what it has computed, however busy the machine is', async () => {
  expect((await ended('computes', 400, Infinity)).cpu).toBeGreaterThanOrEqual(400);
});

test('one that computes nothing has eight times as long; one that is wanted by then is ended by then', async () => {
  const slept = await ended('sleeps', 200, Infinity);
  expect(slept.wall).toBeGreaterThan(1_600);
  const wanted = await ended('sleeps', 60_000, 300);
  expect(wanted.wall).toBeGreaterThan(300);
  expect(wanted.wall).toBeLessThan(400_000);
});

test('of a thread that is not known, or not there any more, nothing is said', () => {
  expect(computedMs(0)).toBeNull();
  expect(computedMs(2 ** 30)).toBeNull();
  expect(computedMs(process.pid)).toBeGreaterThan(0);
});
