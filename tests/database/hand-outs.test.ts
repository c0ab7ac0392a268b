/** Hand-outs: numbered where something changed, frozen, given to those who are meant, and nothing else is ever sent. */
import { randomUUID } from 'node:crypto';
import { changedLine } from '../../core/handout/in-words';
import type { Access } from '../../server/access';
import { aboutPlayer, erasePiece, erasePlayer } from '../../server/bin';
import { bringIn, replaceFile } from '../../server/editions';
import { answersTo, outOfPiece, outOfShelf, settle } from '../../server/handouts/coach';
import { handOut, latestOf } from '../../server/handouts/hand-out';
import { changedFor, engravedFor, sheetOf, standOf } from '../../server/handouts/on-the-stand';
import { answersBy, say } from '../../server/handouts/said';
import { setPartSettings, setPassages } from '../../server/parts';
import { changePlayer, players } from '../../server/players';
import { setOnShelf } from '../../server/pieces';
import { openVariant } from '../../server/variants';
import { OURSELVES } from '../../server/workers';
import { closeDatabase, everything } from '../support/database';
import { demoText } from '../support/demo';
import { FIRST, freshPiece, give as giveIn, markIn, studioWithTwo } from '../support/handed';

let studio: Access;
let ada: string;
let bo: string;
beforeAll(async () => {
  ({ studio, ada, bo } = await studioWithTwo());
});
afterAll(closeDatabase);

const mark = (...args: Parameters<typeof markIn> extends [Access, ...infer Rest] ? Rest : never) => markIn(studio, ...args);
const piece = () => freshPiece(studio);
const give = (part: string, to: string[], word = '') => giveIn(studio, part, to, word);
const rows = async (table: string) => (await everything.query<{ n: number }>(`SELECT count(*)::int AS n FROM ${table}`)).rows[0]!.n;

test('a number for what changed and none for what did not; what is out stays as it was', async () => {
  const { part, pieceId, marking } = await piece();
  await mark(marking, FIRST, 'finger', '2');
  expect(await outOfPiece(studio, pieceId, OURSELVES)).toMatchObject([{ last: null, has: [], next: { number: 1, changes: [] } }]);
  expect(await give(part, [ada], 'Until Thursday')).toMatchObject({ number: 1, isNew: true, players: 1 });

  // Nothing changed: the one who has it keeps it, and whoever is new gets the same.
  const frozen = await rows('frozen');
  expect(await give(part, [ada])).toMatchObject({ number: 1, isNew: false });
  expect(await give(part, [ada, bo], 'Welcome')).toMatchObject({ number: 1, isNew: false });
  expect([await sheetOf(studio, part, ada), await sheetOf(studio, part, bo)].map((sheet) => sheet!.given.word)).toEqual(['Until Thursday', 'Welcome']);
  expect(await rows('frozen')).toBe(frozen);
  expect((await outOfPiece(studio, pieceId, OURSELVES))![0]!.next).toBeNull();

  await mark(marking, FIRST, 'finger', '3', '2');
  const before = (await sheetOf(studio, part, ada))!;
  expect(before.frozen.marking[`${FIRST}|finger`]!.value).toBe('2');
  const [now] = (await outOfPiece(studio, pieceId, OURSELVES))!;
  expect(now!.next!.changes.map(changedLine)).toEqual(['1: finger 3, was 2']);
  expect(now!.usual).toEqual(expect.arrayContaining([ada, bo]));

  expect(await give(part, [ada])).toMatchObject({ number: 2, isNew: true });
  const sheet = (await sheetOf(studio, part, ada))!;
  expect(sheet).toMatchObject({ given: { number: 2 }, earlier: { number: 1 } });
  expect((await changedFor(studio, sheet.earlier!.frozen, sheet.frozen, OURSELVES)).map(changedLine)).toEqual(['1: finger 3, was 2']);
  // Who was left out has the first one still.
  expect(await sheetOf(studio, part, bo)).toMatchObject({ given: { number: 1, word: 'Welcome' }, earlier: null });
  // The document is kept once for both.
  expect((await everything.query('SELECT DISTINCT music FROM handouts WHERE part_id = $1', [part])).rowCount).toBe(1);
});

