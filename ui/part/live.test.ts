/** The stream of an open page, in a browser that is made up: heard, silent, refused, hidden, ended. */
import { followPart } from './live';

class FakeStream {
  static readonly CLOSED = 2;
  static all: FakeStream[] = [];
  readyState = 1;
  onopen: () => void = () => undefined;
  onmessage: (event: { lastEventId: string; data: string }) => void = () => undefined;
  private still: () => void = () => undefined;
  constructor(readonly url: string) {
    FakeStream.all.push(this);
  }
  addEventListener(_: 'still', listener: () => void): void {
    this.still = listener;
  }
  pulse(): void {
    this.still();
  }
  close(): void {
    this.readyState = FakeStream.CLOSED;
  }
}

const news = (music: string) => JSON.stringify({ marks: [], deeds: [], music, onShelf: true, here: [] });
const part = { id: 'part', name: 'Violin I' };
const page = { visibilityState: 'visible', look: (): void => undefined };
const asked: string[] = [];
let answer: () => Response = () => new Response('', { status: 502 });

beforeEach(() => {
  jest.useFakeTimers();
  FakeStream.all = [];
  asked.length = 0;
  page.visibilityState = 'visible';
  Object.assign(globalThis, {
    EventSource: FakeStream,
    document: {
      get visibilityState() {
        return page.visibilityState;
      },
      addEventListener: (_: string, look: () => void) => (page.look = look),
      removeEventListener: () => (page.look = () => undefined),
    },
    fetch: (url: string) => {
      asked.push(url);
      return Promise.resolve(answer());
    },
  });
});
afterEach(() => jest.useRealTimers());

const open = () => FakeStream.all.filter(({ readyState }) => readyState !== FakeStream.CLOSED);

test('what is heard is handed on; a quiet part is not asked for while the stream shows that it lives', async () => {
  const heard: string[] = [];
  const end = followPart({ part, seen: '3.0' }, ({ music }) => heard.push(music));
  const [stream] = open();
  expect(stream!.url).toMatch(/^\/api\/parts\/part\/live\?page=[\w-]{36}&since=3\.0$/);
  stream!.onmessage({ lastEventId: '4.0', data: news('a') });
  stream!.onmessage({ lastEventId: '5.0', data: 'nonsense' });
  for (let i = 0; i < 10; i++) {
    await jest.advanceTimersByTimeAsync(20_000);
    stream!.pulse();
  }
  expect([heard, asked, FakeStream.all.length]).toEqual([['a'], [], 1]);
  end();
  await jest.advanceTimersByTimeAsync(600_000);
  expect([open(), asked]).toEqual([[], []]);
});

test('where no stream gets through it is asked for, from where it was; where a refused one could come again, it is opened again', async () => {
  const heard: string[] = [];
  answer = () => new Response(`retry: 2000\n\nid: 9.1\ndata: ${news('b')}\n\n`);
  const end = followPart({ part, seen: '3.0' }, ({ music }) => heard.push(music));
  await jest.advanceTimersByTimeAsync(40_000);
  expect(asked.slice(0, 2).map((url) => url.replace(/page=[\w-]+/, 'page'))).toEqual([
    '/api/parts/part/live?page&since=3.0&once=yes',
    ...(asked.length > 1 ? ['/api/parts/part/live?page&since=9.1&once=yes'] : []),
  ]);
  expect(heard[0]).toBe('b');
  expect(FakeStream.all).toHaveLength(1);
  // Refused, by a proxy whose server is being started: asked in vain nothing is opened, answered it is.
  answer = () => new Response('', { status: 502 });
  open()[0]!.close();
  await jest.advanceTimersByTimeAsync(12_000);
  expect(FakeStream.all).toHaveLength(1);
  answer = () => new Response('');
  await jest.advanceTimersByTimeAsync(5_000);
  expect(FakeStream.all).toHaveLength(2);
  expect(FakeStream.all[1]!.url).toContain('since=9.1');
  end();
});

test('a page that nobody looks at keeps no stream; looked at again it goes on from where it was', async () => {
  const end = followPart({ part, seen: '3.0' }, () => undefined);
  open()[0]!.onmessage({ lastEventId: '7.2', data: news('a') });
  page.visibilityState = 'hidden';
  page.look();
  expect(open()).toEqual([]);
  await jest.advanceTimersByTimeAsync(120_000);
  expect(asked).toEqual([]);
  page.visibilityState = 'visible';
  page.look();
  expect(open().map(({ url }) => url.split('since=')[1])).toEqual(['7.2']);
  end();
});
