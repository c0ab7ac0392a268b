import { bytesOf, counts, fingerSet, taken } from '../support/stored';
import { ownerOf, type Access } from '../../server/access';
import { readdirSync } from 'node:fs';
import { execFile } from 'node:child_process';
import { createHash, randomUUID } from 'node:crypto';
import path from 'node:path';
import { promisify } from 'node:util';
import pg from 'pg';
import { demoText } from '../support/demo';
import { closeDatabase, everything, freshUrl, openDatabase, prepare } from '../support/database';
import { readPartDocument } from '../../core/formats/musicxml/part-document';
import { resolutionBefore } from '../../core/marking/versions';
import { noteNamed } from '../../core/score/identity';
import { TICKS_PER_QUARTER } from '../../core/score/ticks';
import { OURSELVES } from '../../server/workers';
import { engraved } from '../../server/engraving';
import { markedScore } from '../../server/marked';
import { changeSetShape } from '../../core/marking/wire';
import { history, markingOfPart, storeChanges } from '../../server/markings';
import { musicOf, partById, partSettings, partsOfPiece, passagesOf, setPartSettings, setPassages } from '../../server/parts';
import { players } from '../../server/players';
import { pieceNamesShape } from '../../core/util/names-shape';
import { rename, setOnShelf, shelf, takeIn } from '../../server/pieces';

let studio: Access;
beforeAll(async () => {
  studio = await openDatabase();
});
afterAll(closeDatabase);

describe('migrations', () => {
  test('run once, and two processes at the same time wait for one another', async () => {
    const url = freshUrl();
    const run = () =>
      promisify(execFile)(process.execPath, [path.join('.next', 'tools', 'prepare.mjs')], {
        env: { ...process.env, DATABASE_URL: url, OMAGGIO_DEMO: 'people' },
      });
    await Promise.all([run(), run()]).catch((error: Error) => {
      throw new Error(`a migration failed: ${error.message}`);
    });
    expect(prepare(url)).toBe('');
    const client = new pg.Client({ connectionString: url });
    await client.connect();
    const { rows } = await client.query('SELECT (SELECT count(*)::int FROM migrations) AS migrations, (SELECT count(*)::int FROM studios) AS studios');
    await client.end();
    expect(rows[0]).toEqual({ migrations: readdirSync('db/migrations').length, studios: 1 });
  });
});

