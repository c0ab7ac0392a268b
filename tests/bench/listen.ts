/** npm run listen:bench: what is heard of takes that were made with known errors, next to what is promised. Other seeds than those that were tuned on. */
import { readFileSync } from 'node:fs';
import { readScoreBytes } from '../../core/formats/read';
import { linesOf } from '../../core/instruments/lines';
import { listen, type HeardTake } from '../../core/listening/listen';
import { slurLinks } from '../../core/marking/links';
import { clockFor } from '../../core/score/time';
import { synthTake, type SynthAsked, type SynthTake } from '../support/synth-take';

const ONLY = process.env.ONLY;
const PARTS = [
  ['mill-race-serenade', 0, 1, 24],
  ['mill-race-serenade', 3, 1, 24],
  ['mill-race-serenade', 4, 1, 24],
  ['low-tide', 0, 0, 15],
  ['the-heron', 0, 0, 15],
  ['staircase', 0, 0, 15],
  ['evening-barge', 0, 0, 15],
] as const;

const SEEDS = (process.env.SEEDS ?? '101,102,103').split(',').map(Number);

interface Compared {
  onset: number[];
  long: number[];
  short: number[];
  missed: number;
  other: number;
  notes: number;
}

function compared({ truth }: SynthTake, heard: HeardTake, tuning: number): Compared {
  const result: Compared = { onset: [], long: [], short: [], missed: 0, other: 0, notes: truth.length };
  for (const { event, onsetS, endS, cents } of truth) {
    const note = heard.notes[event]!;
    if (note.state === 'missed') result.missed++;
    if (note.state === 'another pitch') result.other++;
    if (note.onsetS !== null) result.onset.push(note.onsetS - onsetS);
    if (note.cents !== null) (endS - onsetS >= 0.2 ? result.long : result.short).push(note.cents + heard.tuning - tuning - cents);
  }
  return result;
}

const of = (values: readonly number[], share: number) =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * share))] ?? NaN;
const mean = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;
const within = (values: readonly number[], most: number) => values.filter((value) => Math.abs(value) <= most).length / values.length;

const all: Compared[] = [];
let cpu = 0;
let audio = 0;
for (const [name, index, fromBar, toBar] of PARTS) {
  if (ONLY && name !== ONLY) continue;
  const read = readScoreBytes(readFileSync(`demo/scores/${name}.musicxml`));
  if (!read.ok) throw new Error(read.problem.what);
  const part = read.value.score.parts[index]!;
  const line = linesOf(part)[0]!;
  const links = slurLinks(part, line);
  const chosen = line.events
    .map((event, i) => ({ event, slurred: links[i]! }))
    .filter(({ event }) => !event.grace && event.notes[0]!.barIndex >= fromBar && event.notes[0]!.barIndex <= toBar);
  const asked = { events: chosen.map(({ event }) => event), slurred: chosen.map(({ slurred }) => slurred), clock: clockFor(part, null) };
  const row: Compared[] = [];
  for (const seed of SEEDS) {
    const tuning = (seed % 7) * 4 - 12;
    const made: SynthAsked = { ...asked, seed: seed * 31 + index, pace: 0.8 + (seed % 5) * 0.08, tuning, snrDb: 18 + (seed % 3) * 6 };
    const take = synthTake(made);
    const began = performance.now();
    const heard = listen({ sound: { rate: take.rate, samples: take.samples, channels: 1 }, kind: part.instrument!, ...asked });
    cpu += performance.now() - began;
    audio += take.samples.length / take.rate;
    if (!heard.ok) {
      console.log(`${name} ${part.name}, seed ${seed}: ${heard.problem.what}`);
      continue;
    }
    row.push(compared(take, heard.value, tuning));
  }
  if (row.length === 0) continue;
  all.push(...row);
  report(`${name} ${part.name}`, row);
}
report('all', all);
console.log(`${audio.toFixed(0)} s of audio in ${(cpu / 1000).toFixed(1)} s: a minute in ${((60 * cpu) / 1000 / audio).toFixed(1)} s`);

function report(name: string, rows: readonly Compared[]): void {
  const onset = rows.flatMap((row) => row.onset);
  const [long, short] = [rows.flatMap((row) => row.long), rows.flatMap((row) => row.short)];
  const notes = rows.reduce((sum, row) => sum + row.notes, 0);
  const [missed, other] = [rows.reduce((sum, row) => sum + row.missed, 0), rows.reduce((sum, row) => sum + row.other, 0)];
  const abs = (values: readonly number[]) => values.map(Math.abs);
  console.log(
    `${name.padEnd(30)} notes ${notes}  within 50/100 ms ${(100 * within(onset, 0.05)).toFixed(0)}/${(100 * within(onset, 0.1)).toFixed(0)} %  onset ${(1000 * of(onset, 0.5)).toFixed(0)} ms  cents ≥ 200 ms ${mean(abs(long)).toFixed(1)} / 90 % ${of(abs(long), 0.9).toFixed(1)}  shorter ${mean(abs(short)).toFixed(1)}  missed ${missed}  other ${other}  untold ${notes - onset.length - missed}`,
  );
}
