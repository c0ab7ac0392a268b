/**
 * Worker threads stand behind the thread that answers: on a machine that has too much to do a mark is stored all the same, and the
 * picture comes later. On Linux a thread has a priority of its own, by its number (setpriority(2)).
 */
import { readlinkSync } from 'node:fs';
import { setPriority } from 'node:os';
import { isMainThread } from 'node:worker_threads';

const NICE = 10;

if (!isMainThread) {
  try {
    setPriority(Number(readlinkSync('/proc/thread-self').split('/').at(-1)), NICE);
  } catch {
    // Elsewhere all threads are alike.
  }
}