describe('taking a file in', () => {
  test('keeps it byte for byte with its hash, its parts, their passages and a marking each', async () => {
    const { pieceId, title } = await taken(studio, 'mill-race-serenade');
    expect(title).toBe('Mill Race Serenade');
    const { rows } = await everything.query('SELECT bytes, sha256 FROM sources JOIN pieces ON sources.id = source_id WHERE pieces.id = $1', [pieceId]);
    expect(Buffer.compare(rows[0].bytes, Buffer.from(bytesOf('mill-race-serenade')))).toBe(0);
    expect(rows[0].sha256).toBe(createHash('sha256').update(bytesOf('mill-race-serenade')).digest('hex'));
    const piece = (await shelf(studio)).pieces.find((each) => each.id === pieceId)!;
    expect(piece.parts.map((part) => [part.name, part.instrument, part.bars, part.marks])).toEqual([
      ['Violin I', 'violin', 129, 0],
      ['Violin II', 'violin', 129, 0],
      ['Viola', 'viola', 129, 0],
      ['Cello', 'cello', 129, 0],
      ['Double Bass', 'bass', 129, 0],
    ]);
    expect((await passagesOf(studio, piece.parts[0]!.id)).map((passage) => passage.name)).toEqual(['Opening', 'A', 'B', 'C', 'D', 'E', 'F', 'G']);
  });
  test('the same file twice lies on the shelf once, also when both come at the same moment', async () => {
    const [a, b] = await Promise.all([taken(studio, 'low-tide'), taken(studio, 'low-tide')]);
    expect(a.pieceId).toBe(b.pieceId);
    expect((await taken(studio, 'low-tide')).known).toBe('on the shelf');
  });
  test('a file that cannot be read leaves everything as it was', async () => {
    const before = await counts();
    const cut = await takeIn(studio, 'cut.musicxml', bytesOf('staircase').slice(0, 4000), OURSELVES);
    expect(cut.ok ? '' : cut.problem.what).toContain('not well-formed');
    const pdf = await takeIn(studio, 'part.pdf', new TextEncoder().encode('%PDF-1.7 and so on'), OURSELVES);
    expect(pdf.ok ? '' : pdf.problem.what).toContain('This is a PDF');
    expect(await counts()).toEqual(before);
  });
  test('a part for something else is taken in, after the strings of its piece', async () => {
    const text = demoText('mill-race-serenade')
      .replace('<part-name>Violin I</part-name>', '<part-name>Flute</part-name>')
      .replace('strings.violin', 'wind.flutes.flute');
    const flute = await takeIn(studio, 'flute.musicxml', new TextEncoder().encode(text), OURSELVES);
    if (!flute.ok) throw new Error(flute.problem.what);
    const piece = (await shelf(studio)).pieces.find((each) => each.id === flute.value.pieceId)!;
    expect(piece.parts.at(-1)).toMatchObject({ name: 'Flute', instrument: null });
    expect(piece.parts.slice(0, -1).every(({ instrument }) => instrument !== null)).toBe(true);
    expect((await partsOfPiece(studio, piece.id)).map(({ id }) => id)).toEqual(piece.parts.map(({ id }) => id));
    await setOnShelf(studio, piece.id, false);
  });
  test('a piece and its parts are called otherwise, all or none; the file keeps its names', async () => {
    const { pieceId } = await taken(studio, 'low-tide');
    const part = (await partsOfPiece(studio, pieceId))[0]!;
    const called = async () => {
      const piece = (await shelf(studio)).pieces.find((each) => each.id === pieceId)!;
      return [piece.title, piece.composer, piece.parts[0]!.name];
    };
    const before = await called();
    const names = pieceNamesShape.parse({ title: ' Ebb \n and Flow ', composer: null, parts: [{ id: part.id, name: 'Bass, desk 1' }] });
    expect(await rename(studio, pieceId, { ...names, parts: [{ id: randomUUID(), name: 'nobody' }] })).toBe(false);
    expect(await called()).toEqual(before);
    expect([await rename(studio, pieceId, names), await called()]).toEqual([true, ['Ebb and Flow', null, 'Bass, desk 1']]);
    expect([await rename(ownerOf(randomUUID()), pieceId, names), await rename(studio, randomUUID(), names)]).toEqual([false, false]);
    expect(pieceNamesShape.safeParse({ ...names, title: ' ' }).success).toBe(false);
    expect((await markedScore(studio, pieceId, part.id, {}, OURSELVES))!.bytes.toString()).toBe(bytesOf('low-tide').toString());
    await rename(studio, pieceId, { title: before[0]!, composer: before[1]!, parts: [{ id: part.id, name: before[2]! }] });
  });
  test('off the shelf and back again, with its marks', async () => {
    const { pieceId } = await taken(studio, 'evening-barge');
    await setOnShelf(studio, pieceId, false);
    expect((await shelf(studio)).pieces.map((piece) => piece.id)).not.toContain(pieceId);
    await setOnShelf(studio, pieceId, true);
    expect((await shelf(studio)).pieces.map((piece) => piece.id)).toContain(pieceId);
    await setOnShelf(studio, pieceId, false);
    expect(await taken(studio, 'evening-barge')).toMatchObject({ pieceId, known: 'put back' });
    expect((await shelf(studio)).pieces.filter((piece) => piece.title === 'Evening Barge')).toHaveLength(1);
  });
});

