/**
 * npm run fuzz: many damaged files of every kind that can be brought in. Each one must be read or refused with a remedy,
 * in bounded time and memory. Prints what came of them; ends with 1 when one was neither. FUZZ_CASES sets how many.
 */
import fc from 'fast-check';
import { newContainer } from '../../core/formats/raw/container';
import { readScoreBytes } from '../../core/formats/read';
import { cutPassage } from '../../core/formats/musicxml/cut';
import { writeMarked } from '../../core/formats/musicxml/write';
import { linesOf } from '../../core/instruments/lines';
import { playedOrder } from '../../core/score/played';
import { damage, damaged, typedNonsense } from '../support/damage';
import { EVERYTHING, EVERYTHING_TIMEWISE } from '../support/everything';

const CASES = Number(process.env.FUZZ_CASES ?? 12_000);
const encode = (text: string) => new TextEncoder().encode(text);

const bytes = (source: Uint8Array) =>
  fc.array(fc.tuple(fc.nat(source.length - 1), fc.integer({ min: 0, max: 255 })), { minLength: 1, maxLength: 20 }).map((changes) => {
    const changed = source.slice();
    for (const [at, value] of changes) changed[at] = value;
    return changed;
  });
const text = (source: string) => damage(source.length).map((steps) => encode(damaged(source, steps)));
const utf16 = (source: string) => text(source).map((changed) => Uint8Array.from([0xff, 0xfe, ...Array.from(changed).flatMap((byte) => [byte, 0])]));
const typed = typedNonsense.map(encode);

const KINDS: ReadonlyArray<[name: string, inputs: fc.Arbitrary<Uint8Array>, share: number]> = [
  ['MusicXML, damaged structure', text(EVERYTHING), 0.3],
  ['MusicXML timewise, damaged structure', text(EVERYTHING_TIMEWISE), 0.1],
  ['MusicXML, damaged bytes', bytes(encode(EVERYTHING)), 0.15],
  ['MusicXML in UTF-16, damaged', utf16(EVERYTHING), 0.05],
  ['.mxl, damaged bytes', bytes(newContainer(encode(EVERYTHING))), 0.2],
  ['.mxl around damaged MusicXML', text(EVERYTHING).map((inside) => newContainer(inside)), 0.05],
  ['ABC', typed, 0.1],
  ['any bytes', fc.uint8Array({ maxLength: 400 }), 0.05],
];

let failures = 0;
const rows = [['kind', 'cases', 'read', 'refused', 'median ms', 'slowest ms']];
for (const [name, inputs, share] of KINDS) {
  const runs = Math.round(CASES * share);
  const times: number[] = [];
  let read = 0;
  for (const input of fc.sample(inputs, { numRuns: runs, seed: 20_261_125 })) {
    const start = performance.now();
    try {
      const result = readScoreBytes(input);
      if (!result.ok) {
        if (!result.problem.what || !result.problem.remedy) throw new Error('refused without a reason or a remedy');
      } else {
        read++;
        const { document, score } = result.value;
        for (const part of score.parts) {
          if (part.notes.length === 0) continue;
          linesOf(part);
          playedOrder(part.bars);
          cutPassage(document, part, {}, { fromBar: 0, toBar: part.bars.length - 1 });
          if (writeMarked(document, part, {}) !== document.text) throw new Error('writing nothing changed the file');
        }
      }
    } catch (error) {
      failures++;
      console.error(`${name}: ${(error as Error).stack}`);
    }
    times.push(performance.now() - start);
  }
  times.sort((a, b) => a - b);
  rows.push([name, String(runs), String(read), String(runs - read), (times[times.length >> 1] ?? 0).toFixed(1), (times.at(-1) ?? 0).toFixed(0)]);
}
for (const row of rows) console.log(row.map((cell, i) => (i === 0 ? cell.padEnd(38) : cell.padStart(11))).join(''));
console.log(`${failures} neither read nor refused; ${Math.round(process.memoryUsage().rss / 1048576)} MB at the end`);
if (failures) process.exit(1);
