/** A worker: does what waits in the queue, a piece at a time, until it is ended. Any number of them may run, wherever the database can be reached. */
import { closePool } from '../server/db';
import { printOne } from '../server/jobs/printing';
import { CHECK_PART, PRINT_PART, workersQueue, type PartJob, type PrintJob } from '../server/jobs/queue';
import { checkOne } from '../server/jobs/shelf-check';
import { sweep } from '../server/jobs/sweep';
import { stopWorkers } from '../server/workers';

/** Seconds between looks for something to do. */
const LOOK_EVERY = 0.5;
/** What has had its time is swept out this often; several workers do no harm to each other. */
const SWEEP_EVERY_MS = 3_600_000;
/** What is under way has this long when the worker is ended, in ms; what is not done by then is begun again by another one. */
const LAST_WORK_MS = 2_500;

const boss = await workersQueue();
await boss.work<PartJob>(CHECK_PART, { batchSize: 1, pollingIntervalSeconds: LOOK_EVERY }, async ([job]) => checkOne(job!.data));
await boss.work<PrintJob>(PRINT_PART, { batchSize: 1, pollingIntervalSeconds: LOOK_EVERY }, async ([job]) => printOne(job!.data));
const sweepNow = () => sweep().catch((error: Error) => console.error('sweeping:', error.message));
setInterval(() => void sweepNow(), SWEEP_EVERY_MS).unref();
void sweepNow();
console.log(`${new Date().toISOString()} a worker is ready`);

let stopping = false;
async function stop(): Promise<void> {
  if (stopping) return;
  stopping = true;
  setTimeout(() => process.exit(0), LAST_WORK_MS + 500).unref();
  await boss.stop({ graceful: true, timeout: LAST_WORK_MS, wait: true });
  await stopWorkers();
  await closePool();
  process.exit(0);
}
process.on('SIGTERM', () => void stop());
process.on('SIGINT', () => void stop());