test('a mark for a player alone, a line and the tempo are changes', async () => {
  const { part } = await piece();
  await give(part, [ada, bo]);
  const own = (await openVariant(studio, part, ada))!;
  await mark(own.markingId, FIRST, 'finger', '1');
  expect(await give(part, [ada, bo])).toMatchObject({ number: 2, isNew: true });
  await setPartSettings(studio, part, { tempo: 66 });
  expect(await give(part, [ada, bo])).toMatchObject({ number: 3, isNew: true });
  expect((await sheetOf(studio, part, ada))!.frozen.marking[`${FIRST}|finger`]!.value).toBe('1');
  expect((await sheetOf(studio, part, bo))!.frozen.marking[`${FIRST}|finger`]).toBeUndefined();
  // Of somebody who has nothing of it a change is no reason for a number.
  await mark((await openVariant(studio, part, (await players(studio))[2]!.id))!.markingId, FIRST, 'finger', '4');
  expect(await give(part, [ada, bo])).toMatchObject({ number: 3, isNew: false });
});

test('nothing that was not handed out to a player is ever sent to them', async () => {
  const { part, pieceId, marking } = await piece();
  const secrets = ['secret-for-bo', 'secret-why', 'secret-later', 'secret-passage'];
  await mark(marking, 'bar-0', 'words', 'for everybody');
  await mark(marking, 'at-1-0', 'dynamic', 'pp', null, { why: 'secret-why' });
  await setPassages(studio, part, [{ name: 'secret-passage', fromBar: 0, toBar: 3 }]);
  await mark((await openVariant(studio, part, bo))!.markingId, 'bar-2', 'words', 'secret-for-bo');
  await mark((await openVariant(studio, part, ada))!.markingId, 'bar-3', 'words', 'for ada');
  await give(part, [ada, bo], 'a word');
  await mark(marking, 'bar-4', 'words', 'secret-later');
  const sheet = (await sheetOf(studio, part, ada))!;
  const { state: _, music: __, ...given } = sheet.given;
  const sent = JSON.stringify([
    await standOf(studio, ada),
    { ...sheet, given },
    await engravedFor(studio, sheet.frozen, 700, OURSELVES),
    await answersBy(studio, part, ada),
  ]);
  for (const secret of secrets) expect(sent).not.toContain(secret);
  for (const { name, id } of await players(studio)) if (id !== ada) expect([name, sent.includes(name), sent.includes(id)]).toEqual([name, false, false]);
  expect(sent).toContain('for everybody');
  expect(sent).toContain('for ada');
  // Nothing at all for who has nothing, and nothing any more once the piece is off the shelf.
  const third = (await players(studio))[2]!.id;
  expect([await sheetOf(studio, part, third), (await standOf(studio, third)).filter(({ partId }) => partId === part)]).toEqual([null, []]);
  await setOnShelf(studio, pieceId, false);
  expect(await sheetOf(studio, part, ada)).toBeNull();
});

test('what a player says is kept once, told to the coach, and dealt with', async () => {
  const { part, pieceId } = await piece();
  await give(part, [ada]);
  const { id } = (await latestOf(studio, [part])).get(part)!;
  const answer = { id: randomUUID(), bar: 2, kind: 'hurts' as const, words: 'fourth finger', at: '2026-11-30T18:00:00+01:00' };
  const question = { id: randomUUID(), bar: null, kind: 'question' as const, words: 'which edition?', at: '2026-11-30T18:01:00+01:00' };
  for (let times = 0; times < 2; times++)
    expect(await say(studio, id, ada, { opened: true, copied: [{ bar: 3, is: true }], answers: [question, answer] })).toMatchObject({ ok: true });
  expect(
    await say(studio, id, ada, {
      copied: [
        { bar: -1, is: true },
        { bar: 3, is: false },
      ],
    }),
  ).toMatchObject({ ok: true });
  // Who does not have it says nothing about it.
  expect(await say(studio, id, bo, { answers: [{ ...answer, id: randomUUID() }] })).toBeNull();
  expect(await say(studio, 'nonsense', ada, {})).toBeNull();
  const many = Array.from({ length: 100 }, () => ({ ...answer, id: randomUUID(), kind: 'words' as const }));
  for (let i = 0; i < 2; i++) expect(await say(studio, id, ada, { answers: many.map((each) => ({ ...each, id: randomUUID() })) })).toMatchObject({ ok: true });
  expect(await say(studio, id, ada, { answers: many })).toMatchObject({ ok: false, problem: { remedy: expect.stringContaining('has arrived') } });
  await everything.query("DELETE FROM answers WHERE kind = 'words' AND handout_id = $1", [id]);
  expect((await sheetOf(studio, part, ada))!.given).toMatchObject({ copied: [-1], openedAt: expect.any(Date) });
  expect((await outOfPiece(studio, pieceId, OURSELVES))![0]!.has).toMatchObject([{ playerId: ada, copied: 1, openedAt: expect.any(Date) }]);
  const told = await answersTo(studio, { partId: part });
  expect(told).toMatchObject([
    { kind: 'hurts', bar: '3', barIndex: 2, words: 'fourth finger', number: 1, settledAt: null },
    { kind: 'question', bar: null },
  ]);
  expect(await outOfShelf(studio, [pieceId])).toMatchObject({ [pieceId]: { players: 1, opened: 1, open: 2, hurts: true } });
  expect(await settle(studio, told[0]!.id, true)).toBe(true);
  expect((await answersTo(studio, { partId: part, open: true })).map(({ kind }) => kind)).toEqual(['question']);
  expect((await answersBy(studio, part, ada)).map(({ settledAt }) => settledAt !== null)).toEqual([true, false]);
  expect(await outOfShelf(studio, [pieceId])).toMatchObject({ [pieceId]: { open: 1, hurts: false } });
  expect(await settle(studio, told[0]!.id, false)).toBe(true);
  expect(await settle(studio, randomUUID(), true)).toBe(false);
});

