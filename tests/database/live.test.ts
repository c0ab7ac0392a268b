/** What others do on a part comes to who has it open: once, in order, and also after the line was cut. */
import { randomUUID } from 'node:crypto';
import { accessOf, type Access } from '../../server/access';
import { newsShape, type News } from '../../core/marking/live';
import { addPerson, endBrowser, keyFor } from '../../server/doors/people';
import { byKey } from '../../server/doors/come-in';
import { bringIn, replaceFile } from '../../server/editions';
import { following } from '../../server/live/follow';
import { newsSince, seenAsText, seenFrom, seenNow, type Seen } from '../../server/live/news';
import { markingOfPart, storeChanges } from '../../server/markings';
import { partSettings, setPartSettings, setPassages } from '../../server/parts';
import { setOnShelf } from '../../server/pieces';
import { players } from '../../server/players';
import { openVariant } from '../../server/variants';
import { OURSELVES } from '../../server/workers';
import { closeDatabase, everything, openDatabase, ownersToken, tokenBy } from '../support/database';
import { secondEdition } from '../support/second-edition';
import { taken } from '../support/stored';
import { until } from '../support/omaggio';

let studio: Access;
beforeAll(async () => {
  studio = await openDatabase();
});
afterAll(closeDatabase);

/** A page that somebody has open. */
class Page {
  readonly news: News[] = [];
  seen: Seen;
  isOver = false;
  private readonly end = new AbortController();

  constructor(access: Access, partId: string, seen: Seen, more: { token?: string; pulseMs?: number } = {}) {
    this.seen = seen;
    const stream = following(access, {
      partId,
      seen,
      page: randomUUID(),
      token: more.token ?? ownersToken(),
      once: false,
      signal: this.end.signal,
      ...(more.pulseMs ? { pulseMs: more.pulseMs } : {}),
    });
    void this.read(stream);
  }

  private async read(stream: ReadableStream<Uint8Array>): Promise<void> {
    let text = '';
    for await (const chunk of stream as unknown as AsyncIterable<Uint8Array>) {
      text += Buffer.from(chunk).toString();
      const events = text.split('\n\n');
      text = events.pop()!;
      for (const event of events) {
        const data = /^event: /m.test(event) ? null : /^data: (.*)$/m.exec(event)?.[1];
        if (data) this.news.push(newsShape.parse(JSON.parse(data)));
        this.seen = seenFrom(/^id: (\S+)$/m.exec(event)?.[1] ?? null) ?? this.seen;
      }
    }
    this.isOver = true;
  }

  get sets(): string[] {
    return this.news.flatMap(({ marks }) => marks.map(({ set }) => set.reason));
  }
  get last(): News | undefined {
    return this.news.at(-1);
  }
  close(): void {
    this.end.abort();
  }
}

const words = (target: string, value: string, from: string | null = null) => ({
  id: randomUUID(),
  at: new Date().toISOString(),
  reason: value,
  undoes: null,
  version: 2,
  changes: [{ target, kind: 'text', from: from === null ? null : { value: from, origin: 'coach' }, to: { value, origin: 'coach' } }],
});

async function opened() {
  const { firstPartId: partId, pieceId } = await taken(studio, 'low-tide');
  return { partId, pieceId, markingId: (await markingOfPart(studio, partId)).id };
}

test('how far somebody has seen is said and read again; nonsense is none', () => {
  expect(seenFrom(seenAsText({ marks: 12, deeds: 0 }))).toEqual({ marks: 12, deeds: 0 });
  for (const text of [null, '', '1', '1.', '-1.0', '1.0; drop', '9'.repeat(16) + '.0']) expect(seenFrom(text)).toBeNull();
});

test('marks, passages and settings come to all who have the part open, with who made them; not to other parts', async () => {
  const { partId, markingId } = await opened();
  const other = await taken(studio, 'the-heron');
  const seen = await seenNow(studio, partId);
  const pages = [new Page(studio, partId, seen), new Page(studio, partId, seen)];
  const elsewhere = new Page(studio, other.firstPartId, await seenNow(studio, other.firstPartId));
  await storeChanges(studio, markingId, [words('at-0-0', 'one'), words('at-0-960', 'two')]);
  const variant = (await openVariant(studio, partId, (await players(studio)).find(({ instrument }) => instrument === 'bass')!.id))!;
  await storeChanges(studio, variant.markingId, [words('at-1-0', 'own')]);
  const deed = { id: randomUUID(), at: new Date().toISOString(), reason: 'Passages', undoes: null };
  await setPassages(studio, partId, [{ name: 'Z', fromBar: 0, toBar: 3 }], null, deed);
  const { tempo } = await partSettings(studio, partId);
  await setPartSettings(studio, partId, { tempo: 66 }, { ...deed, id: randomUUID(), reason: 'tempo 66', before: { tempo } });
  for (const page of pages) {
    await until('all of it', () => page.sets.length === 3 && page.news.flatMap(({ deeds }) => deeds).length === 2);
    expect(page.sets).toEqual(['one', 'two', 'own']);
    expect(page.news.flatMap(({ marks }) => marks.map((mark) => [mark.author, mark.markingId]))).toEqual([
      [studio.person, markingId],
      [studio.person, markingId],
      [studio.person, variant.markingId],
    ]);
    expect(page.news.flatMap(({ deeds }) => deeds).map(({ about, after }) => [about, after])).toEqual([
      ['passages', [{ name: 'Z', fromBar: 0, toBar: 3 }]],
      ['settings', { tempo: 66 }],
    ]);
  }
  expect(elsewhere.sets).toEqual([]);
  // Who comes back is told what was done meanwhile, and nothing twice.
  const [first] = pages;
  first!.close();
  await storeChanges(studio, markingId, [words('at-2-0', 'meanwhile')]);
  const again = new Page(studio, partId, first!.seen);
  await until('what was missed', () => again.sets.length > 0);
  expect(again.sets).toEqual(['meanwhile']);
  [...pages, again, elsewhere].forEach((page) => page.close());
});

