import fc from 'fast-check';
import { runs } from '../testing/runs';
import { makeScore, TICKS } from '../testing/make';
import { barAt, barsAt, placeAt, sayBar, sayBars, sayNote } from './address';
import { ticksOf } from './bars';
import { noteById } from './find';
import type { Part } from './score';

/** Forty bars of four quarters; E at bar 17, bar 12 with a rest before two eighths, bar 30 with a grace note and triplets. */
function part(): Part {
  const music = Array.from({ length: 40 }, (_, i) =>
    i === 11 ? 'A4 r/2 B4/0.5 C5/0.5' : i === 29 ? 'A4 B4/0.3333333 C5/0.3333333 D5/0.3333334 E5 F5' : 'A4 B4 C5 D5',
  ).join(' | ');
  const made = makeScore('violin', music).part;
  return { ...made, bars: made.bars.map((bar, i) => (i === 16 ? { ...bar, rehearsal: 'E' } : bar)) };
}
const PART = part();

describe('bars as people say them', () => {
  test.each([
    ['7', 6],
    ['bar 7', 6],
    ['E', 16],
    ['letter E', 16],
    ['e+2', 18],
    ['E-1', 15],
    ['two after E', 18],
    ['3 before E', 13],
    ['2nd of E', 17],
    ['second bar of E', 17],
    ['10+3', 12],
    ['-6', 34],
    ['six before the end', 34],
    ['the last bar', 39],
    ['-1', 39],
    ['#5', 4],
  ])('%s', (said, index) => expect(barAt(PART, said)).toEqual({ ok: true, value: index }));
  test.each(['41', 'Q', 'E+99', '-41', '', '9 after Q', '#0'])('"%s" is refused with a remedy', (said) => {
    const found = barAt(PART, said);
    expect(found.ok ? '' : found.problem.remedy).toContain('1 to 40');
  });
  test.each([
    ['5-12', 4, 11],
    ['bars 5–12', 4, 11],
    ['9', 8, 8],
    ['E-20', 16, 19],
    ['E-1', 15, 15],
    ['E – E+3', 16, 19],
    ['from 5 to the end', 4, 39],
  ])('the range %s', (said, fromBar, toBar) => expect(barsAt(PART, said)).toEqual({ ok: true, value: { fromBar, toBar } }));
  test('a range that ends before it begins is refused; ticks of one that does not', () => {
    expect(barsAt(PART, '12-5').ok).toBe(false);
    expect(ticksOf(PART, { fromBar: 4, toBar: 11 })).toEqual({ from: 16 * TICKS, to: 48 * TICKS });
  });
  test('labels that come twice are told apart', () => {
    const twice = { bars: PART.bars.map((bar, i) => ({ ...bar, label: i < 20 ? String(i + 1) : i === 39 ? '' : String(i - 19) })) };
    expect([sayBar(twice.bars, 4), sayBar(twice.bars, 24), sayBar(twice.bars, 39)]).toEqual(['5', '5 (2nd)', '#40']);
    twice.bars.forEach((_, i) => expect(barAt(twice, sayBar(twice.bars, i))).toEqual({ ok: true, value: i }));
    expect(barsAt(twice, sayBars(twice.bars, { fromBar: 24, toBar: 29 }))).toEqual({ ok: true, value: { fromBar: 24, toBar: 29 } });
  });
});

describe('notes as people say them', () => {
  const pitchAt = (said: string) => {
    const found = placeAt(PART, said);
    if (!found.ok) return found.problem.what;
    const { barIndex, tick, noteId } = found.value;
    const note = noteById(PART, noteId ?? '');
    return `${barIndex} ${tick === null ? '-' : tick / TICKS} ${note ? note.pitch.step : '-'}`;
  };
  test.each([
    ['12', '11 - -'],
    ['12/1', '11 0 A'],
    ['12/4.5', '11 3.5 C'],
    ['bar 12, beat 4', '11 3 B'],
    ['3rd beat of 12', '11 2 -'],
    ['E+2/3', '18 2 C'],
    ['30/2.33', `29 ${160 / 480 + 1} C`],
    ['upbeat to 31', '29 3 F'],
    ['upbeat to 13', '11 3 B'],
    ['last note of 12', '11 3.5 C'],
    ['the third note of 12', '11 3.5 C'],
    ['first note of E', '16 0 A'],
    ['12/5', 'Bar 12 has the beats 1 to 4.'],
    ['5th note of 12', 'Bar 12 has 3 notes.'],
    ['upbeat to 1', 'No note leads into this bar.'],
  ])('%s', (said, expected) => expect(pitchAt(said)).toBe(expected));
  test('an upbeat bar counts towards the bar line', () => {
    const { part: withPickup } = makeScore('cello', 'C3/0.5 D3/0.5 | E3 F3 G3 A3', { pickupQuarters: 1 });
    const found = placeAt(withPickup, '0/4.5');
    expect(found.ok && found.value.noteId).toBe(withPickup.notes[1]!.id);
    const upbeat = placeAt(withPickup, 'upbeat to 1');
    expect(upbeat.ok && upbeat.value.noteId).toBe(withPickup.notes[0]!.id);
  });
  test('what is printed is understood: every note of any part leads back to itself', () => {
    const length = fc.constantFrom('1', '0.5', '0.25', '0.3333333', '0.2', '1.5', '2');
    const event = fc.tuple(fc.constantFrom('A4', 'B4', 'C5', 'F#4', 'r'), length).map(([pitch, quarters]) => `${pitch}/${quarters}`);
    fc.assert(
      fc.property(fc.array(event, { minLength: 1, maxLength: 40 }), fc.constantFrom([4, 4], [3, 4], [6, 8], [7, 8]), (events, [beats, beatType]) => {
        const { part: made } = makeScore('violin', events.join(' '), { beats: beats!, beatType: beatType! });
        for (const note of made.notes) {
          const found = placeAt(made, sayNote(made, note));
          expect(found.ok && found.value.noteId).toBe(note.id);
        }
      }),
      { numRuns: runs(200) },
    );
  });
});
