/**
 * The web server: Next's pages behind Node's own server, so that what is no page is refused early, and stopping takes a few seconds
 * whatever clients do. PORT says where; a line on the log says when it is ready.
 */
import { createServer } from 'node:http';
import next from 'next';

const port = Number(process.env.PORT);
const hostname = '127.0.0.1';
const METHODS = new Set(['GET', 'HEAD', 'POST', 'PUT', 'PATCH', 'DELETE', 'OPTIONS']);
/** Answers that are under way have this long when the server is stopped. */
const LAST_ANSWERS_MS = 2_500;

const app = next({ dev: false, hostname, port, dir: process.cwd() });
await app.prepare();
const handle = app.getRequestHandler();

const server = createServer((request, response) => {
  if (!METHODS.has(request.method ?? '')) {
    response.writeHead(405, { allow: [...METHODS].join(', '), 'content-type': 'text/plain; charset=utf-8', connection: 'close' });
    response.end('This method is not known here.\n');
    return;
  }
  handle(request, response).catch((error) => {
    console.error(error);
    if (!response.headersSent) response.writeHead(500);
    response.end();
  });
});
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
function stop() {
  if (stopping) return;
  stopping = true;
  server.close(() => process.exit(0));
  server.closeIdleConnections();
  setTimeout(() => process.exit(0), LAST_ANSWERS_MS);
}
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
