/** Parts on paper, read again by a package that did not make them; and against the engraver's own picture. */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { NOTHING_TOLD } from '../../core/instruments/as-told';
import { partDocument } from '../../core/formats/musicxml/part-document';
import { readScoreBytes } from '../../core/formats/read';
import type { Marking } from '../../core/marking/mark';
import { paged } from '../../core/stand/pages';
import { readPdf, textOf } from '../support/pdf';
import { realScores } from '../support/real-scores';
import { inWorker, OURSELVES, stopWorkers } from '../../server/workers';
import type { Sheet } from '../../workers/server/paper';

afterAll(stopWorkers);

function sheetOf(bytes: Uint8Array, name: string | null, more: Partial<Sheet> = {}): Sheet & { bars: number } {
  const read = readScoreBytes(bytes);
  if (!read.ok) throw new Error(read.problem.what);
  const part = read.value.score.parts.find((each) => name === null || each.name === name)!;
  const music = partDocument(read.value.document, part.id, read.value.score.timeLine);
  return {
    ...{ music, marking: {}, told: NOTHING_TOLD, tempo: null, line: null },
    ...{ title: 'Mill Race Serenade', composer: 'Nobody', part: part.name, label: 'Hand-out 2, 29 November 2026', word: '', changes: null },
    ...more,
    bars: part.bars.length,
  };
}
const demo = (more: Partial<Sheet> = {}, name = 'Violin I') => sheetOf(readFileSync('demo/scores/mill-race-serenade.musicxml'), name, more);
const say = (value: string) => ({ value, origin: 'coach' as const });
const print = (sheets: Sheet[], paper: 'a4' | 'letter' = 'a4') => inWorker('printParts', { sheets, paper, staffMm: 6.8 }, OURSELVES).then(readPdf);

test('every page says what it is of; bars at the head of each system; nothing lies outside the paper', async () => {
  const { title, pages } = await print([demo()]);
  expect(title).toBe('Mill Race Serenade, Violin I');
  expect(pages.length).toBeGreaterThan(1);
  pages.forEach((page, i) => {
    expect([page.width, page.height].map(Math.round)).toEqual([595, 842]);
    expect(textOf(page)).toContain('Mill Race Serenade · Violin I · Hand-out 2, 29 November 2026');
    expect(page.items.at(-1)!.text === String(i + 1) || page.items.some(({ text, y }) => text === String(i + 1) && y > 800)).toBe(true);
    for (const { x, y } of page.items) expect(x > 10 && x < page.width - 10 && y > 10 && y < page.height - 10).toBe(true);
  });
  // The engraver's own picture: what each system begins with is on paper, in this order.
  const stand = await inWorker('engraveStand', { ...demo(), widthPx: Math.round((595.28 - 80) / ((6.8 * 72) / 25.4 / 30.24)) }, OURSELVES);
  // Where a letter stands the engraver leaves the number out.
  const read = readScoreBytes(readFileSync('demo/scores/mill-race-serenade.musicxml'));
  const bars = read.ok ? read.value.score.parts[0]!.bars : [];
  const begins = stand.systems.slice(1).map(({ firstBar }) => bars[firstBar]!.rehearsal ?? stand.labels[firstBar]!);
  const said = pages.flatMap((page) => page.items.map(({ text }) => text));
  let from = 0;
  for (const label of begins) expect([label, (from = said.indexOf(label, from) + 1) > 0]).toEqual([label, true]);
});

