import type { Access } from '../../server/access';
import { randomUUID } from 'node:crypto';
import { unzipSync } from 'fflate';
import { demoText } from '../support/demo';
import { closeDatabase, openDatabase } from '../support/database';
import { secondEdition } from '../support/second-edition';
import { newContainer } from '../../core/formats/raw/container';
import { lostTarget } from '../../core/editions/anchor';
import { readPartDocument } from '../../core/formats/musicxml/part-document';
import { splitKey } from '../../core/marking/mark';
import { bringIn, compared, editionsOf, leaveAlone, replaceFile } from '../../server/editions';
import { markedScore } from '../../server/marked';
import { history, markingOfPart, storeChanges } from '../../server/markings';
import { musicOf, partById, passagesOf, setPassages } from '../../server/parts';
import { deedsOf } from '../../server/deeds';
import { shelf, takeIn } from '../../server/pieces';
import { OURSELVES } from '../../server/workers';
import { marksOfPart, midiOfPart } from '../../server/take-out';

let studio: Access;
beforeAll(async () => {
  studio = await openDatabase();
});
afterAll(closeDatabase);

const bytesOf = (text: string) => new TextEncoder().encode(text);
const noteAt = async (partId: string, bar: number, nth: number) => {
  const read = readPartDocument((await musicOf(studio, partId))!.text);
  if (!read.ok) throw new Error(read.problem.what);
  return read.value.score.parts[0]!.notes.filter((note) => note.barIndex === bar)[nth]!.id;
};
async function mark(partId: string, target: string, value: string, more: object = {}) {
  const { id } = await markingOfPart(studio, partId);
  const to = { value, origin: 'coach' as const, ...more };
  return storeChanges(studio, id, [
    { id: randomUUID(), at: '2030-01-01T10:00:00.000Z', reason: 'Finger', undoes: null, version: 2, changes: [{ target, kind: 'finger', from: null, to }] },
  ]);
}
async function take(text: string, name = 'staircase.musicxml') {
  const taken = await takeIn(studio, name, bytesOf(text), OURSELVES);
  if (!taken.ok) throw new Error(taken.problem.what);
  return taken.value;
}

test('marks keep their reason, are set aside, and say who made them', async () => {
  const { firstPartId } = await take(demoText('low-tide'), 'low-tide.musicxml');
  await mark(firstPartId, await noteAt(firstPartId, 0, 0), '2', { why: 'rings with the open string', off: true });
  expect(Object.values((await markingOfPart(studio, firstPartId)).marking)).toEqual([
    { value: '2', origin: 'coach', why: 'rings with the open string', off: true, by: 'Henrike' },
  ]);
  const marks = JSON.parse(new TextDecoder().decode((await marksOfPart(studio, firstPartId, OURSELVES))!.bytes)) as { marks: object[] };
  expect(marks.marks).toMatchObject([{ kind: 'finger', value: '2', why: 'rings with the open string', off: true }]);
  expect(Array.from((await midiOfPart(studio, firstPartId, OURSELVES))!.bytes.subarray(0, 4))).toEqual([0x4d, 0x54, 0x68, 0x64]);
});

test('compressed and typed files are taken in and go out as what they were', async () => {
  const text = demoText('the-heron');
  const compressed = await takeIn(studio, 'heron.mxl', newContainer(bytesOf(text)), OURSELVES);
  if (!compressed.ok) throw new Error(compressed.problem.what);
  const out = (await markedScore(studio, compressed.value.pieceId, null, {}, OURSELVES))!;
  expect(out.fileName).toBe('heron (marked).mxl');
  expect(new TextDecoder().decode(unzipSync(out.bytes)['score.musicxml'])).toBe(text);
  const typed = await takeIn(studio, 'tune.abc', bytesOf('X:1\nT:A tune\nM:2/4\nL:1/8\nK:D\nV:1 name="Cello" clef=bass\nD,2 F,2 | A,4 |\n'), OURSELVES);
  if (!typed.ok) throw new Error(typed.problem.what);
  expect((await shelf(studio)).pieces.find(({ id }) => id === typed.value.pieceId)).toMatchObject({
    title: 'A tune',
    parts: [{ name: 'Cello', instrument: 'cello', bars: 2 }],
  });
  const musicXml = (await markedScore(studio, typed.value.pieceId, typed.value.firstPartId, {}, OURSELVES))!;
  expect(musicXml.fileName).toBe('tune (Cello, marked).musicxml');
  expect(new TextDecoder().decode(musicXml.bytes)).toContain('<score-partwise');
});

