/** The shelf checked by workers: a part at a time, once each, whatever becomes of the workers; what it says is what the Desk says. */
import type { Access } from '../../server/access';
import { binOf } from '../../server/bin';
import { keyFor } from '../../server/doors/people';
import { sweep } from '../../server/jobs/sweep';
import { beginRound, checkOne, checksOf, endRound, roundNow } from '../../server/jobs/shelf-check';
import { markingOfPart, storeChanges } from '../../server/markings';
import { setPartSettings } from '../../server/parts';
import { setOnShelf, shelf } from '../../server/pieces';
import { Analyst } from '../../workers/analyst';
import { isSpot } from '../../core/checks/finding';
import { musicOf, partSettings } from '../../server/parts';
import { toldOf } from '../../core/instruments/as-told';
import { closeDatabase, everything, openDatabase } from '../support/database';
import { killWorkers, startWorker, until } from '../support/omaggio';
import { fingerSet } from '../support/stored';
import { readPartDocument } from '../../core/formats/musicxml/part-document';

let studio: Access;
let parts: string[];
beforeAll(async () => {
  studio = await openDatabase('all');
  parts = (await shelf(studio)).pieces.flatMap((piece) => piece.parts.map(({ id }) => id));
});
afterAll(async () => {
  killWorkers();
  await closeDatabase();
});

const writes = async () => (await everything.query<{ n: number }>('SELECT count(*)::int AS n FROM checks')).rows[0]!.n;

test('two workers, one killed in the middle of its work: every part is checked, none twice; then nothing is left to do', async () => {
  // Each write of a check is counted.
  await everything.query('CREATE TABLE written (part_id uuid)');
  await everything.query('GRANT INSERT ON written TO omaggio_app');
  await everything.query(
    'CREATE FUNCTION note_written() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN INSERT INTO written VALUES (NEW.part_id); RETURN NULL; END $$; CREATE TRIGGER note_written AFTER INSERT OR UPDATE ON checks FOR EACH ROW EXECUTE FUNCTION note_written()',
  );
  const begun = await Promise.all([beginRound(studio), beginRound(studio), beginRound(studio)]);
  expect(new Set(begun.map((round) => round?.id)).size).toBe(1);
  expect(begun[0]).toMatchObject({ of: parts.length, done: 0, begunBy: studio.person });
  const victim = startWorker();
  await until('one of them has begun', async () => (await everything.query("SELECT 1 FROM jobs.job WHERE state = 'active'")).rowCount! > 0);
  victim.kill('SIGKILL');
  startWorker();
  startWorker();
  await until('all are checked', async () => (await roundNow(studio)) === null);
  const { rows } = await everything.query<{ part_id: string; n: number }>('SELECT part_id, count(*)::int AS n FROM written GROUP BY 1');
  expect(rows.map(({ part_id: id }) => id).sort()).toEqual([...parts].sort());
  expect(rows.every(({ n }) => n === 1)).toBe(true);
  const checks = await checksOf(studio, parts);
  expect(Object.values(checks).every(({ isCurrent, trouble, counts }) => isCurrent && trouble === null && counts !== null)).toBe(true);
  expect(await beginRound(studio)).toBeNull();
});

