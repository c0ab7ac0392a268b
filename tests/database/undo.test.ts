/** The chain of undo as it comes out of the database: every step is taken at a Desk that was opened anew. */
import type { Access } from '../../server/access';
import { randomUUID } from 'node:crypto';
import fc from 'fast-check';
import { runs } from '@/core/testing/runs';
import { coachChanges, type ChangeSet } from '../../core/marking/change';
import { stacksOf, undoing, type Logged } from '../../core/marking/history';
import { undoingDeed, type PartDeed } from '../../core/marking/part-deed';
import { RECORD_VERSION } from '../../core/marking/versions';
import type { Passage } from '../../core/score/passages';
import { deedsOf, elsewhereOf } from '../../server/deeds';
import { history, markingOfPart, storeChanges } from '../../server/markings';
import { partSettings, partsOfPiece, passagesOf, setPartSettings, setPassages, type SettingsChange } from '../../server/parts';
import { players } from '../../server/players';
import { takeIn } from '../../server/pieces';
import { openVariant, variantOf } from '../../server/variants';
import { OURSELVES } from '../../server/workers';
import { ElsewhereMarking, togetherIn } from '../../ui/part/elsewhere';
import type { DeskSettings } from '../../ui/part/part-data';
import { nextStep, type Lane } from '../../ui/part/undo-chain';
import { settingsDeed } from '../../ui/part/use-undo';
import type { Body } from '../../ui/unsent/entry';
import { closeDatabase, openDatabase } from '../support/database';
import { demoText } from '../support/demo';

let studio: Access;
let parts: Array<{ id: string; name: string }>;
let playerId: string;
beforeAll(async () => {
  studio = await openDatabase();
  const taken = await takeIn(studio, 'serenade.musicxml', new TextEncoder().encode(demoText('mill-race-serenade')), OURSELVES);
  if (!taken.ok) throw new Error(taken.problem.what);
  parts = (await partsOfPiece(studio, taken.value.pieceId)).slice(0, 2);
  playerId = (await players(studio))[0]!.id;
  await openVariant(studio, parts[0]!.id, playerId);
});
afterAll(closeDatabase);

let ms = Date.parse('2031-01-01T00:00:00Z');
const now = () => new Date(++ms).toISOString();
const meta = (reason: string) => ({ id: randomUUID(), at: now(), reason, undoes: null });

async function store(markingId: string, set: ChangeSet) {
  const answer = await storeChanges(studio, markingId, [{ ...set, version: RECORD_VERSION }]);
  expect(answer).toMatchObject({ stored: [set.id], clash: null });
}

/** The lanes that the Desk of a part opens with, and what it still has to send when one is acted on. */
async function open(part: { id: string; name: string }) {
  const sending: Array<() => Promise<unknown>> = [];
  const marking = await markingOfPart(studio, part.id);
  const [sets, deeds] = await Promise.all([history(studio, marking.id), deedsOf(studio, part.id)]);
  const elsewhere = await elsewhereOf(studio, part.id, [marking.id], sets);
  const deedLane = (about: PartDeed['about'], put: (deed: PartDeed) => Promise<unknown>): Lane => ({
    stacks: stacksOf(deeds.filter((deed) => deed.about === about)),
    takeBack: (row: Logged) => void sending.push(() => put(undoingDeed(row as PartDeed, randomUUID(), now()))),
  });
  const own: Lane[] = [
    { stacks: stacksOf(sets), takeBack: (row) => void sending.push(() => store(marking.id, undoing(row as ChangeSet, randomUUID(), now()))) },
    deedLane('passages', (deed) => setPassages(studio, part.id, deed.after as Passage[], deed.before as Passage[], deed)),
    deedLane('settings', (deed) => setPartSettings(studio, part.id, deed.after as SettingsChange, { ...deed, before: deed.before as SettingsChange })),
  ];
  const outbox = { add: (body: Body) => void (body.about === 'marks' && sending.push(() => store(body.markingId, body.set))) };
  const others = elsewhere.map((each): Lane => {
    const there = new ElsewhereMarking(part, each, outbox, { newId: randomUUID, now });
    return { ...there.lane(togetherIn(own)), takeBack: (row) => void there.takeBack(row as ChangeSet) };
  });
  return {
    lanes: [...own, ...others],
    send: async () => {
      for (const each of sending.splice(0)) await each();
    },
  };
}