describe('another edition', () => {
  let partId: string;
  let pieceId: string;
  let editionId: string;
  const original = demoText('staircase');
  beforeAll(async () => {
    ({ firstPartId: partId, pieceId } = await take(original));
    await mark(partId, await noteAt(partId, 20, 0), '3');
    await mark(partId, await noteAt(partId, 8, 1), '4');
    const brought = await bringIn(studio, partId, 'second.musicxml', bytesOf(secondEdition('staircase', 'Staircase', '9')), OURSELVES);
    if (!brought?.ok) throw new Error('not brought in');
    editionId = brought.value.id;
  });
  test('is compared, and what is left alone is remembered', async () => {
    const comparison = (await compared(studio, partId, editionId))!;
    expect(comparison).toMatchObject({ bars: { ours: 32, theirs: 31 }, leftAlone: [] });
    expect(new Set(comparison.differences.map(({ kind }) => kind))).toEqual(new Set(['pitch', 'articulation', 'dynamic', 'bowing', 'fingering', 'bar']));
    expect(await leaveAlone(studio, partId, editionId, ['bar 8/'])).toBe(true);
    expect((await compared(studio, partId, editionId))!.leftAlone).toEqual(['bar 8/']);
    const again = await bringIn(studio, partId, 'second.musicxml', bytesOf(secondEdition('staircase', 'Staircase', '9')), OURSELVES);
    expect(again).toEqual({ ok: true, value: { id: editionId } });
  });
  test('other music is refused, and so is what is no score', async () => {
    expect(await bringIn(studio, partId, 'x.musicxml', bytesOf(demoText('evening-barge')), OURSELVES)).toMatchObject({
      ok: false,
      problem: { what: expect.stringContaining('other music') },
    });
    expect(await bringIn(studio, partId, 'x.musicxml', bytesOf('<html/>'), OURSELVES)).toMatchObject({ ok: false });
    expect(await bringIn(studio, randomUUID(), 'x.musicxml', bytesOf(original), OURSELVES)).toBeNull();
    expect(await compared(studio, partId, randomUUID())).toBeNull();
    expect(await compared(studio, partId, 'nonsense')).toBeNull();
  });
  test('takes the place of the file: marks, passages and downloads follow, and the old file can be taken back', async () => {
    const target = await noteAt(partId, 20, 0);
    const before = await passagesOf(studio, partId);
    const other = before.map((passage) => ({ ...passage, name: `${passage.name} anew` }));
    await setPassages(studio, partId, other, before, { id: randomUUID(), at: '2030-01-01T10:00:00.000Z', reason: 'Renamed', undoes: null });
    expect(await deedsOf(studio, partId)).toMatchObject([{ reason: 'Renamed', about: 'passages', before, after: other }]);
    expect(await replaceFile(studio, partId, editionId, OURSELVES)).toEqual({ ok: true, value: { lost: 1, moved: expect.any(Number) } });
    expect(await partById(studio, partId)).toMatchObject({ bars: 31, fileName: 'second.musicxml' });
    expect((await musicOf(studio, partId))!.text).not.toContain('<measure number="9">');
    const { id, marking } = await markingOfPart(studio, partId);
    const targets = Object.keys(marking).map((key) => splitKey(key).target);
    expect(targets).toContain(await noteAt(partId, 19, 0));
    expect(targets.map(lostTarget).filter((lost) => lost !== null)).toMatchObject([{ at: '9/1.25 E6' }]);
    expect((await passagesOf(studio, partId)).map(({ fromBar, toBar }) => [fromBar, toBar])).toEqual([
      [0, 14],
      [15, 30],
    ]);
    expect(await deedsOf(studio, partId)).toEqual([]);
    expect((await history(studio, id)).at(-1)).toMatchObject({ boundary: true, reason: 'New file: second.musicxml, Violin' });
    expect((await markedScore(studio, pieceId, partId, {}, OURSELVES))!.fileName).toBe('second (Violin, marked).musicxml');
    const back = (await editionsOf(studio, partId)).find(({ name }) => name.startsWith('staircase'))!;
    expect(await replaceFile(studio, partId, back.id, OURSELVES)).toMatchObject({ ok: true, value: { lost: 0 } });
    const returned = (await markingOfPart(studio, partId)).marking;
    expect(
      Object.keys(returned)
        .map((key) => splitKey(key).target)
        .sort(),
    ).toEqual([target, await noteAt(partId, 8, 1)].sort());
    expect(await replaceFile(studio, partId, back.id, OURSELVES)).toMatchObject({ ok: false });
  });
  test('a piece whose parts come from several files goes out as a zip', async () => {
    const serenade = await take(demoText('mill-race-serenade'), 'serenade.musicxml');
    const brought = await bringIn(studio, serenade.firstPartId, 'violin.musicxml', bytesOf(secondEdition('mill-race-serenade', 'Serenade', null)), OURSELVES);
    if (!brought?.ok) throw new Error('not brought in');
    await replaceFile(studio, serenade.firstPartId, brought.value.id, OURSELVES);
    const out = (await markedScore(studio, serenade.pieceId, null, {}, OURSELVES))!;
    expect(out.type).toBe('application/zip');
    expect(Object.keys(unzipSync(out.bytes)).sort()).toEqual(['serenade (marked).musicxml', 'violin (Violin I, marked).musicxml']);
  });
});
