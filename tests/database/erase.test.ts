/** What is kept about a player, and that nothing of it is left once they are erased; what is somebody else's stays. */
import type { Access } from '../../server/access';
import { aboutPlayer, binOf, erasePiece, erasePlayer } from '../../server/bin';
import { byLink } from '../../server/doors/come-in';
import { newLink } from '../../server/doors/people';
import { storeChanges } from '../../server/markings';
import { partSettings, setPartSettings } from '../../server/parts';
import { changePlayer, players } from '../../server/players';
import { setOnShelf } from '../../server/pieces';
import { openVariant } from '../../server/variants';
import { closeDatabase, everything, openDatabase, tokenBy } from '../support/database';
import { counts, fingerSet, taken } from '../support/stored';

let studio: Access;
beforeAll(async () => {
  studio = await openDatabase();
});
afterAll(closeDatabase);

/** Every row of every table in which a text stands. */
async function rowsWith(text: string): Promise<string[]> {
  const { rows: tables } = await everything.query<{ name: string }>(
    "SELECT format('%I.%I', table_schema, table_name) AS name FROM information_schema.tables WHERE table_schema IN ('public', 'jobs') AND table_type = 'BASE TABLE' ORDER BY 1",
  );
  const found = await Promise.all(
    tables.map(async ({ name }) => {
      const { rowCount } = await everything.query(`SELECT 1 FROM ${name} AS t WHERE to_jsonb(t)::text LIKE '%' || $1 || '%'`, [text]);
      return rowCount ? [`${name} ${rowCount}`] : [];
    }),
  );
  return found.flat();
}

test('a player: everything is handed out, and erased; another one keeps what is theirs', async () => {
  const { firstPartId: part } = await taken(studio, 'low-tide');
  const people = await players(studio);
  const [gone, stays] = [people[0]!, people[1]!];
  for (const { id } of [gone, stays]) {
    const variant = (await openVariant(studio, part, id))!;
    await storeChanges(studio, variant.markingId, [fingerSet('n-0-1-0-A2-0', null, '2')]);
    await tokenBy(byLink((await newLink(studio, id, 30))!, { address: 'tests', agent: '' }));
  }
  const deed = { id: crypto.randomUUID(), at: new Date().toISOString(), reason: 'who sits where', undoes: null };
  await setPartSettings(
    studio,
    part,
    { seats: [gone.id, stays.id], divisi: { [gone.id]: 0, [stays.id]: 1 }, playerId: gone.id },
    { ...deed, before: { seats: [] } },
  );

  const kept = (await aboutPlayer(studio, gone.id))!;
  expect(kept).toMatchObject({
    name: gone.name,
    about: {
      player: { name: gone.name },
      ownMarks: [{ piece: 'Low Tide', kind: 'finger', value: '2', author: studio.person }],
      history: [{ reason: 'Finger' }],
      sitsIn: [{ piece: 'Low Tide' }],
      checkedFor: [{ piece: 'Low Tide' }],
      links: [{ by: studio.person }],
      browsers: [{ device: 'a program' }],
    },
  });

  // Who is in the list is not erased; who is out of it is, once.
  expect(await erasePlayer(studio, gone.id)).toBe(false);
  await changePlayer(studio, gone.id, { removed: true });
  expect((await binOf(studio)).map(({ kind, id }) => [kind, id])).toEqual([['player', gone.id]]);
  expect([await erasePlayer(studio, gone.id), await erasePlayer(studio, gone.id), await aboutPlayer(studio, gone.id)]).toEqual([true, false, null]);
  expect(await rowsWith(gone.id)).toEqual([]);
  expect(await rowsWith(`"${gone.name}"`)).toEqual([]);
  expect(await partSettings(studio, part)).toMatchObject({ seats: [stays.id], divisi: { [stays.id]: 1 }, playerId: null });
  expect(((await aboutPlayer(studio, stays.id))!.about as { ownMarks: object[]; links: object[] }).ownMarks).toHaveLength(1);
});

test('a piece: its parts, marks, settings and files go, and nothing of another piece, also not a file that both have', async () => {
  const { pieceId, firstPartId } = await taken(studio, 'the-heron');
  const other = await taken(studio, 'evening-barge');
  await setPartSettings(studio, firstPartId, { tempo: 70 });
  await setPartSettings(studio, other.firstPartId, { tempo: 71 });
  // The other piece uses the file of this one as an edition.
  await everything.query(
    "INSERT INTO editions (studio_id, part_id, source_id, file_part_id, name, music) SELECT studio_id, $2, source_id, 'P1', 'the same', '' FROM pieces WHERE id = $1",
    [pieceId, other.firstPartId],
  );
  const before = await counts();
  expect(await erasePiece(studio, pieceId)).toBe(false);
  await setOnShelf(studio, pieceId, false);
  expect(await erasePiece(studio, pieceId)).toBe(true);
  expect(await counts()).toEqual({ ...before, pieces: before.pieces - 1, parts: before.parts - 1, markings: before.markings - 1 });
  await everything.query("DELETE FROM editions WHERE name = 'the same'");
  expect([await rowsWith(pieceId), await rowsWith(firstPartId)]).toEqual([[], []]);
  expect(await partSettings(studio, other.firstPartId)).toMatchObject({ tempo: 71 });
});
