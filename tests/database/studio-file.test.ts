/** A studio taken out whole, and read in again: here, elsewhere, after everything was lost, and damaged on the way. */
import { strToU8, unzipSync, zipSync } from 'fflate';
import fc from 'fast-check';
import { randomUUID } from 'node:crypto';
import { ownerOf, type Access } from '../../server/access';
import { binOf, erasePiece } from '../../server/bin';
import { markingOfPart } from '../../server/markings';
import { players } from '../../server/players';
import { readStudio } from '../../server/read-studio';
import { shelf, setOnShelf } from '../../server/pieces';
import { studioFile, TABLE_NAMES } from '../../server/studio-file';
import { ROW_SHAPES } from '../../server/studio-rows';
import { closeDatabase, everything, openDatabase } from '../support/database';

let studio: Access;
let file: Uint8Array;
beforeAll(async () => {
  studio = await openDatabase('all');
  file = await takenOut(studio);
});
afterAll(closeDatabase);

async function takenOut(access: Access): Promise<Uint8Array> {
  const chunks: Uint8Array[] = [];
  for await (const chunk of studioFile(access) as unknown as AsyncIterable<Uint8Array>) chunks.push(chunk);
  return Buffer.concat(chunks);
}

/** A studio with nothing in it, by the name of the first one. */
async function emptyStudio(): Promise<Access> {
  const { rows } = await everything.query<{ id: string }>("INSERT INTO studios (name) VALUES ('Quillmere Youth Strings') RETURNING id");
  return ownerOf(rows[0]!.id);
}

const rowsIn = (bytes: Uint8Array): Record<string, string> =>
  Object.fromEntries(Object.entries(unzipSync(bytes)).map(([name, content]) => [name, Buffer.from(content).toString('latin1')]));

/** Ids by the order in which they first come, wherever rows are not sorted by them. */
function withoutNames(entries: Record<string, string>): string[] {
  const sorted = Object.entries(entries).map(
    ([name, text]) =>
      `${name}\n${text
        .replace(/[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}/g, 'id')
        .split('\n')
        .sort()
        .join('\n')}`,
  );
  return sorted.sort();
}

const countIn = async (access: Access) =>
  Object.fromEntries(
    await Promise.all(
      TABLE_NAMES.map(async (table) => [
        table,
        (await everything.query<{ n: number }>(`SELECT count(*)::int AS n FROM ${table} WHERE studio_id = $1`, [access.studio])).rows[0]!.n,
      ]),
    ),
  ) as Record<string, number>;

test('every kind of row that a studio has is in the file, but people, doors and what was done at them', async () => {
  const { rows } = await everything.query<{ table_name: string }>(
    "SELECT table_name FROM information_schema.columns WHERE table_schema = 'public' AND column_name = 'studio_id' ORDER BY 1",
  );
  const left = rows.map((row) => row.table_name).filter((table) => !(TABLE_NAMES as string[]).includes(table));
  // What was checked and printed is worked out again.
  expect(left).toEqual(['checks', 'doings', 'keys', 'links', 'people', 'printing_parts', 'printings', 'round_parts', 'rounds', 'sessions']);
  for (const table of TABLE_NAMES) {
    const columns = await everything.query<{ column_name: string }>(
      "SELECT column_name FROM information_schema.columns WHERE table_schema = 'public' AND table_name = $1",
      [table],
    );
    const taken = Object.keys(ROW_SHAPES[table].shape);
    const without = columns.rows.map((row) => row.column_name).filter((column) => !taken.includes(column) && column !== 'studio_id');
    expect([table, without]).toEqual([
      table,
      { sources: ['bytes'], passages: ['id'], change_sets: ['sequence'], part_deeds: ['sequence'] }[table as string] ?? [],
    ]);
  }
});

test('in another studio of the same database it comes in under names of its own, row for row and byte for byte', async () => {
  const other = await emptyStudio();
  expect(await readStudio(other, file)).toMatchObject({ ok: true, value: { pieces: 6, players: 6 } });
  expect(withoutNames(rowsIn(await takenOut(other)))).toEqual(withoutNames(rowsIn(file)));
  const [ours, theirs] = await Promise.all([shelf(studio), shelf(other)]);
  expect(theirs.pieces.map(({ title }) => title)).toEqual(ours.pieces.map(({ title }) => title));
  const partOf = (of: typeof ours) => of.pieces.find(({ title }) => title === 'Mill Race Serenade')!.parts[0]!.id;
  const [a, b] = [await markingOfPart(studio, partOf(ours)), await markingOfPart(other, partOf(theirs))];
  expect(b.id).not.toBe(a.id);
  expect(b.marking).toEqual(a.marking);
  expect(Object.keys(a.marking).length).toBeGreaterThan(20);
  // Seats lead to the players of this studio.
  const ids = new Set((await players(other)).map(({ id }) => id));
  const seats = await everything.query<{ value: string[] }>("SELECT value FROM settings WHERE studio_id = $1 AND key = 'seats'", [other.studio]);
  expect(seats.rows.flatMap(({ value }) => value).every((id) => ids.has(id))).toBe(true);
  expect(seats.rows[0]!.value.length).toBeGreaterThan(1);

  // A second time its pieces lie on the shelf already; in the bin they are no hindrance.
  expect(await readStudio(other, file)).toMatchObject({
    ok: false,
    problem: { what: 'The shelf has this already.', place: expect.stringContaining('Evening Barge') },
  });
  for (const { id } of theirs.pieces) await setOnShelf(other, id, false);
  expect((await binOf(other)).filter(({ kind }) => kind === 'piece')).toHaveLength(6);
  expect(await readStudio(other, file)).toMatchObject({ ok: true });
  expect((await shelf(other)).found).toBe(6);
  for (const { id } of theirs.pieces) expect(await erasePiece(other, id)).toBe(true);
  expect(await binOf(other)).toEqual([]);
  expect((await countIn(other)).sources).toBe((await countIn(studio)).sources);
});

