import { createServer, type RequestListener } from 'node:http';
import type { AddressInfo } from 'node:net';
import { ask } from './ask';

async function against<T>(listener: RequestListener, work: (url: string) => Promise<T>): Promise<T> {
  const server = createServer(listener);
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  try {
    return await work(`http://127.0.0.1:${(server.address() as AddressInfo).port}`);
  } finally {
    server.closeAllConnections();
    await new Promise((resolve) => server.close(resolve));
  }
}

test('an answer with its status and text; what is sent arrives', async () => {
  const answer = await against(
    (request, response) => {
      response.statusCode = 409;
      request.pipe(response);
    },
    (url) => ask(url, { within: 60_000, method: 'POST', body: 'held' }),
  );
  expect(answer).toEqual({ ok: false, status: 409, text: 'held' });
});
test.each<[string, RequestListener]>([
  ['is never begun', () => undefined],
  ['stops in the middle', (_, response) => void response.write('half of')],
])('an answer that %s fails in time', async (_, listener) => {
  await against(listener, (url) => expect(ask(url, { within: 150 })).rejects.toThrow('in 150 ms'));
});
test('a server that dies with the question fails at once', async () => {
  await against(
    (request) => void request.socket.destroy(),
    (url) => expect(ask(url, { within: 60_000 })).rejects.toThrow('fetch failed'),
  );
});
