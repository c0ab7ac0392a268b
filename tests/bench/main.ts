/**
 * npm run bench: medians on this machine, each next to a yardstick measured in the same run. Ratios travel
 * better between machines than milliseconds.
 */
import { SaxesParser } from 'saxes';
import { firstLine, makeScore } from '../../core/testing/make';
import { linesOf } from '../../core/instruments/lines';
import { automaticPassages } from '../../core/score/passages';
import { clockFor } from '../../core/score/time';
import { readMusicXml } from '../../core/formats/musicxml/read';
import { usualPlayer } from '../../core/instruments/player';
import { newFingeringMemory, planFingering, prepareFingering } from '../../core/left-hand/fingering';
import { cheapestPath } from '../../core/left-hand/search';
import { weighingFor } from '../../core/left-hand/transition';
import { atomsOf } from '../../core/bow-arm/atoms';
import { newBowMemory, planBowing } from '../../core/bow-arm/bowing';
import { markKey } from '../../core/marking/mark';
import { BOW_COSTS } from '../../core/bow-arm/tables';
import { check, checked } from '../../core/checks/check';
import { bowGraph, fingeringGraph, LIFT, ownBowSearch, shortest } from '../support/dijkstra';
import { realScores } from '../support/real-scores';
import { partDocument, readPartDocument } from '../../core/formats/musicxml/part-document';
import { fivePartScore, longPart } from '../support/long-part';
import { newContainer } from '../../core/formats/raw/container';
import { readScoreBytes } from '../../core/formats/read';
import { writeMarked } from '../../core/formats/musicxml/write';
import { differences } from '../../core/editions/differences';
import { readingAids } from '../../core/reading/reading';
import { everyMark } from '../../core/testing/marks';

function median(work: () => unknown, runs: number): number {
  const times: number[] = [];
  for (let i = 0; i < Math.min(8, runs); i++) work();
  for (let i = 0; i < runs; i++) {
    const start = performance.now();
    work();
    times.push(performance.now() - start);
  }
  return times.sort((a, b) => a - b)[Math.floor(runs / 2)]!;
}

const rows: string[][] = [['what', 'median', 'yardstick', 'median', 'ratio']];
function report(what: string, ms: number, yardstick: string, yardstickMs: number): void {
  rows.push([what, `${ms.toFixed(1)} ms`, yardstick, `${yardstickMs.toFixed(1)} ms`, (ms / yardstickMs).toFixed(2)]);
}

const text = longPart(300);
const bareParse = () => {
  const parser = new SaxesParser();
  parser.write(text).close();
};
const read = readMusicXml(text);
if (!read.ok) throw new Error(read.problem.what);
const { score } = read.value;
const part = score.parts[0]!;
const bare = median(bareParse, 9);
report(
  `read a part of ${part.bars.length} bars, ${part.notes.length} notes`,
  median(() => readMusicXml(text), 9),
  'bare parse of the same XML',
  bare,
);

const fiveParts = fivePartScore(300);
report(
  'read a score of 5 parts, 300 bars each',
  median(() => readMusicXml(fiveParts), 5),
  'bare parse of the same XML',
  median(() => new SaxesParser().write(fiveParts).close(), 5),
);
const [, large] = realScores(/^ActorPreludeSample\.xml$/)[0]!;
const largeText = new TextDecoder().decode(large);
report(
  'read a real score of 22 parts, 41 bars',
  median(() => readMusicXml(largeText), 7),
  'bare parse of the same XML',
  median(() => new SaxesParser().write(largeText).close(), 7),
);
const cutOut = partDocument(read.value.document, part.id, score.timeLine);
report(
  `read a part document with its time line, ${part.bars.length} bars`,
  median(() => readPartDocument(cutOut), 9),
  'bare parse (300 bars)',
  bare,
);
const packed = newContainer(new TextEncoder().encode(fiveParts));
report(
  'the same, compressed (.mxl)',
  median(() => readScoreBytes(packed), 5),
  'the same, plain',
  median(() => readMusicXml(fiveParts), 5),
);
const second = readMusicXml(text.replace(/<measure number="40"[\s\S]*?<\/measure>/, ''));
if (!second.ok) throw new Error(second.problem.what);
report(
  `compare two editions of ${part.bars.length} bars`,
  median(() => differences(part, {}, second.value.score.parts[0]!), 5),
  'read one of them',
  median(() => readMusicXml(text), 5),
);
const edits = everyMark(part, 20);
report(
  `write ${Object.keys(edits).length} marks and edits into ${part.bars.length} bars`,
  median(() => writeMarked(read.value.document, part, { ...edits }), 5),
  'read the part',
  median(() => readMusicXml(text), 5),
);
report(
  `reading aids, ${part.bars.length} bars`,
  median(() => readingAids(part, usualPlayer('violin')), 5),
  'read the part',
  median(() => readMusicXml(text), 5),
);

