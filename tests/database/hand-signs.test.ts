/** What a reader sees of the hand's work on the stand: fewer fingers, shift lines with guide notes; against the plan itself. */
import { readFileSync } from 'node:fs';
import { NOTHING_TOLD } from '../../core/instruments/as-told';
import { linesOf } from '../../core/instruments/lines';
import { usualPlayer } from '../../core/instruments/player';
import { planFingering } from '../../core/left-hand/fingering';
import { partDocument } from '../../core/formats/musicxml/part-document';
import { readScoreBytes } from '../../core/formats/read';
import { markKey, type Marking } from '../../core/marking/mark';
import { clockFor } from '../../core/score/time';
import { inWorker, OURSELVES, stopWorkers } from '../../server/workers';

afterAll(stopWorkers);

test('all fingers, those one would think about, those where the hand moves; shifts as they are planned, with the pitch that finger and position give', async () => {
  const read = readScoreBytes(readFileSync('demo/scores/the-heron.musicxml'));
  if (!read.ok) throw new Error(read.problem.what);
  const part = read.value.score.parts[0]!;
  const player = usualPlayer(part.instrument!);
  const way = planFingering({ part, line: linesOf(part)[0]!, marking: {}, player, clock: clockFor(part, null), alternatives: 1 }).alternatives[0]!;
  // Every finger of the plan is written down.
  const marking: Marking = Object.fromEntries(
    way.notes.map(({ id, place }) => [markKey(id, 'finger'), { value: place.finger === 5 ? 'T' : String(place.finger), origin: 'coach' as const }]),
  );
  const music = partDocument(read.value.document, part.id, read.value.score.timeLine);
  const asked = { music, marking, told: NOTHING_TOLD, tempo: null, line: null, widthPx: 900 };
  const fingersIn = (systems: Array<{ svg: string }>) => systems.reduce((sum, { svg }) => sum + (svg.match(/class="fing"/g)?.length ?? 0), 0);
  const draw = (fingers: 'every note' | 'usual' | 'sparse', shifts = false) =>
    inWorker('engraveStand', { ...asked, hand: { fingers, shifts, player: null } }, OURSELVES);
  const [plain, all, usual, sparse] = await Promise.all([inWorker('engraveStand', asked, OURSELVES), draw('every note', true), draw('usual'), draw('sparse')]);
  expect(fingersIn(all.systems)).toBe(fingersIn(plain.systems));
  expect(fingersIn(usual.systems)).toBeLessThan(fingersIn(all.systems));
  expect(fingersIn(sparse.systems)).toBeLessThan(fingersIn(usual.systems));
  expect(fingersIn(sparse.systems)).toBeGreaterThanOrEqual(way.notes.filter(({ shift }) => shift).length);
  expect([plain.shifts, usual.shifts]).toEqual([[], []]);
  const planned = way.notes.flatMap(({ id, shift }, i) => (shift && i > 0 && shift.heard !== 'in a rest' ? [[way.notes[i - 1]!.id, id]] : []));
  expect(planned.length).toBeGreaterThan(3);
  expect(all.shifts.map(({ from, to }) => [from, to])).toEqual(planned);
  for (const { to, guide } of all.shifts) {
    const { shift } = way.notes.find(({ id }) => id === to)!;
    expect(guide === null).toBe(shift!.guide === null);
    if (guide) expect(guide).toMatch(/^[A-G][#b♯♭]*-?\d$/);
  }
});