test('many who write at once on all markings of a part: every set once, in the order in which they are stored, however the line is cut', async () => {
  const { firstPartId: partId } = await taken(studio, 'evening-barge');
  const { id: everybody } = await markingOfPart(studio, partId);
  const people = (await players(studio)).slice(0, 3);
  const variants = await Promise.all(people.map(({ id }) => openVariant(studio, partId, id)));
  const markings = [everybody, ...variants.map((variant) => variant!.markingId)];
  const start = await seenNow(studio, partId);
  const page = new Page(studio, partId, start);
  const polled: string[] = [];
  let seen = start;
  let writing = true;
  const poll = (async () => {
    for (let last = false; !last;) {
      last = !writing;
      const found = (await newsSince(studio, partId, seen))!;
      polled.push(...found.news.marks.map(({ set }) => set.id));
      seen = found.seen;
      if (found.news.marks.length) last = false;
    }
  })();
  const stored: string[] = [];
  await Promise.all(
    markings.flatMap((marking, m) =>
      [0, 1].map(async (writer) => {
        for (let n = 0; n < 25; n++) {
          const set = words(`at-${m}-${writer}-${n}`, `${m} ${writer} ${n}`);
          expect((await storeChanges(studio, marking, [set]))!.stored).toEqual([set.id]);
          stored.push(set.id);
          if (m === 0 && writer === 0 && n === 10)
            await everything.query(
              "SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE application_name = 'omaggio live' AND datname = current_database()",
            );
        }
      }),
    ),
  );
  writing = false;
  await poll;
  await until('all of them', () => page.sets.length >= stored.length);
  const { rows } = await everything.query<{ id: string }>(
    'SELECT change_sets.id FROM change_sets JOIN markings ON markings.id = marking_id WHERE part_id = $1 ORDER BY sequence',
    [partId],
  );
  const inOrder = rows.map(({ id }) => id);
  expect(inOrder).toHaveLength(200);
  expect(page.news.flatMap(({ marks }) => marks.map(({ set }) => set.id))).toEqual(inOrder);
  expect(polled).toEqual(inOrder);
  page.close();
});

test('who else is there is told by name, and that they are gone', async () => {
  const { partId } = await opened();
  const other = { ...studio, person: 'Somebody' };
  const seen = await seenNow(studio, partId);
  const [mine, theirs, again] = [new Page(studio, partId, seen), new Page(other, partId, seen), new Page(other, partId, seen)];
  await until('both see the other', () => mine.last?.here.join() === 'Somebody' && [theirs, again].every(({ last }) => last?.here.includes(studio.person)));
  theirs.close();
  expect(mine.last?.here).toEqual(['Somebody']);
  again.close();
  await until('they are gone', () => mine.last?.here.length === 0);
  mine.close();
});

test('a part whose file is replaced, a piece that is taken off the shelf and put back: it is said', async () => {
  const { partId, pieceId } = await opened();
  const page = new Page(studio, partId, await seenNow(studio, partId));
  await until('the first word', () => page.news.length > 0);
  const { music } = page.last!;
  await setOnShelf(studio, pieceId, false);
  await until('it is off', () => page.last?.onShelf === false);
  await setOnShelf(studio, pieceId, true);
  await until('it is back', () => page.last?.onShelf === true);
  const edition = await bringIn(
    studio,
    partId,
    'second.musicxml',
    new TextEncoder().encode(secondEdition('low-tide', 'Low Tide, another edition', null)),
    OURSELVES,
  );
  if (!edition?.ok) throw new Error('no edition');
  expect((await replaceFile(studio, partId, edition.value.id, OURSELVES))?.ok).toBe(true);
  await until('another file', () => page.last!.music !== music);
  page.close();
});

test('a browser that is shut out hears no more', async () => {
  const { partId, markingId } = await opened();
  const id = await addPerson(studio, { name: 'Edda', role: 'coach' });
  const token = await tokenBy(byKey((await keyFor(studio, id))!, { address: 'tests', agent: '' }));
  const edda = (await accessOf(token))!;
  const page = new Page(edda, partId, await seenNow(studio, partId), { token, pulseMs: 100 });
  await storeChanges(studio, markingId, [words('at-5-0', 'heard')]);
  await until('it is heard', () => page.sets.includes('heard'));
  await endBrowser(studio, edda.session!);
  await until('the end', () => page.isOver);
});
