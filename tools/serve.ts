/**
 * The web server: Next's pages behind Node's own server, so that what may not come in is refused early, and stopping takes a few
 * seconds whatever clients do. PORT says where; a line on the log says when it is ready.
 */
import { createServer, type ServerResponse } from 'node:http';
import next from 'next';
import { addressOf, headersFor, KNOWN_METHODS, newNonce, originFrom, refusalOf, type Refusal } from './run/door';

const port = Number(process.env.PORT);
const hostname = '127.0.0.1';
/** Answers that are under way have this long when the server is stopped. */
const LAST_ANSWERS_MS = 2_500;

const origin = originFrom(process.env.OMAGGIO_ORIGIN);
const app = next({ dev: false, hostname, port, dir: process.cwd() });
await app.prepare();
const handle = app.getRequestHandler();

const server = createServer((request, response) => {
  const { method = '', url = '/', headers } = request;
  const nonce = newNonce();
  const rules = headersFor(url, nonce, origin?.startsWith('https:') ?? false);
  for (const [name, value] of Object.entries(rules)) response.setHeader(name, value);
  const refusal = refusalOf({ method, url, headers }, origin);
  if (refusal) return refuse(response, refusal);
  request.headers['x-asked'] = url;
  request.headers['x-omaggio-address'] = addressOf({ method, url, headers }, request.socket.remoteAddress ?? '', origin);
  // Next gives its own scripts the nonce that it finds here.
  request.headers['content-security-policy'] = rules['content-security-policy']!;
  handle(request, response).catch((error: unknown) => {
    console.error(error);
    if (!response.headersSent) response.writeHead(500);
    response.end();
  });
});

function refuse(response: ServerResponse, { status, what, remedy }: Refusal): void {
  response.writeHead(status, { allow: KNOWN_METHODS, 'content-type': 'application/json; charset=utf-8', connection: 'close' });
  response.end(JSON.stringify({ problem: { place: null, what, remedy } }));
}

// A request has to come in within these; a file of 32 MB over a slow line does.
server.requestTimeout = 180_000;
server.headersTimeout = 20_000;
server.keepAliveTimeout = 10_000;
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
