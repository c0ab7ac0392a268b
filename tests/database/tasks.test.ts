/** Tasks off the main thread: ended when they take too long, given up when nobody waits, and never in each other's way. */
import { demoText } from '../support/demo';
import { extremeScores } from '../support/extremes';
import { cutPart } from '../../core/formats/musicxml/cut';
import { readMusicXml } from '../../core/formats/musicxml/read';
import { inWorker, OURSELVES, stopWorkers, TaskTooMuch } from '../../server/workers';

beforeAll(() => inWorker('warmUp', null, OURSELVES));
afterAll(stopWorkers);

function musicOf(text: string): string {
  const read = readMusicXml(text);
  if (!read.ok) throw new Error(read.problem.what);
  return cutPart(read.value.document, read.value.document.parts[0]!.id);
}
const serenade = musicOf(demoText('mill-race-serenade'));
const heavy = musicOf(extremeScores().find(({ name }) => name === '20000 voices')!.text);
const passage = (music: string, toBar = 7) => ({ music, marking: {}, fromBar: 0, toBar, widthPx: 720 });

test('what takes too long is ended with its worker, and the next task is done', async () => {
  const failed = await inWorker('engravePassage', passage(heavy, 0), { client: 'a', withinMs: 300 }).catch((error: unknown) => error);
  expect(failed).toBeInstanceOf(TaskTooMuch);
  expect(failed).toMatchObject({ task: 'engravePassage', reason: 'time', limitMs: 300 });
  expect((await inWorker('engravePassage', passage(serenade), { client: 'a' })).systems.length).toBeGreaterThan(0);
});

test('who goes away while it waits is not served; who goes away while it runs is not waited for much longer', async () => {
  const away = new AbortController();
  const runs = inWorker('engravePassage', passage(heavy, 0), { client: 'b', signal: away.signal });
  const waits = Array.from({ length: 6 }, () => inWorker('engravePassage', passage(heavy, 0), { client: 'b', signal: away.signal }));
  const all = Promise.allSettled([runs, ...waits]);
  setTimeout(() => away.abort(new Error('gone')), 200);
  // Were they not given up, they would be done in the end.
  for (const each of await all) expect(each).toMatchObject({ status: 'rejected' });
});

test("somebody else's eight bars do not wait behind one who asks for a hundred heavy ones", async () => {
  const away = new AbortController();
  const flood = Promise.allSettled(Array.from({ length: 100 }, () => inWorker('engravePassage', passage(heavy, 0), { client: 'flood', signal: away.signal })));
  await new Promise((resolve) => setTimeout(resolve, 500));
  const order: string[] = [];
  const theirs = inWorker('engravePassage', passage(serenade), { client: 'somebody else' }).then(() => order.push('theirs'));
  void flood.then(() => order.push('flood'));
  await theirs;
  expect(order).toEqual(['theirs']);
  away.abort(new Error('gone'));
  await flood;
});

test('what the engraver is not given as it stands is said when the file is taken in, with place and value', async () => {
  const { text } = extremeScores().find(({ name }) => name === 'repeat times 1000000000')!;
  const read = await inWorker('readFile', { bytes: new TextEncoder().encode(text) }, OURSELVES);
  expect(read.ok && read.value.warnings).toContainEqual({
    place: 'Violin, bar 1',
    text: 'repeat with times 1000000000 is drawn as 64; the file keeps it as it is.',
  });
  const engraving = await inWorker('engravePassage', passage(musicOf(text), 1), OURSELVES);
  expect(engraving.systems.length).toBeGreaterThan(0);
});
