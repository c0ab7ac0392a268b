// Entry of the server's worker threads, outside the bundle: runs the TypeScript tasks as they are.
import { register } from 'tsx/esm/api';

register();
const tasks = await import('./tasks.ts');

/** @param {{ task: keyof typeof tasks, input: unknown }} message */
export default async function run({ task, input }) {
  return tasks[task](input);
}