describe('markings', () => {
  let partId: string;
  let markingId: string;
  let note: string;
  beforeAll(async () => {
    const { firstPartId } = await taken(studio, 'staircase');
    partId = firstPartId;
    markingId = (await markingOfPart(studio, partId)).id;
    const read = readPartDocument((await musicOf(studio, partId))!.text);
    note = read.ok ? read.value.score.parts[0]!.notes[0]!.id : '';
  });
  test('change sets are stored in order, with the marks they come to', async () => {
    const first = fingerSet(note, null, '3');
    const second = fingerSet(note, '3', '4');
    expect(await storeChanges(studio, markingId, [first, second])).toEqual({ stored: [first.id, second.id], refused: null, clash: null });
    expect((await markingOfPart(studio, partId)).marking).toEqual({ [`${note}|finger`]: { value: '4', origin: 'coach', by: 'Henrike' } });
    expect((await history(studio, markingId)).map((each) => each.id)).toEqual([first.id, second.id]);
  });
  test('sending again after a lost answer does no harm', async () => {
    const again = fingerSet(note, '4', '2');
    await storeChanges(studio, markingId, [again]);
    expect(await storeChanges(studio, markingId, [again])).toEqual({ stored: [again.id], refused: null, clash: null });
    expect((await history(studio, markingId)).filter((each) => each.id === again.id)).toHaveLength(1);
  });
  test('a clock that is ahead makes no change of a year to come; one that is behind is believed', async () => {
    const at = async (said: string, from: string, to: string) => {
      const set = { ...fingerSet(note, from, to), at: said };
      await storeChanges(studio, markingId, [set]);
      return new Date((await history(studio, markingId)).find(({ id }) => id === set.id)!.at).getTime();
    };
    expect(await at('2135-01-01T00:00:00.000Z', '2', '3')).toBeLessThan(Date.now() + 3_600_000);
    expect(await at('2020-01-01T00:00:00.000Z', '3', '2')).toBe(Date.UTC(2020, 0, 1));
  });
  test('a change from something that is no longer there is a clash that says what is; what came before it is stored, what comes after is not', async () => {
    const other = 'n-0-1-1-B4-0';
    const [fits, clashes, after] = [fingerSet(other, null, '1'), fingerSet(note, '3', '1'), fingerSet(other, '1', '2')];
    const whole = { ...clashes, changes: [...clashes.changes, ...fingerSet('n-0-1-2-C5-0', null, '3').changes] };
    const outcome = await storeChanges(studio, markingId, [fits, whole, after]);
    expect(outcome).toEqual({
      stored: [fits.id],
      refused: null,
      clash: {
        id: clashes.id,
        conflicts: [{ target: note, kind: 'finger', stored: { value: '2', origin: 'coach', by: 'Henrike' } }],
        marking: (await markingOfPart(studio, partId)).marking,
      },
    });
    expect((await history(studio, markingId)).at(-1)!.id).toBe(fits.id);
    expect(Object.values((await markingOfPart(studio, partId)).marking).map(({ value }) => value)).toEqual(['2', '1']);
  });
  test('one that cannot be stored is named; what came before it is stored', async () => {
    const [fits, bad] = [fingerSet('n-0-1-3-D5-0', null, '1'), { ...fingerSet(note, '2', '1'), reason: 'half a sign \uD83C' }];
    expect(await storeChanges(studio, markingId, [fits, bad, fingerSet(note, '2', '3')])).toMatchObject({
      stored: [fits.id],
      refused: { id: bad.id, problem: { place: 'reason', what: expect.stringContaining('no file can hold') } },
      clash: null,
    });
    expect(await storeChanges(studio, markingId, [{ nonsense: true }])).toMatchObject({ stored: [], refused: { id: '' } });
  });
  test('a change that a browser has kept since the first version names its note as it did', async () => {
    const { firstPartId } = await taken(studio, 'evening-barge');
    const marking = await markingOfPart(studio, firstPartId);
    const { text } = (await musicOf(studio, firstPartId))!;
    const read = readPartDocument(text);
    const later = read.ok ? read.value.score.parts[0]!.notes.find(({ tick }) => tick > 0)! : null;
    const named = noteNamed(later!.id)!;
    const ticks = (later!.tick / TICKS_PER_QUARTER) * resolutionBefore(text);
    const early = { ...fingerSet(`n-P1-${named.barIndex}-${named.voice}-${ticks}-${named.pitch}-0`, null, '2'), version: undefined };
    expect(await storeChanges(studio, marking.id, [JSON.parse(JSON.stringify(early))])).toMatchObject({ stored: [early.id], refused: null });
    expect((await markingOfPart(studio, firstPartId)).marking).toMatchObject({ [`${later!.id}|finger`]: { value: '2' } });
    expect(await storeChanges(studio, marking.id, [{ ...fingerSet(later!.id, '2', '3'), version: 3 }])).toMatchObject({
      stored: [],
      refused: { problem: { what: expect.stringContaining('newer Omaggio') } },
    });
  });
  test('set and taken away in one step is not there; the same mark twice in one step ends as the last says', async () => {
    const at = 'n-1-1-0-A4-0';
    const mark = (value: string) => ({ value, origin: 'coach' as const });
    const step = (from: string | null, to: string | null) => ({
      target: at,
      kind: 'finger' as const,
      from: from ? mark(from) : null,
      to: to ? mark(to) : null,
    });
    await storeChanges(studio, markingId, [{ ...fingerSet(at, null, '1'), changes: [step(null, '1'), step('1', null)] }]);
    expect((await markingOfPart(studio, partId)).marking[`${at}|finger`]).toBeUndefined();
    await storeChanges(studio, markingId, [{ ...fingerSet(at, null, '1'), changes: [step(null, '1'), step('1', '2'), step('2', '3')] }]);
    expect((await markingOfPart(studio, partId)).marking[`${at}|finger`]).toMatchObject({ value: '3' });
    await storeChanges(studio, markingId, [fingerSet(at, '3', null)]);
  });
  test('of two changes at the same moment one is stored and one is a conflict', async () => {
    const outcomes = await Promise.all([
      storeChanges(studio, markingId, [fingerSet(note, '2', '1')]),
      storeChanges(studio, markingId, [fingerSet(note, '2', '0')]),
    ]);
    expect(outcomes.map((outcome) => outcome!.clash === null).sort()).toEqual([false, true]);
  });
  test('nonsense is refused before it reaches the database', () => {
    expect(changeSetShape.safeParse(fingerSet(note, null, '9')).success).toBe(false);
    expect(changeSetShape.safeParse({ ...fingerSet(note, null, '1'), id: 'x' }).success).toBe(false);
    expect(changeSetShape.safeParse({ ...fingerSet(note, null, '1'), changes: [] }).success).toBe(false);
  });
  test('the marked file goes out with the marks, for one part and for all', async () => {
    const piece = (await shelf(studio)).pieces.find((each) => each.parts[0]!.id === partId)!;
    const marked = (await markedScore(studio, piece.id, partId, {}, OURSELVES))!;
    expect(marked.fileName).toBe('staircase (Violin, marked).musicxml');
    expect(new TextDecoder().decode(marked.bytes)).toMatch(/<fingering>[01]<\/fingering>/);
    expect((await markedScore(studio, piece.id, null, {}, OURSELVES))!.fileName).toBe('staircase (marked).musicxml');
    expect(await markedScore(studio, piece.id, 'not-an-id', {}, OURSELVES)).toBeNull();
  });
  test('a passage is engraved with its note heads placed, and the same again from memory', async () => {
    const view = { fromBar: 0, toBar: 7, widthPx: 720 };
    const engraving = (await engraved(studio, partId, (await markingOfPart(studio, partId)).marking, view, OURSELVES))!;
    const heads = engraving.systems.flatMap((system) => Object.keys(system.heads));
    expect(heads).toContain(note);
    expect(engraving.systems.flatMap((system) => system.bars)).toHaveLength(8);
    for (const system of engraving.systems) for (const head of Object.values(system.heads)) expect(head.x).toBeLessThan(system.widthPx);
    expect(await engraved(studio, partId, (await markingOfPart(studio, partId)).marking, view, OURSELVES)).toBe(engraving);
  });
});

