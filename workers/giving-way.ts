/** Long work that lets other questions through, and is given up when nobody waits for it any more. */
import type { Steps } from '../core/util/steps';

/** So long other questions wait while a report is made, in ms. */
const STEP_MS = 8;

/** After whatever else there is to do. */
const nextTask = (): Promise<void> =>
  new Promise((resolve) => {
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = () => {
      port1.close();
      resolve();
    };
    port2.postMessage(null);
  });

/** @param isWanted asked whenever others had their turn @returns null where it was given up */
export async function givingWay<T>(steps: Steps<T>, isWanted: () => boolean): Promise<T | null> {
  for (let since = performance.now(); ;) {
    const { done, value } = steps.next();
    if (done) return value;
    if (performance.now() - since < STEP_MS) continue;
    await nextTask();
    if (!isWanted()) return null;
    since = performance.now();
  }
}

/** @throws where the answer was given up: nobody waits for it any more */
export function current<T>(answer: T | null): T {
  if (answer === null) throw new Error('the part was marked otherwise meanwhile');
  return answer;
}