test('a part whose file was replaced: what is out stays, and the next one says what is printed otherwise', async () => {
  const { part, pieceId, marking } = await piece();
  await mark(marking, FIRST, 'finger', '2');
  await give(part, [ada]);
  const other = demoText('low-tide').replace('<step>A</step>', '<step>B</step>');
  const edition = await bringIn(studio, part, 'other.musicxml', new TextEncoder().encode(other), OURSELVES);
  if (!edition?.ok) throw new Error('no edition');
  const replaced = await replaceFile(studio, part, edition.value.id, OURSELVES);
  expect(replaced?.ok).toBe(true);
  expect((await sheetOf(studio, part, ada))!.frozen.marking[`${FIRST}|finger`]!.value).toBe('2');
  const lines = (await outOfPiece(studio, pieceId, OURSELVES))![0]!.next!.changes.map(changedLine);
  expect(lines[0]).toBe('the part: the part was replaced by another file');
  expect(lines.some((line) => line.startsWith('1: ') && line.includes('was A'))).toBe(true);
  expect(await give(part, [ada])).toMatchObject({ number: 2 });
});

test('a part or a player that is not there: nothing is handed out at all', async () => {
  const { part } = await piece();
  const before = await rows('handouts');
  for (const parts of [
    [
      { partId: part, players: [ada] },
      { partId: randomUUID(), players: [ada] },
    ],
    [{ partId: part, players: [randomUUID()] }],
  ])
    expect(await handOut(studio, { word: '', parts })).toMatchObject({ ok: false, problem: { remedy: expect.stringContaining('Nothing was handed out') } });
  expect(await rows('handouts')).toBe(before);
});

test('two coaches who hand out at once make one number', async () => {
  const { part } = await piece();
  const both = await Promise.all([give(part, [ada]), give(part, [ada])]);
  expect(both.map(({ number }) => number)).toEqual([1, 1]);
  expect(both.filter(({ isNew }) => isNew)).toHaveLength(1);
});

test('with a player or a piece what was handed out goes, too', async () => {
  const { part, pieceId, title } = await piece();
  await give(part, [ada, bo]);
  const { id } = (await latestOf(studio, [part])).get(part)!;
  await say(studio, id, ada, { opened: true, answers: [{ id: randomUUID(), bar: 0, kind: 'words', words: 'thanks', at: new Date().toISOString() }] });
  const kept = (await aboutPlayer(studio, ada))!.about as { handOuts: object[]; answers: object[] };
  expect(kept.handOuts.at(-1)).toMatchObject({ piece: title, number: 1, copied: [] });
  expect(kept.answers.at(-1)).toMatchObject({ kind: 'words', words: 'thanks', bar: '1' });
  await changePlayer(studio, ada, { removed: true });
  expect(await erasePlayer(studio, ada)).toBe(true);
  for (const table of ['handout_players', 'answers']) expect((await everything.query(`SELECT 1 FROM ${table} WHERE player_id = $1`, [ada])).rowCount).toBe(0);
  expect((await sheetOf(studio, part, bo))!.given.number).toBe(1);
  const before = await rows('frozen');
  await setOnShelf(studio, pieceId, false);
  await erasePiece(studio, pieceId);
  expect(await rows('handouts')).toBeGreaterThan(0);
  expect((await everything.query('SELECT 1 FROM handouts WHERE part_id = $1', [part])).rowCount).toBe(0);
  expect(await rows('frozen')).toBeLessThanOrEqual(before);
  expect((await everything.query('SELECT 1 FROM frozen WHERE NOT EXISTS (SELECT 1 FROM handouts WHERE state = sha256 OR music = sha256)')).rowCount).toBe(0);
});