describe('a part', () => {
  test('passages are replaced in bar order, settings one by one', async () => {
    const { firstPartId } = await taken(studio, 'the-heron');
    await setPassages(studio, firstPartId, [
      { name: 'B', fromBar: 8, toBar: 15 },
      { name: 'A', fromBar: 0, toBar: 9 },
    ]);
    expect((await passagesOf(studio, firstPartId)).map((passage) => passage.name)).toEqual(['A', 'B']);
    const [player] = await players(studio);
    await setPartSettings(studio, firstPartId, { playerId: player!.id });
    await setPartSettings(studio, firstPartId, { tempo: 80 });
    expect(await partSettings(studio, firstPartId)).toMatchObject({ playerId: player!.id, tempo: 80, sounds: 'file' });
  });
  test("no studio sees another one's", async () => {
    const { rows } = await everything.query<{ id: string }>("INSERT INTO studios (name) VALUES ('Another') RETURNING id");
    const other = ownerOf(rows[0]!.id);
    const { firstPartId, pieceId } = await taken(studio, 'the-heron');
    const { id: markingId } = await markingOfPart(studio, firstPartId);
    expect((await shelf(other)).pieces).toEqual([]);
    expect(await partById(other, firstPartId)).toBeNull();
    expect(await musicOf(other, firstPartId)).toBeNull();
    expect(await passagesOf(other, firstPartId)).toEqual([]);
    expect(await markedScore(other, pieceId, null, {}, OURSELVES)).toBeNull();
    expect(await storeChanges(other, markingId, [fingerSet('x', null, '1')])).toBeNull();
    expect((await setOnShelf(other, pieceId, false)).ok).toBe(false);
    expect(await players(other)).toEqual([]);
  });
});
