/**
 * npm run bench:score: a whole score side by side, as the browser's worker works it out: until it is shown, until all string parts are bowed,
 * until the tempo for all is known; and what a mark in one part costs beside the check of that part. Medians of three runs.
 */
import { loadavg } from 'node:os';
import { partDocument } from '../../core/formats/musicxml/part-document';
import { readScoreBytes } from '../../core/formats/read';
import { NOTHING_TOLD } from '../../core/instruments/as-told';
import { markKey, type Marking } from '../../core/marking/mark';
import { ScoreAnalyst } from '../../workers/score-analyst';
import type { ScoreMusic } from '../../workers/score-questions';
import { demoText } from '../support/demo';
import { realScores } from '../support/real-scores';

/** Every part's bars again and again, as many as asked. */
function lengthened(text: string, bars: number): string {
  return text.replace(/(<part id="[^"]*">)([\s\S]*?)(<\/part>)/g, (_, open: string, content: string, close: string) => {
    const measures = content.match(/<measure[\s\S]*?<\/measure>/g)!;
    const all = Array.from({ length: bars }, (_each, i) => measures[i % measures.length]!.replace(/number="[^"]*"/, `number="${i + 1}"`));
    return open + all.join('\n') + close;
  });
}

/** The parts again under other names, as many as asked. */
function multiplied(music: readonly ScoreMusic[], count: number): ScoreMusic[] {
  return Array.from({ length: count }, (_, i) => {
    const own = music[i % music.length]!;
    return { ...own, id: `${own.id} ${i}`, name: `${own.name} ${Math.floor(i / music.length) + 1}` };
  });
}

function musicOf(text: string): ScoreMusic[] {
  const read = readScoreBytes(Buffer.from(text));
  if (!read.ok) throw new Error(read.problem.what);
  const { document, score } = read.value;
  return score.parts.map(({ id, name }) => ({ id, name, markingId: id, music: partDocument(document, id, score.timeLine), told: NOTHING_TOLD, tempo: null }));
}

const timed = async (work: () => unknown): Promise<number> => {
  const start = performance.now();
  await work();
  return performance.now() - start;
};
const median = (times: number[]): number => times.sort((a, b) => a - b)[times.length >> 1]!;

/** @param most string parts that are bowed: of a very large score the first ones tell enough */
async function measured(music: readonly ScoreMusic[], most: number): Promise<{ shown: number; bowed: number; tempo: number; mark: number }> {
  const analyst = new ScoreAnalyst();
  const shown = await timed(() => {
    analyst.open(music, {});
    analyst.mark({});
  });
  let bowed = shown;
  let last = analyst.mark({});
  const strings = Math.min(most, last.lanes.filter(({ instrument }) => instrument !== null).length);
  for (let i = 0; i < strings; i++) bowed += await timed(async () => (last = (await analyst.planNext())!));
  let tempo = bowed;
  // The tempi come once all parts are bowed.
  for (let i = 0; i < strings && strings < most; i++) tempo += await timed(async () => (last = (await analyst.planNext())!));
  // A bow is marked in one part: what is compared and shown anew, twice, before and after its check.
  const lane = last.lanes.find(({ instrument, strokes }) => instrument !== null && strokes.length > 3)!;
  const marks: number[] = [];
  for (let i = 0; i < 5; i++) {
    const marking: Marking = { [markKey(`n-${i}-1-0-A4-0`, 'bow')]: { value: i % 2 ? 'up' : 'down', origin: 'coach' } };
    marks.push(2 * (await timed(() => analyst.mark({ [lane.partId]: marking }))));
  }
  return { shown, bowed, tempo, mark: median(marks) };
}

const [, bytes] = realScores(/^ActorPreludeSample\.xml$/)[0]!;
const actor = new TextDecoder().decode(bytes);
const serenade = demoText('mill-race-serenade');
const SCORES: ReadonlyArray<[what: string, music: () => ScoreMusic[], runs: number]> = [
  ['the demo, 5 parts, 129 bars', () => musicOf(serenade), 3],
  ['a real score, 22 parts, 41 bars', () => musicOf(actor), 3],
  ['the same lengthened, 22 parts, 100 bars', () => musicOf(lengthened(actor, 100)), 3],
  ['40 parts, 1,000 bars', () => multiplied(musicOf(lengthened(serenade, 1_000)), 40), 1],
];

console.log(`busy: ${loadavg()[0]!.toFixed(1)} processes on average in the last minute`);
for (const [what, make, runs] of SCORES) {
  if (process.argv[2] && !what.includes(process.argv[2])) continue;
  const music = make();
  const all: Array<Awaited<ReturnType<typeof measured>>> = [];
  for (let run = 0; run < runs; run++) all.push(await measured(music, what.startsWith('40') ? 3 : 1_000));
  const of = (name: keyof (typeof all)[number]) => `${median(all.map((each) => each[name])).toFixed(0)} ms`;
  console.log(`${what}: shown after ${of('shown')}, bowed ${of('bowed')}, tempo for all ${of('tempo')}; a mark costs ${of('mark')} more than its own check`);
}