test('a file of the first version, which knew no hand-outs, is read in; one of today that lost them is not', async () => {
  const without = (version: number): Uint8Array => {
    const entries = Object.fromEntries(
      Object.entries(unzipSync(file)).filter(([name]) => !/^rows\/(frozen|handouts|handout_players|answers|pencil)\.ndjson$/.test(name)),
    );
    entries['studio.json'] = strToU8(JSON.stringify({ format: 'omaggio-studio', version, name: 'Quillmere Youth Strings' }));
    return zipSync(entries);
  };
  const other = await emptyStudio();
  expect(await readStudio(other, without(2))).toMatchObject({ ok: false, problem: { place: 'frozen' } });
  expect(await readStudio(other, without(1))).toMatchObject({ ok: true, value: { pieces: 6, players: 6 } });
  expect(await countIn(other)).toMatchObject({ pieces: 6, handouts: 0, answers: 0 });
  expect((await countIn(studio)).answers).toBeGreaterThan(0);
  await everything.query('DELETE FROM studios WHERE id = $1', [other.studio]);
});

test('everything deleted and read in again is the same studio, to the last byte', async () => {
  await everything.query('DELETE FROM studios');
  const again = await emptyStudio();
  expect(await countIn(again)).toEqual(Object.fromEntries(TABLE_NAMES.map((table) => [table, 0])));
  expect((await readStudio(again, file)).ok).toBe(true);
  expect(Buffer.compare(Buffer.from(await takenOut(again)), Buffer.from(file))).toBe(0);
  studio = again;
});

describe('what is no such file is refused in words, and nothing of it is read in', () => {
  const changed = (change: (entries: Record<string, Uint8Array>) => void): Uint8Array => {
    const entries = unzipSync(file);
    change(entries);
    return zipSync(entries);
  };
  const lines = (entries: Record<string, Uint8Array>, table: string) =>
    Buffer.from(entries[`rows/${table}.ndjson`]!)
      .toString()
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as Record<string, unknown>);
  const put = (entries: Record<string, Uint8Array>, table: string, rows: object[]) =>
    (entries[`rows/${table}.ndjson`] = strToU8(rows.map((row) => `${JSON.stringify(row)}\n`).join('')));
  const edited = (table: string, edit: (row: Record<string, unknown>) => object) => () =>
    changed((entries) =>
      put(
        entries,
        table,
        lines(entries, table).map((row, i) => (i === 0 ? edit(row) : row)),
      ),
    );

  test.each<[string, () => Uint8Array, RegExp]>([
    ['no zip', () => strToU8('dear'), /cannot be unpacked/],
    ['a zip of something else', () => zipSync({ 'letter.txt': strToU8('dear') }), /no file of a studio/],
    ['one of a newer Omaggio', () => changed((e) => (e['studio.json'] = strToU8('{"format":"omaggio-studio","version":99,"name":"x"}'))), /newer Omaggio/],
    ['without its players', () => changed((e) => delete e['rows/players.ndjson']), /players.*missing/],
    ['with a file changed', () => changed((e) => (e[Object.keys(e).find((name) => name.startsWith('sources/'))!]![40]! ^= 1)), /was changed/],
    ['with a file missing', () => changed((e) => delete e[Object.keys(e).find((name) => name.startsWith('sources/'))!]), /is missing/],
    ['a part of another studio’s piece', edited('parts', (row) => ({ ...row, piece_id: randomUUID() })), /parts, line 1.*leads to nothing/],
    ['marks of another studio’s marking', edited('marks', (row) => ({ ...row, marking_id: randomUUID() })), /marks, line 1.*leads to nothing/],
    ['a mark that is none', edited('marks', (row) => ({ ...row, kind: 'smell' })), /marks, line 1/],
    ['a setting that is none', edited('settings', (row) => ({ ...row, key: 'tempo', value: 'fast' })), /settings, line 1 tempo/],
    ['a column of the studio itself', edited('pieces', (row) => ({ ...row, studio_id: randomUUID() })), /pieces, line 1/],
    ['a sheet that would run', edited('papers', (row) => ({ ...row, type: 'text/html' })), /papers, line 1/],
    ['a level that is none', edited('players', (row) => ({ ...row, level: 'divine' })), /players, line 1/],
  ])('%s', async (_, made, said) => {
    const empty = await emptyStudio();
    const read = await readStudio(empty, made());
    expect(read.ok).toBe(false);
    if (!read.ok) expect(`${read.problem.place ?? ''} ${read.problem.what}`).toMatch(said);
    expect(Object.values(await countIn(empty)).every((n) => n === 0)).toBe(true);
  });

  test('damaged anywhere: refused, or every row is there', async () => {
    await everything.query('DELETE FROM studios');
    await fc.assert(
      fc.asyncProperty(fc.nat({ max: file.length - 1 }), fc.integer({ min: 1, max: 255 }), fc.boolean(), async (at, change, cut) => {
        const empty = await emptyStudio();
        const damaged = cut ? file.slice(0, at) : Uint8Array.from(file);
        if (!cut) damaged[at]! ^= change;
        const read = await readStudio(empty, damaged);
        const counted = await countIn(empty);
        if (read.ok) expect(counted.marks).toBe(read.value.marks);
        else expect(Object.values(counted).every((n) => n === 0)).toBe(true);
        await everything.query('DELETE FROM studios WHERE id = $1', [empty.studio]);
      }),
      { numRuns: 40 },
    );
  });
});
