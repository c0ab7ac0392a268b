import { counts, fingerSet, taken } from '../support/stored';
import { type Access } from '../../server/access';
import { randomUUID } from 'node:crypto';
import { demoText } from '../support/demo';
import { closeDatabase, everything, openDatabase } from '../support/database';
import { OURSELVES } from '../../server/workers';
import { markingOfPart, storeChanges } from '../../server/markings';
import { dropPaper, keepPaper, paperBytes, papersOf } from '../../server/papers';
import { LIMITS } from '../../core/util/limits';
import { shelf, takeIn, type ShelfAsked } from '../../server/pieces';

let studio: Access;
beforeAll(async () => {
  studio = await openDatabase();
});
afterAll(closeDatabase);

test('the shelf is sorted and grouped; what is not known comes last', async () => {
  for (const [title, composer] of [
    ['Étude 10', 'b'],
    ['etude 9', ''],
    ['Étude 2', 'A'],
  ] as const) {
    const text = demoText('staircase')
      .replace(/<work-title>[^<]*</, `<work-title>${title}<`)
      .replace(/<creator type="composer">[^<]*</, `<creator type="composer">${composer}<`);
    expect(await takeIn(studio, `${title}.musicxml`, new TextEncoder().encode(text), OURSELVES)).toMatchObject({ ok: true });
  }
  const shown = async (asked: ShelfAsked) =>
    (await shelf(studio, { search: 'etude', ...asked })).pieces.map(({ title, group }) => (asked.group ? `${group}: ${title}` : title));
  expect(await shown({})).toEqual(['Étude 2', 'etude 9', 'Étude 10']);
  expect(await shown({ order: 'title' })).toEqual(['Étude 2', 'etude 9', 'Étude 10']);
  expect(await shown({ order: 'composer' })).toEqual(['Étude 2', 'Étude 10', 'etude 9']);
  const middle = (await shelf(studio, { search: 'etude 9' })).pieces[0]!.parts[0]!;
  const { id } = await markingOfPart(studio, middle.id);
  await storeChanges(studio, id, [fingerSet('n-0-1-0-A4-0', null, '2')]);
  expect(await shown({ order: 'marked' })).toEqual(['etude 9', 'Étude 2', 'Étude 10']);
  expect(await shown({ order: 'title', group: 'marked' })).toEqual(['marked: etude 9', 'unmarked: Étude 2', 'unmarked: Étude 10']);
  expect(await shown({ order: 'title', group: 'composer' })).toEqual(['A: Étude 2', 'b: Étude 10', 'null: etude 9']);
  const heron = await taken(studio, 'mill-race-serenade');
  const headings = (await shelf(studio, { group: 'instrument' })).pieces.map(({ group }) => group);
  expect([...new Set(headings)]).toEqual(['violin', 'viola', 'cello', 'bass', 'several', null].filter((each) => headings.includes(each)));
  expect((await shelf(studio, { group: 'instrument' })).pieces.find((piece) => piece.id === heron.pieceId)!.group).toBe('several');
});

describe('sheets beside a typed passage', () => {
  const png = (n: number) => Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, n]);
  const sources = async () => (await counts()).sources as number;
  test('are kept as they came, once each, in order; their files go with the last of them', async () => {
    const [{ pieceId }, before] = [await taken(studio, 'low-tide'), await sources()];
    const first = (await keepPaper(studio, pieceId, 'one.png', png(1)))!;
    const second = (await keepPaper(studio, pieceId, 'two.pdf', new TextEncoder().encode('%PDF-1.4 x')))!;
    const again = (await keepPaper(studio, pieceId, 'one again.png', png(1)))!;
    if (!first.ok || !second.ok || !again.ok) throw new Error('not kept');
    expect([again.value.id, await sources()]).toEqual([first.value.id, before + 2]);
    expect(await papersOf(studio, pieceId)).toEqual([
      { id: first.value.id, name: 'one again.png', type: 'image/png' },
      { id: second.value.id, name: 'two.pdf', type: 'application/pdf' },
    ]);
    expect(await paperBytes(studio, first.value.id)).toEqual({ bytes: Buffer.from(png(1)), type: 'image/png' });
    expect(await dropPaper(studio, first.value.id)).toBe(true);
    expect([await dropPaper(studio, first.value.id), await paperBytes(studio, first.value.id), await sources()]).toEqual([false, null, before + 1]);
  });
  test('what is no sheet, one too many and unknown pieces are refused in words', async () => {
    const { pieceId } = await taken(studio, 'low-tide');
    expect(await keepPaper(studio, pieceId, 'x.txt', new Uint8Array([1, 2]))).toMatchObject({
      ok: false,
      problem: { place: 'x.txt', what: expect.stringContaining('neither a PDF nor') },
    });
    expect(await keepPaper(studio, randomUUID(), 'x.png', png(2))).toBeNull();
    expect(await keepPaper(studio, 'nonsense', 'x.png', png(2))).toBeNull();
    for (let n = 10; n < 60; n++) await keepPaper(studio, pieceId, `${n}.png`, png(n));
    expect(await papersOf(studio, pieceId)).toHaveLength(LIMITS.papers);
    expect(await keepPaper(studio, pieceId, 'more.png', png(99))).toMatchObject({ ok: false, problem: { what: 'A passage can have 24 sheets.' } });
  });
  test('a file that is a part of the shelf too is not thrown away with the sheet', async () => {
    const { pieceId } = await taken(studio, 'the-heron');
    const paper = await keepPaper(studio, pieceId, 'p.png', png(100));
    if (!paper?.ok) throw new Error('not kept');
    await everything.query('UPDATE parts SET source_id = (SELECT source_id FROM papers WHERE id = $1) WHERE piece_id = $2', [paper.value.id, pieceId]);
    const before = await sources();
    await dropPaper(studio, paper.value.id);
    expect(await sources()).toBe(before);
    await everything.query('UPDATE parts SET source_id = NULL WHERE piece_id = $1', [pieceId]);
  });
});