test('fingers, strings, words and the numbers of notes are on paper, each once', async () => {
  const sheet = demo();
  const read = readScoreBytes(readFileSync('demo/scores/mill-race-serenade.musicxml'));
  if (!read.ok) throw new Error('demo');
  const notes = read.value.score.parts[0]!.notes;
  const bare = (await print([sheet])).pages.flatMap((page) => page.items.map(({ text }) => text));
  const count = (list: readonly string[], text: string) => list.filter((each) => each === text).length;
  const marking: Marking = {
    ...Object.fromEntries([3, 40, 90].map((i) => [`${notes[i]!.id}|finger`, say('3')])),
    ...Object.fromEntries([5, 60].map((i) => [`${notes[i]!.id}|string`, say('2')])),
    'bar-2|listen': say('the violas, then Dvořák’s cellos'),
  };
  const { pages } = await print([{ ...sheet, marking }]);
  const marked = pages.flatMap((page) => page.items.map(({ text }) => text));
  expect(count(marked, '3') - count(bare, '3')).toBe(3);
  expect(count(marked, 'II') - count(bare, 'II')).toBe(2);
  expect(pages.map(textOf).join(' ')).toContain('2 listen: the violas, then Dvořák’s cellos');
  // A bow sign is a drawing: there is more to be drawn, and as much text.
  const bowed = await print([{ ...sheet, marking: { [`${notes[3]!.id}|bow`]: say('up') } }]);
  expect(bowed.pages[0]!.operations).toBeGreaterThan((await print([sheet])).pages[0]!.operations);
});

test('a correction says what changed; a long word goes on over pages; Letter; several parts each from a page of their own', async () => {
  const changes = {
    since: 1,
    bars: [
      { barIndex: 30, at: '31', texts: ['up, was down'] },
      { barIndex: 61, at: '62', texts: ['slurred 1 + 2, was 3'] },
    ],
  };
  const long = 'Remember what we said about the upper half. '.repeat(70);
  const { pages } = await print([demo({ changes, word: long }), demo({}, 'Cello')], 'letter');
  const all = pages.map(textOf);
  expect(all.join(' ')).toContain('Changed since Hand-out 1 31: up, was down 62: slurred 1 + 2, was 3');
  expect(all.join(' ').split('upper half').length - 1).toBe(70);
  expect(pages.every(({ width, height }) => width === 612 && height === 792)).toBe(true);
  const cello = all.findIndex((text) => text.includes('· Cello ·'));
  expect(cello).toBeGreaterThan(1);
  expect(all.slice(0, cello).every((text) => text.includes('· Violin I ·'))).toBe(true);
});

test('names of 240 letters, a part of one bar, chords and ledger lines of real scores', async () => {
  const name = 'Serenade for the very long evening '.repeat(7);
  const one = sheetOf(
    new TextEncoder().encode(
      '<score-partwise version="4.0"><part-list><score-part id="P1"><part-name>Violin</part-name></score-part></part-list><part id="P1"><measure number="1"><attributes><divisions>1</divisions><key><fifths>0</fifths></key><time><beats>4</beats><beat-type>4</beat-type></time><clef><sign>G</sign><line>2</line></clef></attributes><note><pitch><step>A</step><octave>7</octave></pitch><duration>4</duration><type>whole</type></note></measure></part></score-partwise>',
    ),
    null,
    { title: name, part: name, composer: name, label: name },
  );
  const { pages } = await print([one]);
  expect(pages).toHaveLength(1);
  for (const { x, y } of pages[0]!.items) expect(x >= 0 && x < 595 && y > 0 && y < 842).toBe(true);
  for (const [, bytes] of realScores().slice(0, 3)) expect((await print([sheetOf(bytes, null)])).pages.length).toBeGreaterThan(0);
});

test('the engraver is asked once; pages are those that cost least', async () => {
  const stand = await inWorker('engraveStand', { ...demo(), widthPx: 820 }, OURSELVES);
  const laid = stand.systems.map(({ heightPx, lastBar }) => ({ heightPx, lastBar }));
  const paper = { heightPx: 1_200, firstHeightPx: 1_100, gapPx: 8, atOnce: 2 as const, firstIsRight: false };
  const { pages } = paged(laid, stand.passings, paper);
  expect(pages.at(-1)!.to).toBe(stand.systems.length - 1);
  expect(stand.systems.at(-1)!.lastBar).toBe(demo().bars - 1);
  expect(stand.systems.flatMap(({ barIndices }) => barIndices).every((bar, i, all) => i === 0 || bar > all[i - 1]!)).toBe(true);
});

