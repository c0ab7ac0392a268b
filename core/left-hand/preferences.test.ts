import { firstLine, makeScore, type MakeOptions } from '../testing/make';
import { clockFor } from '../score/time';
import { markKey } from '../marking/mark';
import type { InstrumentKind } from '../score/score';
import { usualPlayer } from '../instruments/player';
import { TERMS } from './costs';
import { planFingering, type Fingering } from './fingering';
import { handPreferencesShape, PRESETS, PRESET_TABLE, resolved, USUAL_PREFERENCES, weighable, WEIGHT_WORDS, type HandPreferences } from './preferences';

function best(kind: InstrumentKind, music: string, preferences: Partial<HandPreferences>, options: MakeOptions = {}): Fingering {
  const { score, part } = makeScore(kind, music, { length: 0.5, ...options });
  const request = { score, part, line: firstLine(part), player: usualPlayer(kind), clock: clockFor(part, null), marking: {} };
  return planFingering({ ...request, alternatives: 1, preferences: { ...USUAL_PREFERENCES, ...preferences } }).alternatives[0]!;
}
const opens = (way: Fingering) => way.notes.filter(({ place }) => place.finger === 0).length;
const highest = (way: Fingering) => Math.max(...way.notes.map(({ place }) => place.hand ?? 0));
const stringChanges = (way: Fingering) => way.notes.filter(({ place }, i) => i > 0 && place.string !== way.notes[i - 1]!.place.string).length;

const TUNE = 'A4 B4 C#5 D5 E5 F#5 G#5 A5 B5 A5 G#5 F#5 E5 D5 C#5 B4';

describe('presets', () => {
  test('a first-position class stays in first position where the notes are there, and goes on where they are not', () => {
    expect(highest(best('violin', TUNE, { preset: 'first position' }, { fifths: 3 }))).toBeLessThanOrEqual(2);
    const high = best('violin', `${TUNE} D6 E6`, { preset: 'first position' }, { fifths: 3 });
    expect(high.notes).toHaveLength(18);
    expect(high.terms.position).toBeGreaterThan(0);
  });
  test('a first-position class plays the low first finger by the nut, and does not move the hand for it', () => {
    const fingers = (way: Fingering) => way.notes.map(({ place }) => `${place.finger}${place.position?.[0]}`).join(' ');
    expect(fingers(best('violin', 'A3 G#3 A3 B3', { preset: 'first position' }, { length: 1 }))).toBe('1f 1f 1f 2f');
    const flats = best('violin', 'D4 Eb4 F4 G4 Eb4 D4', { preset: 'first position' }, { fifths: -3, length: 1 });
    expect(flats.notes.every(({ place }) => place.finger === 0 || place.finger === 1 || place.position === 'first')).toBe(true);
  });
  test('a singing line stays on its string and stops its notes', () => {
    const line = 'D5/2 E5/2 F5/2 E5/2 D5/2 C5/2';
    const [usual, singing] = [best('violin', line, {}), best('violin', line, { preset: 'singing' })];
    expect(stringChanges(singing)).toBeLessThanOrEqual(stringChanges(usual));
    expect(opens(singing)).toBe(0);
  });
  test('historical: lower than a singing line, with open strings', () => {
    const line = 'D5 E5 F5 G5 A5 G5 F5 E5 D5/2';
    const [old, singing] = [best('violin', line, { preset: 'historical' }), best('violin', line, { preset: 'singing' })];
    expect(highest(old)).toBeLessThanOrEqual(highest(singing));
    expect(opens(old)).toBeGreaterThanOrEqual(opens(singing));
  });
  test('orchestral: no more shifts than the usual way', () => {
    const run = 'G4 A4 B4 C5 D5 E5 F#5 G5 A5 B5 C6 D6 C6 B5 A5 G5';
    const shifts = (way: Fingering) => way.notes.filter((note) => note.shift).length;
    expect(shifts(best('violin', run, { preset: 'orchestral' }, { fifths: 1 }))).toBeLessThanOrEqual(shifts(best('violin', run, {}, { fifths: 1 })));
  });
  test('each has an aim in words', () => {
    for (const preset of PRESETS) expect(PRESET_TABLE[preset].aim.length).toBeGreaterThan(15);
  });
});

