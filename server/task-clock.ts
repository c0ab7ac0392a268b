/** What a task has taken of the machine. By the clock on the wall a busy machine would end what is no fault of the task. */
import { readFileSync } from 'node:fs';

/** Ticks of the times in /proc (proc_pid_stat(5); USER_HZ is 100 on Linux). */
const TICK_MS = 10;
const LOOK_EVERY_MS = 50;
/** Seconds by the wall for each of the machine's, before something that waits for ever is given up (judgement). */
const WALL_FOR_CPU = 8;
/** A worker that has to be started first has this long for that, at least. */
const START_MS = 30_000;

/** Milliseconds that a thread of this process has computed; null where the system does not say. @param thread its number, 0 for unknown */
export function computedMs(thread: number): number | null {
  if (thread === 0) return null;
  try {
    const stat = readFileSync(`/proc/self/task/${thread}/stat`, 'utf8');
    // After the name, which may have anything in it: state, then from the twelfth on user and system time.
    const fields = stat.slice(stat.lastIndexOf(')') + 2).split(' ');
    return (Number(fields[11]) + Number(fields[12])) * TICK_MS;
  } catch {
    return null;
  }
}

export interface TaskLimits {
  /** Computing. */
  cpuMs: number;
  /** By the wall, where somebody wants it by then. */
  wallMs: number;
}

/**
 * Watches a task from the moment when a worker has begun with it.
 * @param shared what the worker says: that it has begun, and the number of its thread
 */
export function watchTask(shared: Int32Array, { cpuMs, wallMs }: TaskLimits, over: () => void): NodeJS.Timeout {
  const asked = performance.now();
  let begun: { at: number; cpu: number | null; thread: number } | null = null;
  return setInterval(() => {
    const now = performance.now();
    if (!begun && Atomics.load(shared, 0) === 1) {
      const thread = Atomics.load(shared, 1);
      begun = { at: now, cpu: computedMs(thread), thread };
    }
    if (!begun) return void (now - asked > Math.max(START_MS, cpuMs * WALL_FOR_CPU) && over());
    const wall = now - begun.at;
    const cpu = begun.cpu === null ? wall : (computedMs(begun.thread) ?? begun.cpu + wall) - begun.cpu;
    if (cpu > cpuMs || wall > Math.min(wallMs, cpuMs * WALL_FOR_CPU)) over();
  }, LOOK_EVERY_MS);
}