async function act(of: number, which: 'undo' | 'redo'): Promise<string | null> {
  const desk = await open(parts[of]!);
  const step = nextStep(desk.lanes, which);
  step?.act();
  await desk.send();
  return step?.what ?? null;
}

/** Marks in the markings of both parts and of one player, as the Desk of one part makes them at once. */
async function mark(at: number, where: { parts: readonly boolean[]; player: boolean }, value: string) {
  const asked = [...where.parts, where.player];
  const together = asked.filter(Boolean).length > 1 ? randomUUID() : undefined;
  for (const [i, wanted] of asked.entries()) {
    if (!wanted) continue;
    const own = i === 2 ? await variantOf(studio, parts[0]!.id, playerId) : null;
    const { id, marking } = own ? { id: own.markingId, marking: own.marking } : await markingOfPart(studio, parts[i]!.id);
    const changes = coachChanges(marking, 'n-0-1-0-A4-0', 'finger', value);
    if (changes.length === 0) continue;
    const away = i !== 2 && i !== at ? { fromPart: parts[at]!.id } : {};
    await store(id, { ...meta(`finger ${value}`), changes, ...away, ...(together ? { together } : {}) });
  }
}
async function divide(of: number, name: string) {
  const before = await passagesOf(studio, parts[of]!.id);
  const answer = await setPassages(studio, parts[of]!.id, [...before, { name, fromBar: 0, toBar: 1 }], before, meta(`passage ${name}`));
  expect(answer.ok).toBe(true);
}
async function say(of: number, change: SettingsChange) {
  const before = (await partSettings(studio, parts[of]!.id)) as DeskSettings;
  const { what, back } = settingsDeed(before, change as never);
  await setPartSettings(studio, parts[of]!.id, change, { ...meta(what), before: back as SettingsChange });
}
const everything = async () =>
  JSON.stringify([
    await Promise.all(parts.map(async ({ id }) => [(await markingOfPart(studio, id)).marking, await passagesOf(studio, id), await partSettings(studio, id)])),
    (await variantOf(studio, parts[0]!.id, playerId))!.marking,
  ]);

const deed = fc.oneof(
  fc.record({ mark: fc.constantFrom('1', '2', '3'), parts: fc.tuple(fc.boolean(), fc.boolean()), player: fc.boolean() }),
  fc.record({ passage: fc.constantFrom('A', 'B') }),
  fc.record({ tempo: fc.integer({ min: 40, max: 44 }) }),
  fc.record({ accept: fc.constantFrom('x', 'y') }),
  fc.record({ act: fc.constantFrom('undo' as const, 'redo' as const) }),
);

test('whatever was done on two parts, also for one player and at once: undo at either Desk leads to the beginning', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(fc.tuple(fc.constantFrom(0, 1), deed), { minLength: 1, maxLength: 9 }), async (deeds) => {
      const beginning = await everything();
      for (const [of, each] of deeds) {
        if ('mark' in each) await mark(of, each, each.mark);
        else if ('passage' in each) await divide(of, each.passage);
        else if ('tempo' in each) await say(of, { tempo: each.tempo });
        else if ('accept' in each) await say(of, { accept: [{ id: each.accept, key: each.accept, why: 'so', version: RECORD_VERSION }] });
        else await act(of, each.act);
      }
      for (let step = 0, quiet = 0; quiet < 2 && step < 100; step++) quiet = (await act(step % 2, 'undo')) === null ? quiet + 1 : 0;
      expect(await everything()).toBe(beginning);
    }),
    { numRuns: runs(25) },
  );
});

test('a deed that is sent twice is stored once, and taken back once', async () => {
  const [part] = parts;
  const before = await passagesOf(studio, part!.id);
  const once = meta('passage twice');
  const to = [...before, { name: 'twice', fromBar: 2, toBar: 3 }];
  await setPassages(studio, part!.id, to, before, once);
  await setPassages(studio, part!.id, to, before, once);
  expect((await deedsOf(studio, part!.id)).filter(({ id }) => id === once.id)).toMatchObject([{ about: 'passages', before, reason: 'passage twice' }]);
  expect(await act(0, 'undo')).toBe('passage twice');
  expect(await passagesOf(studio, part!.id)).toEqual(before);
  expect(await act(0, 'redo')).toBe('passage twice');
  expect(await act(0, 'undo')).toBe('passage twice');
});
