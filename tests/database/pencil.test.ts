/** Pencil marks of players: kept once, the latest wins, taken along to the next hand-out, seen by nobody to whom they are not shown. */
import { randomUUID } from 'node:crypto';
import { lostTarget } from '../../core/editions/anchor';
import type { PencilMark } from '../../core/handout/pencil';
import { LIMITS } from '../../core/util/limits';
import type { Access } from '../../server/access';
import { aboutPlayer } from '../../server/bin';
import { bringIn, replaceFile } from '../../server/editions';
import { latestOf } from '../../server/handouts/hand-out';
import { sheetOf } from '../../server/handouts/on-the-stand';
import { pencilOf, showsPencil } from '../../server/handouts/pencil';
import { say } from '../../server/handouts/said';
import { OURSELVES } from '../../server/workers';
import { closeDatabase, everything } from '../support/database';
import { demoText } from '../support/demo';
import { FIRST, freshPiece, give, markIn, studioWithTwo } from '../support/handed';

let studio: Access;
let ada: string;
let bo: string;
beforeAll(async () => {
  ({ studio, ada, bo } = await studioWithTwo());
});
afterAll(closeDatabase);

const at = (second: number) => new Date(Date.UTC(2026, 0, 1, 12, 0, second)).toISOString();
const pencil = (kind: PencilMark['kind'], value: string | null, second: number, target = FIRST): PencilMark => ({
  target,
  kind,
  value,
  where: 'bar 1',
  at: at(second),
});

async function seen(part: string, player = ada): Promise<Array<[string, string, string | null]>> {
  const sheet = (await sheetOf(studio, part, player))!;
  return (await pencilOf(studio, part, player, sheet, OURSELVES)).map(({ target, kind, value }) => [target, kind, value]);
}

test('of what two devices wrote the latest stays, whatever came first; a clock that is ahead is not believed; others write nothing here', async () => {
  const { part } = await freshPiece(studio);
  await give(studio, part, [ada]);
  const { id } = (await latestOf(studio, [part])).get(part)!;
  await say(studio, id, ada, { pencil: [pencil('finger', '3', 5), pencil('circle', '', 1)] });
  await say(studio, id, ada, { pencil: [pencil('finger', '2', 4)] });
  expect(await seen(part)).toEqual([
    [FIRST, 'circle', ''],
    [FIRST, 'finger', '3'],
  ]);
  await say(studio, id, ada, { pencil: [pencil('circle', null, 6), { ...pencil('finger', '1', 0), at: '2199-01-01T00:00:00Z' }] });
  await say(studio, id, ada, { pencil: [pencil('circle', '', 3)] });
  expect(await seen(part)).toEqual([[FIRST, 'finger', '1']]);
  await say(studio, id, ada, { pencil: [{ ...pencil('finger', '4', 0), at: new Date(Date.now() + 1_000).toISOString() }] });
  expect(await seen(part)).toEqual([[FIRST, 'finger', '4']]);
  expect(await say(studio, id, bo, { pencil: [pencil('finger', '1', 7)] })).toBeNull();
  const many = Array.from({ length: LIMITS.pencil }, (_, i) => pencil('finger', '1', 1, `n-${i}`));
  expect(await say(studio, id, ada, { opened: true, pencil: many })).toMatchObject({ ok: false, problem: { remedy: expect.stringContaining('Rub out') } });
  expect(await seen(part)).toHaveLength(1);
});

test('shown only where the player shows it, also with the next hand-out, until they say otherwise', async () => {
  const { part, marking } = await freshPiece(studio);
  await give(studio, part, [ada]);
  const first = (await latestOf(studio, [part])).get(part)!.id;
  expect(await showsPencil(studio, part, ada)).toBe(false);
  await say(studio, first, ada, { showsPencil: true });
  await markIn(studio, marking, FIRST, 'finger', '2');
  await give(studio, part, [ada, bo]);
  expect([await showsPencil(studio, part, ada), await showsPencil(studio, part, bo)]).toEqual([true, false]);
  const second = (await latestOf(studio, [part])).get(part)!.id;
  await say(studio, second, ada, { showsPencil: false });
  await say(studio, second, ada, { opened: true });
  expect(await showsPencil(studio, part, ada)).toBe(false);
});

test('it goes along to the next hand-out, also where bars were put in before it; what has no note is kept with where it stood; what comes late comes along, too', async () => {
  const { part, marking } = await freshPiece(studio);
  await give(studio, part, [ada]);
  const first = (await latestOf(studio, [part])).get(part)!.id;
  const gone = 'n-1-1-0-C3-9';
  await say(studio, first, ada, { pencil: [pencil('finger', '3', 1), pencil('words', 'with the violas', 2), pencil('look', '', 3, gone)] });
  await markIn(studio, marking, FIRST, 'finger', '2');
  await give(studio, part, [ada]);
  expect(await seen(part)).toEqual([
    [FIRST, 'finger', '3'],
    [FIRST, 'words', 'with the violas'],
    [`lost [bar 1] ${gone}`, 'look', ''],
  ]);
  // A bar of rest before everything.
  const bar =
    '<measure number="0"><attributes><divisions>2</divisions></attributes><note><rest measure="yes"/><duration>8</duration><voice>1</voice></note></measure>';
  const text = demoText('low-tide').replace(/<measure number="1"/, `${bar}<measure number="1"`);
  const edition = await bringIn(studio, part, 'more.musicxml', new TextEncoder().encode(text), OURSELVES);
  if (!edition?.ok) throw new Error(edition?.problem.what);
  expect((await replaceFile(studio, part, edition.value.id, OURSELVES))?.ok).toBe(true);
  await give(studio, part, [ada]);
  // Written without a network a month ago, on the hand-out of then.
  await say(studio, first, ada, { pencil: [pencil('bow', 'up', 4), pencil('finger', '1', 0)] });
  const third = 'n-1-1-0-A2-0';
  const now = [
    [third, 'finger', '3'],
    [third, 'words', 'with the violas'],
    [`lost [bar 1] ${gone}`, 'look', ''],
    [third, 'bow', 'up'],
  ];
  const both = await Promise.all([seen(part), seen(part)]);
  for (const each of [...both, await seen(part)]) expect(each).toEqual(now);
  expect(lostTarget(now[2]![0]!)).toEqual({ at: 'bar 1', target: gone });
  const { rows } = await everything.query('SELECT DISTINCT number FROM pencil JOIN handouts ON handouts.id = handout_id WHERE part_id = $1', [part]);
  expect(rows).toEqual([{ number: 3 }]);
  expect(((await aboutPlayer(studio, ada))!.about as { pencil: object[] }).pencil).toContainEqual(
    expect.objectContaining({ kind: 'words', value: 'with the violas', place: 'bar 1', number: 3 }),
  );
  // It goes with the player.
  const nobody = randomUUID();
  expect(await sheetOf(studio, part, nobody)).toBeNull();
});
