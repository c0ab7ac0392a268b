/** The book of counts and times, as Prometheus reads it (its text format), by the package of that name. */
import { collectDefaultMetrics, Counter, Gauge, Histogram, Registry } from 'prom-client';
import type { Book, State } from '../../server/metrics';

/** Seconds: from what nobody notices to what nobody waits for. */
const BUCKETS = [0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10, 30];

const NOWHERE: ReadonlySet<number> = new Set([400, 403, 404, 405, 421]);

export interface Metrics {
  book: Book;
  request(method: string, url: string, status: number, seconds: number): void;
  text(): Promise<string>;
}

/** An address without what is in it: ids, names and keys are no labels. */
export function routeOf(url: string): string {
  const [path = '/'] = url.split('?');
  if (path.startsWith('/_next/')) return '/_next';
  return path
    .replace(/[0-9a-f]{8}-[0-9a-f-]{27}/g, ':id')
    .replace(/^\/(key|link|pdf-tools)\/.*/, '/$1')
    .split('/')
    .slice(0, 7)
    .map((step) => (/^(:id|[a-z-]{1,20})?$/.test(step) ? step : ':other'))
    .join('/');
}

/** @param state asked whenever the book is read */
export function makeMetrics(state: () => Promise<State> | undefined): Metrics {
  const registry = new Registry();
  collectDefaultMetrics({ register: registry, prefix: 'omaggio_' });
  const of = { registers: [registry] };
  const requests = new Histogram({
    ...of,
    name: 'omaggio_request_seconds',
    help: 'Requests by method, route and status',
    labelNames: ['method', 'route', 'status'],
    buckets: BUCKETS,
  });
  const tasks = new Histogram({
    ...of,
    name: 'omaggio_task_seconds',
    help: 'Tasks of the worker threads, waiting included',
    labelNames: ['task', 'outcome'],
    buckets: BUCKETS,
  });
  const queries = new Histogram({ ...of, name: 'omaggio_query_seconds', help: 'Questions to the database', buckets: BUCKETS });
  const follows = new Gauge({ ...of, name: 'omaggio_followers', help: 'Pages that follow their part' });
  const connections = new Gauge({ ...of, name: 'omaggio_connections', help: 'Connections to the database', labelNames: ['state'] });
  const waiting = new Gauge({ ...of, name: 'omaggio_waiting_tasks', help: 'Tasks that wait for a worker thread' });
  const failedReads = new Counter({ ...of, name: 'omaggio_metrics_failed_total', help: 'Times that the state of the server could not be read' });
  return {
    book: {
      task: (task, outcome, seconds) => tasks.observe({ task, outcome }, seconds),
      query: (seconds) => queries.observe(seconds),
      follows: (change) => follows.inc(change),
    },
    // Of what is not there anybody could make up as many as they like.
    request: (method, url, status, seconds) =>
      requests.observe({ method, route: NOWHERE.has(status) ? ':none' : routeOf(url), status: String(status) }, seconds),
    async text() {
      try {
        const now = await state();
        if (now) {
          waiting.set(now.waitingTasks);
          for (const [name, n] of Object.entries(now.connections)) connections.set({ state: name }, n);
        }
      } catch {
        failedReads.inc();
      }
      return registry.metrics();
    },
  };
}