test('it says what the Desk says; a mark, a tempo, another player make it out of date, and only that part is checked again', async () => {
  const known = await checksOf(studio, parts);
  const part = parts.find((id) => known[id]!.counts![1] + known[id]!.counts![2] > 0)!;
  const other = parts.find((id) => id !== part)!;
  const [music, settings, marking] = await Promise.all([musicOf(studio, part), partSettings(studio, part), markingOfPart(studio, part)]);
  const analyst = new Analyst();
  analyst.open(music!.text);
  const { tempo, preferences, density, intonation, line } = settings;
  const report = analyst.report({ marking: marking.marking, player: null, tempo, told: toldOf(settings), preferences, density, intonation, line }, []);
  const spots = report.findings.filter(isSpot);
  const { counts, worst } = known[part]!;
  expect(counts).toEqual(([1, 2, 3] as const).map((severity) => spots.filter((spot) => spot.severity === severity).length));
  expect(worst).toEqual((({ bar, text }) => ({ bar, text }))(spots.find(({ severity }) => severity === Math.max(...spots.map((spot) => spot.severity)))!));

  const read = readPartDocument(music!.text);
  if (!read.ok) throw new Error(read.problem.what);
  const note = read.value.score.parts[0]!.notes.find(({ id }) => !Object.keys(marking.marking).some((key) => key.startsWith(id)))!;
  await storeChanges(studio, marking.id, [fingerSet(note.id, null, '4')]);
  expect((await checksOf(studio, [part]))[part]).toMatchObject({ counts, isCurrent: false });
  await setPartSettings(studio, other, { tempo: 61 });
  expect((await checksOf(studio, parts))[other]!.isCurrent).toBe(false);
  const round = (await beginRound(studio))!;
  expect(round.of).toBe(2);
  await until('both are checked', async () => (await roundNow(studio)) === null);
  expect(Object.values(await checksOf(studio, parts)).every(({ isCurrent }) => isCurrent)).toBe(true);
});

test('what has had its time is swept out: from the bin after thirty days, browsers, keys and rounds that are over; nothing else', async () => {
  const [old, young] = (await shelf(studio)).pieces.filter((piece) => piece.parts.length === 1).map(({ id }) => id) as [string, string];
  for (const id of [old, young]) await setOnShelf(studio, id, false);
  await everything.query("UPDATE pieces SET removed_at = now() - interval '30 days 1 minute' WHERE id = $1", [old]);
  await everything.query("UPDATE pieces SET removed_at = now() - interval '29 days 23 hours' WHERE id = $1", [young]);
  await keyFor(studio, studio.personId!);
  await everything.query("UPDATE keys SET expires_at = now() - interval '1 second'");
  await keyFor(studio, studio.personId!);
  const count = async (table: string) => (await everything.query<{ n: number }>(`SELECT count(*)::int AS n FROM ${table}`)).rows[0]!.n;
  const before = await count('sessions');
  await everything.query(
    "INSERT INTO sessions (studio_id, token_hash, person_id, device, expires_at) VALUES ($1, 'x', $2, 'old', now() - interval '2 days'), ($1, 'y', $2, 'late', now() - interval '1 hour')",
    [studio.studio, studio.personId],
  );
  expect(await sweep()).toBe(1);
  expect((await binOf(studio)).map(({ id }) => id)).toEqual([young]);
  expect([await count('keys'), await count('sessions')]).toEqual([1, before + 1]);
  expect(await sweep()).toBe(0);
  await setOnShelf(studio, young, true);
});

test('ended it leaves the rest; what is off the shelf is left alone; what is checked stays', async () => {
  killWorkers();
  await everything.query('DELETE FROM checks');
  const round = (await beginRound(studio))!;
  const { rows } = await everything.query<{ part_id: string }>('SELECT part_id FROM round_parts WHERE round_id = $1', [round.id]);
  const job = (part: string) => ({ studio: studio.studio, round: round.id, part });
  await everything.query('DELETE FROM written');
  // One of them had been taken for gone.
  await Promise.all([checkOne(job(rows[0]!.part_id)), checkOne(job(rows[0]!.part_id))]);
  expect((await everything.query('SELECT 1 FROM written')).rowCount).toBe(1);
  expect(await roundNow(studio)).toMatchObject({ done: 1 });
  expect(await endRound(studio)).toBe(true);
  await checkOne(job(rows[1]!.part_id));
  expect(await writes()).toBe(1);
  expect([await roundNow(studio), await endRound(studio)]).toEqual([null, false]);
  for (const { id, parts: own } of (await shelf(studio)).pieces) if (own.length > 1) await setOnShelf(studio, id, false);
  const left = (await shelf(studio)).pieces.flatMap((piece) => piece.parts).length;
  const again = (await beginRound(studio))!;
  expect(again.of).toBeLessThanOrEqual(left);
  expect(again.of).toBeGreaterThanOrEqual(left - 1);
});
