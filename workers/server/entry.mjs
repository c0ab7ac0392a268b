// Entry of the server's worker threads, outside Next's bundle: runs the tasks as they were built, or while developing as they are.
import { existsSync, readlinkSync } from 'node:fs';
import { constants, setPriority } from 'node:os';
import path from 'node:path';
import { pathToFileURL } from 'node:url';

/** A mark that is to be stored goes before a picture that is to be drawn: this thread gives way to the server's main one. */
let thread = 0;
try {
  thread = Number(readlinkSync('/proc/thread-self').split('/').at(-1));
  setPriority(thread, constants.priority.PRIORITY_BELOW_NORMAL);
} catch {
  // Where threads have no numbers of their own all are alike.
}

/** The engraver's memory (WebAssembly) does not count as heap: it may not grow beyond this, and then fails as if there were no more. */
const MOST_PAGES = (768 * 1024 * 1024) / 65_536;
const grow = WebAssembly.Memory.prototype.grow;
WebAssembly.Memory.prototype.grow = function (pages) {
  if (this.buffer.byteLength / 65_536 + pages > MOST_PAGES) throw new RangeError('the engraver wants more memory than it may have');
  return grow.call(this, pages);
};

const built = path.join(process.cwd(), '.next', 'workers', 'tasks.mjs');
const isBuilt = process.env.NODE_ENV !== 'development' && existsSync(built);
if (!isBuilt) (await import('tsx/esm/api')).register();
const tasks = await (isBuilt ? import(pathToFileURL(built).href) : import('./tasks.ts'));

/** @param {{ task: keyof typeof tasks, input: unknown, shared: Int32Array }} message `shared` is told the thread's number, and that it has begun */
export default async function run({ task, input, shared }) {
  Atomics.store(shared, 1, thread);
  Atomics.store(shared, 0, 1);
  return tasks[task](input);
}