const phrase = 'B4 C5 D5 E5 (F5 G5 B5 C6) D6 C6 B5 G5 (F5 E5 D5 C5) B4 C5 F5 G5 ';
const made = makeScore('violin', phrase.repeat(50), { length: 0.5 });
const player = usualPlayer('violin');
const clock = clockFor(made.part, null);
const request = { score: made.score, part: made.part, line: firstLine(made.part), player, clock, marking: {} };
const { grips, moments } = prepareFingering(request);
const stopped = grips.map((list) => list.filter((grip) => !grip.open));
const weighing = weighingFor(player);
const graph = fingeringGraph(stopped, moments, weighing);
report(
  'fingering search, 1,000 notes',
  median(() => cheapestPath({ grips: stopped, moments, weighing }), 9),
  'ngraph.path on the same graph',
  median(() => shortest(graph, LIFT), 3),
);
report(
  'fingering with its reasons, 1,000 notes',
  median(() => planFingering({ ...request, alternatives: 1 }), 5),
  'bare parse (300 bars)',
  bare,
);

const handWithin = { from: part.bars[100]!.onset, to: part.bars[132]!.onset };
const handMemory = newFingeringMemory();
const handRequest = { score, part, line: linesOf(part)[0]!, player, clock: clockFor(part, null), alternatives: 1 };
planFingering({ ...handRequest, marking: {} }, handMemory);
const lockable = part.notes.filter((note) => note.onset >= handWithin.from && note.onset < handWithin.to);
let locked = 0;
report(
  'fingering anew after one lock in a passage of 32 bars',
  median(() => {
    const note = lockable[(locked += 7) % lockable.length]!;
    return planFingering({ ...handRequest, marking: { [markKey(note.id, 'string')]: { value: '2', origin: 'coach' } } }, handMemory);
  }, 21),
  'the whole fingering without memory',
  median(() => planFingering({ ...handRequest, marking: {} }), 5),
);

const bowed = makeScore('violin', 'A4 B4/0.5 C5/0.5 D5/1.5 E5/0.5 D5 C5 '.repeat(9), { tempo: 100 });
const few = atomsOf(bowed.part, firstLine(bowed.part), clockFor(bowed.part, null), {});
const bowed2 = bowGraph(few, 'violin', BOW_COSTS);
const own = median(() => ownBowSearch(few, 'violin', BOW_COSTS), 9);
report(
  `bow search, ${few.length} strokes`,
  own,
  'ngraph.path on the same graph',
  median(() => shortest(bowed2, LIFT), 3),
);
const many = makeScore('violin', 'A4 B4/0.5 C5/0.5 D5/1.5 E5/0.5 D5 C5 '.repeat(143), { tempo: 100 });
const manyRequest = {
  score: many.score,
  part: many.part,
  line: firstLine(many.part),
  player,
  clock: clockFor(many.part, null),
  marking: {},
};
report(
  'bow plan, 1,000 strokes',
  median(() => planBowing({ ...manyRequest, alternatives: 1 }), 3),
  'bare parse (300 bars)',
  bare,
);

const longLine = linesOf(part)[0]!;
const longRequest = { score, part, line: longLine, player, clock: clockFor(part, null), marking: {}, alternatives: 1 };
report(
  `bow plan, ${part.bars.length} bars, ${longLine.events.length} notes`,
  median(() => planBowing(longRequest), 5),
  'bare parse of the same XML',
  bare,
);
const within = { from: part.bars[100]!.onset, to: part.bars[132]!.onset };
const memory = newBowMemory();
planBowing(longRequest, memory);
const inside = part.notes.filter((note) => note.onset >= within.from && note.onset < within.to);
let change = 0;
report(
  'bow plan anew after one mark in a passage of 32 bars',
  median(() => {
    const note = inside[(change += 7) % inside.length]!;
    const marking = { [markKey(note.id, 'bow')]: { value: change % 2 ? 'up' : 'down', origin: 'coach' as const } };
    return planBowing({ ...longRequest, within, marking }, memory);
  }, 21),
  'the whole plan without memory',
  median(() => planBowing(longRequest), 5),
);

const passages = automaticPassages(part);
report(
  `whole check, ${part.bars.length} bars, ${linesOf(part).length} lines`,
  median(() => check({ part, marking: {}, player, tempo: null, passages }), 3),
  'bare parse of the same XML',
  bare,
);

let { memories } = checked({ part, marking: {}, player, tempo: null, passages });
let marked = 0;
report(
  'the check anew after one mark',
  median(() => {
    const note = part.notes[(marked += 37) % part.notes.length]!;
    const marking = { [markKey(note.id, marked % 2 ? 'bow' : 'finger')]: { value: marked % 2 ? 'up' : '2', origin: 'coach' as const } };
    const after = checked({ part, marking, player, tempo: null, passages }, memories);
    memories = after.memories;
    return after.report;
  }, 21),
  'the whole check without memory',
  median(() => check({ part, marking: {}, player, tempo: null, passages }), 3),
);

const widths = rows[0]!.map((_, column) => Math.max(...rows.map((row) => row[column]!.length)));
for (const row of rows) console.log(row.map((cell, i) => (i === 1 || i >= 3 ? cell.padStart(widths[i]!) : cell.padEnd(widths[i]!))).join('  '));
