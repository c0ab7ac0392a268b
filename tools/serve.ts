/**
 * The web server: Next's pages behind Node's own server, so that what may not come in is refused early, and stopping takes a few
 * seconds whatever clients do. PORT says where; a line on the log says when it is ready.
 */
import { randomUUID } from 'node:crypto';
import { createServer, type IncomingHttpHeaders, type IncomingMessage, type ServerResponse } from 'node:http';
import next from 'next';
import { keepBook, stateNow } from '../server/metrics';
import { addressOf, headersFor, KNOWN_METHODS, listensAt, newNonce, originFrom, refusalOf, type Refusal } from './run/door';
import { FLOOD, floodGate, TOO_MUCH } from './run/flood';
import { makeMetrics, routeOf } from './run/metrics';

const port = Number(process.env.PORT);
/** Answers that are under way have this long when the server is stopped. */
const LAST_ANSWERS_MS = 2_500;

const origin = originFrom(process.env.OMAGGIO_ORIGIN);
const hostname = listensAt(process.env.OMAGGIO_LISTEN, origin);
const app = next({ dev: false, hostname, port, dir: process.cwd() });
await app.prepare();
const handle = app.getRequestHandler();

const metrics = makeMetrics(() => stateNow());
keepBook(metrics.book);
const isFlood = floodGate(FLOOD);

const server = createServer((request, response) => void answer(request, response));

async function answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
  const { method = '', url = '/', headers } = request;
  // Each request has a name that its answer and its lines in the log bear.
  const name = randomUUID();
  const begun = performance.now();
  request.headers['x-omaggio-request'] = name;
  response.setHeader('x-request-id', name);
  response.on('close', () => finished(name, method, url, response.statusCode, performance.now() - begun, response.getHeader('content-type')));
  const nonce = newNonce();
  const rules = headersFor(url, nonce, origin?.startsWith('https:') ?? false);
  for (const [name, value] of Object.entries(rules)) response.setHeader(name, value);
  const refusal = refusalOf({ method, url, headers }, origin);
  if (refusal) return refuse(response, refusal);
  const address = addressOf({ method, url, headers }, request.socket.remoteAddress ?? '', origin);
  if (!url.startsWith('/_next/') && (await isFlood(address))) return refuse(response, TOO_MUCH);
  if (url === '/metrics') return void tellMetrics(response, isFromHere(request.socket.remoteAddress, headers));
  request.headers['x-asked'] = url;
  request.headers['x-omaggio-address'] = address;
  // Next gives its own scripts the nonce that it finds here.
  request.headers['content-security-policy'] = rules['content-security-policy']!;
  handle(request, response).catch((error: unknown) => {
    console.error(error);
    if (!response.headersSent) response.writeHead(500);
    response.end();
  });
}

/** From here on a request is named in the log (judgement); files that are streamed take as long as they take. */
const SLOW_MS = 2_000;

function finished(name: string, method: string, url: string, status: number, ms: number, type: unknown): void {
  metrics.request(method, url, status, ms / 1000);
  const isStream = String(type).startsWith('text/event-stream');
  if (status >= 500 || (ms > SLOW_MS && !isStream)) console.warn(JSON.stringify({ request: name, method, route: routeOf(url), status, ms: Math.round(ms) }));
}

/** For this machine alone, and not through a proxy on it. */
const isFromHere = (address: string | undefined, headers: IncomingHttpHeaders): boolean =>
  /^(127\.|::1$|::ffff:127\.)/.test(address ?? '') && headers['x-forwarded-for'] === undefined && headers.forwarded === undefined;

async function tellMetrics(response: ServerResponse, isAllowed: boolean): Promise<void> {
  if (!isAllowed) return refuse(response, { status: 403, what: 'Counts are for this machine alone.', remedy: 'Ask on the machine where Omaggio runs.' });
  const text = await metrics.text();
  response.writeHead(200, { 'content-type': 'text/plain; version=0.0.4; charset=utf-8' });
  response.end(text);
}

function refuse(response: ServerResponse, { status, what, remedy }: Refusal): void {
  response.writeHead(status, { allow: KNOWN_METHODS, 'content-type': 'application/json; charset=utf-8', connection: 'close' });
  response.end(JSON.stringify({ problem: { place: null, what, remedy } }));
}

// A request has to come in within these; a file of 32 MB over a slow line does.
server.requestTimeout = 180_000;
server.headersTimeout = 20_000;
// Longer than what stands in front keeps a connection (a minute as a rule): who closes second sends into a closed one.
server.keepAliveTimeout = 65_000;
server.listen(port, hostname, () => console.log(`${new Date().toISOString()} ready on port ${port}`));
server.on('error', (error) => {
  console.error(error);
  process.exit(1);
});

let stopping = false;
function stop(): void {
  if (stopping) return;
  stopping = true;
  server.close(() => process.exit(0));
  server.closeIdleConnections();
  setTimeout(() => process.exit(0), LAST_ANSWERS_MS);
}
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