describe('schools', () => {
  test('open string or fourth finger is one setting', () => {
    expect(opens(best('violin', TUNE, { openStrings: 'stopped' }, { fifths: 3 }))).toBe(0);
    expect(opens(best('violin', 'G4 A4 B4 A4 G4', { openStrings: 'open' }, { fifths: 1, length: 2 }))).toBe(2);
  });
  test('hidden or heard: a shift goes to the change of bow, or one finger slides in the slur', () => {
    const way = (slides: HandPreferences['slides']) => best('violin', '(E5 A5) (F5 C5) (G5 D6)', { slides }, { length: 2, tempo: 72 }).notes;
    const inSlurs = (notes: Fingering['notes']) => notes.filter(({ shift }, i) => shift && i % 2 === 1);
    expect(inSlurs(way('hidden'))).toEqual([]);
    const [slide] = inSlurs(way('wanted'));
    expect(slide!.shift!.kind).toBe('same finger');
  });
  test('stay or go: an orchestral player stays where a soloist moves', () => {
    const shifts = (preset: HandPreferences['preset']) =>
      best('cello', '(G3 D4) (E4 B3) A3', { preset }, { length: 2, tempo: 60 }).notes.filter(({ shift }) => shift).length;
    expect([shifts('singing'), shifts('orchestral')]).toEqual([1, 0]);
  });
  test('slides that are wanted make a shift in a slur cheaper', () => {
    const heard = resolved({ ...USUAL_PREFERENCES, slides: 'wanted' }).costs.shiftInSlur;
    expect(heard).toBeLessThan(resolved().costs.shiftInSlur);
  });
});

test('what presets and schools come to: the position that is kept, and what an open string costs more or less', () => {
  const of = (preferences: Partial<HandPreferences>) => resolved({ ...USUAL_PREFERENCES, ...preferences });
  expect([of({}).stayBelow, of({ preset: 'first position' }).stayBelow]).toEqual([null, 2]);
  const biases = [of({}), of({ preset: 'first position' }), of({ openStrings: 'open' }), of({ openStrings: 'stopped' })].map(({ openBias }) => openBias);
  expect(biases).toEqual([0, -0.1, -0.4, 1.2]);
});

test.each([
  ['usual', {}],
  ['first position', {}],
  ['orchestral', { shift: 2, 'long shift': 2, landing: 1.5, height: 1.5, harmonic: 2, crossing: 0.8, thumb: 1.5 }],
  ['singing', { shift: 0.75, 'long shift': 0.75, crossing: 3.5, leap: 1.5, 'weak finger': 2, 'long fourth finger': 2, height: 0.7, harmonic: 1.5 }],
  ['historical', { shift: 1.4, 'long shift': 1.4, height: 4, start: 3, harmonic: 3, crossing: 0.6, thumb: 2 }],
] as const)('%s: what counts more and less', (preset, expected) => {
  const { weights } = resolved({ ...USUAL_PREFERENCES, preset });
  expect(Object.fromEntries(TERMS.flatMap((term, i) => (weights[i] === 1 ? [] : [[term, weights[i]]])))).toEqual(expected);
});

test.each([
  ['in first position nothing', 'B1', '1', undefined],
  ['half position a little', 'C2', '4', 0.6],
  ['above it much, and more with every half step', 'D2', '1', 2.9],
] as const)('first position: %s', (_, pitch, finger, expected) => {
  const { score, part } = makeScore('bass', `${pitch}/1`);
  const [note] = part.notes;
  const marking = {
    [markKey(note!.id, 'finger')]: { value: finger, origin: 'coach' as const },
    [markKey(note!.id, 'string')]: { value: '3', origin: 'coach' as const },
  };
  const request = { score, part, line: firstLine(part), player: usualPlayer('bass'), clock: clockFor(part, null), marking, alternatives: 1 };
  const way = planFingering({ ...request, preferences: { ...USUAL_PREFERENCES, preset: 'first position' } }).alternatives[0]!;
  expect(way.terms.position).toBe(expected);
});

describe('weights', () => {
  test("the coach's own weight stands over the preset's", () => {
    const weight = (preferences: Partial<HandPreferences>) => resolved({ ...USUAL_PREFERENCES, ...preferences }).weights[TERMS.indexOf('crossing')];
    expect([weight({}), weight({ preset: 'singing' }), weight({ preset: 'singing', weights: { crossing: 0.5 } })]).toEqual([1, 3.5, 0.5]);
  });
  test('shifts weighed ten times as much are made less often', () => {
    const run = 'G4 A4 B4 C5 D5 E5 F#5 G5 A5 B5 C6 D6 C6 B5 A5 G5';
    const mm = (way: Fingering) => way.notes.reduce((sum, note) => sum + (note.shift?.mm ?? 0), 0);
    expect(mm(best('violin', run, { weights: { shift: 10, 'long shift': 10 } }, { fifths: 1 }))).toBeLessThanOrEqual(
      mm(best('violin', run, {}, { fifths: 1 })),
    );
  });
  test('every weight can be said in words, the thumb only where there is one; nonsense is refused', () => {
    for (const [term] of WEIGHT_WORDS) expect(TERMS).toContain(term);
    expect(weighable('violin').length).toBe(weighable('cello').length - 1);
    expect(handPreferencesShape.safeParse({ ...USUAL_PREFERENCES, weights: { shift: -3 } }).success).toBe(false);
    expect(handPreferencesShape.safeParse({ ...USUAL_PREFERENCES, preset: 'magic' }).success).toBe(false);
  });
});
