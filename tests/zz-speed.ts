import { longPart } from './support/long-part';
import { readMusicXml } from '../core/formats/musicxml/read';
import { linesOf } from '../core/score/lines';
import { clockFor } from '../core/score/time';
import { usualPlayer } from '../core/instruments/player';
import { atomsOf } from '../core/bow-arm/atoms';
import { candidateSpans } from '../core/bow-arm/candidates';
import { cheapestBowing, newSearchMemory } from '../core/bow-arm/search';
import { refined } from '../core/bow-arm/refine';
import { BOW_COSTS } from '../core/bow-arm/tables';
import { newBowMemory, planBowing } from '../core/bow-arm/bowing';
const read = readMusicXml(longPart(300));
if (!read.ok) throw 1;
const { score } = read.value;
const part = score.parts[0]!;
const player = usualPlayer('violin');
const clock = clockFor(part, score.ticksPerQuarter, null);
const line = linesOf(part)[0]!;
const time = (what: string, f: () => unknown, n = 5) => {
  const t: number[] = [];
  for (let i = 0; i < n; i++) {
    const a = performance.now();
    f();
    t.push(performance.now() - a);
  }
  console.log(what, t.map((x) => x.toFixed(1)).join(' '));
};
time('atoms', () => atomsOf(part, line, clock, score.ticksPerQuarter, {}));
const atoms = atomsOf(part, line, clock, score.ticksPerQuarter, {});
console.log(atoms.length, 'atoms');
time('spans', () => candidateSpans(atoms, 'violin', BOW_COSTS, false));
const spans = candidateSpans(atoms, 'violin', BOW_COSTS, false);
console.log(spans.flat().length, 'spans');
time('search', () => cheapestBowing({ atoms, spansEndingAt: spans, hairCm: 65, costs: BOW_COSTS }));
const found = cheapestBowing({ atoms, spansEndingAt: spans, hairCm: 65, costs: BOW_COSTS });
time('refine', () => refined(found.strokes, atoms, 65, BOW_COSTS));
const request = { score, part, line, player, clock, marking: {}, alternatives: 1 };
time('plan', () => planBowing(request));
const memory = newBowMemory();
planBowing(request, memory);
let n = 0;
const ids = part.notes.map((x) => x.id);
time(
  'replan',
  () => {
    const id = ids[(n += 377) % ids.length]!;
    return planBowing({ ...request, marking: { [`${id}|bow`]: { value: n % 2 ? 'up' : 'down', origin: 'coach' } } }, memory);
  },
  12,
);
const within = { from: part.bars[100]!.onset, to: part.bars[132]!.onset };
time(
  'replan, 3 alternatives of 32 bars',
  () => {
    const id = ids[(n += 377) % ids.length]!;
    return planBowing({ ...request, alternatives: 3, within, marking: { [`${id}|bow`]: { value: n % 2 ? 'up' : 'down', origin: 'coach' } } }, memory);
  },
  12,
);