test('bin/omaggio print writes a part, and says what is wrong in one line', () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'omaggio-paper-'));
  const out = path.join(folder, 'part.pdf');
  // From another folder, as one works.
  const run = (...args: string[]) => spawnSync(path.resolve('bin/omaggio'), ['print', ...args], { cwd: folder, encoding: 'utf8' });
  const score = path.resolve('demo/scores/mill-race-serenade.musicxml');
  const { status, stdout } = run(score, '--part', 'Viola', '--paper', 'letter', '-o', out);
  expect([status, stdout]).toEqual([0, `Mill Race Serenade, Viola: ${out}\n`]);
  const { pages } = readPdf(readFileSync(out));
  expect(pages[0]!.width).toBe(612);
  expect(textOf(pages[0]!)).toContain('Viola');
  for (const [args, said] of [
    [[score], '-o: It is missing.'],
    [[score, '--staff', '20', '-o', out], '--staff: "20" is no number from 4 to 9.'],
    [['none.musicxml', '-o', out], 'none.musicxml: It cannot be read (ENOENT).'],
    [[score, '--part', 'Harp', '-o', out], 'The score has no such part.'],
  ] as const) {
    const failed = run(...args);
    expect([failed.status, failed.stderr.trim().split('\n').length, failed.stderr.includes(said)]).toEqual([2, 1, true]);
  }
  rmSync(folder, { recursive: true });
});

test('who has to turn in a hurry is told by V. S. at the foot; where there is time it says nothing', async () => {
  const { pages } = await print([demo()]);
  const hurried = pages.flatMap((page, i) => (page.items.some(({ text }) => text === 'V. S.') ? [i] : []));
  // Only every other page is turned, and one that rests long enough at its end is not among them.
  expect(hurried.filter((page) => page % 2 === 0)).toEqual([]);
  const rests = readFileSync('demo/scores/mill-race-serenade.musicxml', 'utf8').replace(
    /<rest\/>|<rest [^>]*>/g,
    '<pitch><step>A</step><octave>4</octave></pitch>',
  );
  const restless = sheetOf(new TextEncoder().encode(rests), 'Violin I');
  const without = readPdf(await inWorker('printParts', { sheets: [restless], paper: 'a4', staffMm: 11 }, OURSELVES));
  const told = without.pages.flatMap((page, i) => (page.items.some(({ text }) => text === 'V. S.') ? [i] : []));
  expect(told).toEqual(without.pages.flatMap((_, i) => (i % 2 === 1 && i < without.pages.length - 1 ? [i] : [])));
  expect(told.length).toBeGreaterThan(0);
});

test('what changed as strips: each changed bar with its words, as large as in the part, and nothing else', async () => {
  const bars = [
    { barIndex: null, at: 'the part', texts: ['tempo 100, was 112'] },
    { barIndex: 30, at: '31', texts: ['up, was down'] },
    { barIndex: 31, at: '32', texts: ['finger 2'] },
    { barIndex: 90, at: '91', texts: ['slurred 1 + 2, was 3'] },
  ];
  const sheet = demo({ changes: { since: 1, bars } });
  const { title, pages } = readPdf(await inWorker('printStrips', { sheet, paper: 'a4', staffMm: 6.8 }, OURSELVES));
  expect(title).toBe('Mill Race Serenade, Violin I: strips');
  expect(pages).toHaveLength(1);
  const text = textOf(pages[0]!);
  expect(text).toContain('what changed since Hand-out 1');
  expect(text).toContain('the part: tempo 100, was 112');
  for (const said of ['31: up, was down', '32: finger 2', '91: slurred 1 + 2, was 3']) expect(text).toContain(said);
  // Many more than a page holds go on over the next ones.
  const all = Array.from({ length: 129 }, (_, i) => ({ barIndex: i, at: String(i), texts: [`change ${i}`] }));
  const many = readPdf(await inWorker('printStrips', { sheet: demo({ changes: { since: 1, bars: all } }), paper: 'letter', staffMm: 6.8 }, OURSELVES)).pages;
  expect(many.length).toBeGreaterThan(1);
  const said = many.map(textOf).join(' ');
  for (let i = 0; i < 129; i++) expect(said).toContain(`change ${i}`);
});
