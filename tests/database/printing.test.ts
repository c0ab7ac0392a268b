/** Many parts on paper as work of its own: whatever becomes of the workers, ended and begun again; each part once. */
import type { Access } from '../../server/access';
import { handOut } from '../../server/handouts/hand-out';
import { printedPart } from '../../server/handouts/paper';
import { beginPrinting, printedFile, printingNow, printOne, stopPrinting } from '../../server/jobs/printing';
import { markingOfPart } from '../../server/markings';
import { partsOfPiece } from '../../server/parts';
import { takeIn } from '../../server/pieces';
import { players } from '../../server/players';
import { OURSELVES } from '../../server/workers';
import { partsSide } from '../support/many-parts';
import { closeDatabase, everything, openDatabase } from '../support/database';
import { demoText } from '../support/demo';
import { FIRST, freshPiece, give, markIn } from '../support/handed';
import { killWorkers, startWorker, until } from '../support/omaggio';
import { readPdf, textOf } from '../support/pdf';

/** Thirty with OMAGGIO_LONG=1; what a killed worker had begun is begun again after two minutes, however many there are. */
const PARTS = process.env.OMAGGIO_LONG ? 30 : 6;
let studio: Access;
let piece: string;
let player: string;
beforeAll(async () => {
  studio = await openDatabase();
  player = (await players(studio))[0]!.id;
  const taken = await takeIn(studio, 'thirty.musicxml', new TextEncoder().encode(partsSide(demoText('low-tide'), PARTS)), OURSELVES);
  if (!taken.ok) throw new Error(taken.problem.what);
  piece = taken.value.pieceId;
  const parts = await partsOfPiece(studio, piece);
  const done = await handOut(studio, { word: 'All of us', parts: parts.map(({ id }) => ({ partId: id, players: [player] })) });
  if (!done.ok) throw new Error(done.problem.what);
});
afterAll(async () => {
  killWorkers();
  await closeDatabase();
});

const doneTimes = async () =>
  (await everything.query<{ part: string; at: Date }>('SELECT part_id AS part, done_at AS at FROM printing_parts WHERE done_at IS NOT NULL')).rows;

test('begun twice at once it is one; ended it keeps what is done, begun again it goes on, also when its worker was killed; in the end all is in one file', async () => {
  expect(await printingNow(studio, piece)).toBeNull();
  expect(await stopPrinting(studio, piece)).toBe(false);
  const begun = await Promise.all([beginPrinting(studio, piece, 'a4'), beginPrinting(studio, piece, 'a4')]);
  expect(new Set(begun.map((each) => each!.id)).size).toBe(1);
  expect(begun[0]).toMatchObject({ of: PARTS, done: 0, isStopped: false, isOld: false, paper: 'a4', begunBy: studio.person });
  expect((await everything.query("SELECT 1 FROM jobs.job WHERE name = 'print-part'")).rowCount).toBe(PARTS);
  expect(await printedFile(studio, piece, OURSELVES)).toBeNull();

  const victim = startWorker();
  await until('some are done', async () => (await printingNow(studio, piece))!.done >= 2);
  expect(await stopPrinting(studio, piece)).toBe(true);
  victim.kill('SIGKILL');
  const stopped = (await printingNow(studio, piece))!;
  expect(stopped).toMatchObject({ isStopped: true });
  expect(stopped.done).toBeLessThan(PARTS);
  const { rows } = await everything.query<{ part: string }>('SELECT part_id AS part FROM printing_parts WHERE done_at IS NULL');
  await printOne({ studio: studio.studio, printing: stopped.id, part: rows[0]!.part });
  expect((await printingNow(studio, piece))!.done).toBe(stopped.done);

  const before = await doneTimes();
  expect((await beginPrinting(studio, piece, 'a4'))!.id).toBe(stopped.id);
  startWorker();
  startWorker();
  await until('all are done', async () => (await printingNow(studio, piece))!.done === PARTS);
  const after = new Map((await doneTimes()).map(({ part, at }) => [part, at.getTime()]));
  for (const { part, at } of before) expect(after.get(part)).toBe(at.getTime());
  expect(await printingNow(studio, piece)).toMatchObject({ isStopped: false, troubles: [] });
  expect(await stopPrinting(studio, piece)).toBe(false);

  const file = (await printedFile(studio, piece, OURSELVES))!;
  const { title, pages } = readPdf(file.bytes);
  expect(file.fileName).toBe(`${title}, parts.pdf`);
  const parts = await partsOfPiece(studio, piece);
  // Every part from a page of its own on, in the order of the score: its name stands alone at the head.
  const heads = pages.flatMap(({ items }) => parts.filter(({ name }) => items.some(({ text }) => text === name)).map(({ name }) => name));
  expect(heads).toEqual(parts.map(({ name }) => name));
  const alone = readPdf((await printedPart(studio, parts[3]!.id, 'a4', OURSELVES))!.bytes);
  const ofIt = pages.filter((page) => textOf(page).includes(`· ${parts[3]!.name} · Hand-out 1`));
  expect(ofIt.map(textOf)).toEqual(alone.pages.map(textOf));
  // Done is done, until something is handed out anew or other paper is wanted.
  expect(await beginPrinting(studio, piece, 'a4')).toMatchObject({ id: stopped.id, done: PARTS });
  killWorkers();
  expect(await beginPrinting(studio, piece, 'letter')).toMatchObject({ done: 0, paper: 'letter' });
  // A slow machine is no fault.
}, 1_800_000);

test('what was handed out anew makes it old; the next one is of what is out now; nothing is out: nothing to print', async () => {
  const { part, pieceId } = await freshPiece(studio);
  expect(await beginPrinting(studio, pieceId, 'a4')).toBeNull();
  await give(studio, part, [player]);
  const first = (await beginPrinting(studio, pieceId, 'a4'))!;
  await printOne({ studio: studio.studio, printing: first.id, part });
  expect(await printingNow(studio, pieceId)).toMatchObject({ done: 1, of: 1, isOld: false });
  await markIn(studio, (await markingOfPart(studio, part)).id, FIRST, 'finger', '2');
  await give(studio, part, [player]);
  expect(await printingNow(studio, pieceId)).toMatchObject({ isOld: true });
  const second = (await beginPrinting(studio, pieceId, 'a4'))!;
  expect([second.id === first.id, second.done, second.isOld]).toEqual([false, 0, false]);
  await Promise.all([1, 2].map(() => printOne({ studio: studio.studio, printing: second.id, part })));
  expect(textOf(readPdf((await printedFile(studio, pieceId, OURSELVES))!.bytes).pages[0]!)).toContain('Hand-out 2');
});
