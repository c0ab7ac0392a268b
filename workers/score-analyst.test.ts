/** A whole score compared, planned part by part, and made to bow together. */
import { demoScore } from '../tests/support/demo';
import { partDocument } from '../core/formats/musicxml/part-document';
import { NOTHING_TOLD } from '../core/instruments/as-told';
import type { PlayerDescription } from '../core/instruments/player';
import { applyChanges } from '../core/marking/change';
import type { Marking } from '../core/marking/mark';
import { ScoreAnalyst } from './score-analyst';
import type { ScoreMusic, ScoreShown } from './score-questions';

const { document, score } = demoScore('mill-race-serenade');
const music: ScoreMusic[] = score.parts.map(({ id, name }) => ({
  id,
  name,
  markingId: id,
  music: partDocument(document, id, score.timeLine),
  told: NOTHING_TOLD,
  tempo: null,
}));

async function planned(analyst: ScoreAnalyst, markings: Record<string, Marking>): Promise<ScoreShown> {
  let shown = analyst.mark(markings);
  for (let next = await analyst.planNext(); next; next = await analyst.planNext()) shown = next;
  return shown;
}

test('what is read is shown at once, planned part by part, with the tempo for all at the end', async () => {
  const analyst = new ScoreAnalyst();
  expect(analyst.open([...music, { ...music[0]!, id: 'torn', name: 'Torn', music: '<score' }], {})).toEqual({ unread: ['Torn'] });
  const first = analyst.mark({});
  expect(first.lanes.map(({ name, planned: is }) => [name, is])).toEqual(score.parts.map(({ name }) => [name, false]));
  expect(first.bars).toHaveLength(score.parts[0]!.bars.length);
  expect(first.tempo).toBeNull();
  const shown = await planned(analyst, {});
  expect(shown.lanes.every((lane) => lane.planned && lane.strokes.some(({ direction }) => direction !== null))).toBe(true);
  expect(shown.tempo!.all.text).toMatch(/tempo|together/);
  expect(await analyst.planNext()).toBeNull();
  // Every note is under one stroke, in order.
  for (const { strokes } of shown.lanes) strokes.slice(1).forEach(({ onset }, i) => expect(onset).toBeGreaterThanOrEqual(strokes[i]!.onset));
});

test('how a part fits one who sits in it, by the stretches of the score: as the part itself for a usual adult, less for a beginner', async () => {
  const analyst = new ScoreAnalyst();
  analyst.open(music, {});
  const { tempo } = await planned(analyst, {});
  const person: PlayerDescription = {
    name: 'Somebody',
    instrument: 'violin',
    size: '4/4',
    tuning: 'orchestral',
    hand: 'medium',
    level: 'advanced',
    thumbPosition: false,
  };
  const [adult, beginner] = [analyst.seatedIn('P1', person)!, analyst.seatedIn('P1', { ...person, level: 'beginner' })!];
  expect(adult.passages).toHaveLength(tempo!.sections.length);
  // The interval of all lies inside that of each.
  adult.passages.forEach(({ ceiling }, i) => expect(ceiling ?? Infinity).toBeGreaterThanOrEqual(tempo!.sections[i]!.tempo.ceiling ?? Infinity));
  expect(beginner.whole.ceiling ?? 0).toBeLessThan(adult.whole.ceiling ?? Infinity);
  // Violin I is divided in two: there is no third line.
  expect(analyst.seatedIn('P1', person, 7)).toEqual(analyst.seatedIn('P1', person, 1));
  expect(analyst.seatedIn('nobody', person)).toBeNull();
  expect(analyst.seatedIn('P1', { ...person, size: '9/9' })).toBeNull();
});

test('bows that are carried are played: no opposite bows are left in the group', async () => {
  const analyst = new ScoreAnalyst();
  analyst.open(music, {});
  const before = await planned(analyst, {});
  const opposite = before.groups.filter(({ agreement }) => agreement === 'opposite bows');
  expect(opposite.length).toBeGreaterThan(5);
  let mended = 0;
  for (const { id } of opposite.slice(0, 6)) {
    let markings: Record<string, Marking> = {};
    let shown = await planned(analyst, markings);
    const find = () => shown.groups.find((group) => group.id === id)!;
    // What is carried moves bows before and after it: a second time makes an end of what is left.
    for (let time = 0; time < 2 && find().differences.some(({ what }) => what === 'bow'); time++) {
      const group = find();
      for (const { partId, changes } of analyst.carried('bows', group, group.members[0]!, group.members)) {
        const made = applyChanges(markings[partId] ?? {}, changes);
        expect(made.conflicts).toEqual([]);
        markings = { ...markings, [partId]: made.marking };
      }
      shown = await planned(analyst, markings);
    }
    if (!find().differences.some(({ what }) => what === 'bow')) mended++;
  }
  expect(mended).toBeGreaterThanOrEqual(5);
}, 120_000);

test('winds are none of the strings, until the coach says so', () => {
  const flute = music[0]!.music.replace(/<part-name>[^<]*</, '<part-name>Flute<').replace(/<instrument-sound>[^<]*<\/instrument-sound>/g, '');
  const lanes = (told: ScoreMusic['told']) => {
    const analyst = new ScoreAnalyst();
    analyst.open([{ ...music[0]!, name: 'Flute', music: flute, told }, music[1]!], {});
    return analyst.mark({}).lanes.map(({ instrument }) => instrument);
  };
  expect(lanes(NOTHING_TOLD)).toEqual([null, 'violin']);
  expect(lanes({ ...NOTHING_TOLD, instrument: 'viola' })).toEqual(['viola', 'violin']);
});

test('marks that come meanwhile are planned, and nothing else is planned anew', async () => {
  const analyst = new ScoreAnalyst();
  analyst.open(music, {});
  await planned(analyst, {});
  const note = score.parts[1]!.notes[0]!.id;
  const shown = analyst.mark({ [score.parts[1]!.id]: { [`${note}|bow`]: { value: 'up', origin: 'coach' } } });
  expect(shown.lanes.map((lane) => lane.planned)).toEqual(score.parts.map((_, i) => i !== 1));
  expect(shown.lanes[1]!.strokes[0]).toMatchObject({ direction: 'up', written: true });
  const after = await analyst.planNext();
  expect(after!.lanes.every((lane) => lane.planned)).toBe(true);
});
