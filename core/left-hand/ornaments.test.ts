import fc from 'fast-check';
import { THUMB } from '../instruments/player';
import { TRILL_NOTES_PER_S, trillCeiling, trillFingers, trillPlan, figureCeiling, figurePlan } from './ornaments';

const question = fc.record({
  seconds: fc.double({ min: 0.1, max: 8, noNaN: true }),
  notesPerS: fc.constantFrom(...Object.values(TRILL_NOTES_PER_S)),
  begins: fc.constantFrom<'main' | 'upper'>('main', 'upper'),
  ending: fc.boolean(),
});

describe('trills (common practice)', () => {
  test('from the main note with an ending: 5, 7 or 9 notes; from the upper note an even number', () => {
    const at = (seconds: number, begins: 'main' | 'upper') => trillPlan({ seconds, notesPerS: 10, begins, ending: true });
    expect([0.5, 0.6, 0.75, 0.99].map((seconds) => at(seconds, 'main').notes)).toEqual([5, 5, 7, 9]);
    expect([0.5, 0.6, 0.75, 0.99].map((seconds) => at(seconds, 'upper').notes)).toEqual([4, 6, 6, 8]);
    expect(at(1, 'main').written).toBe('mumumumlm');
    expect(at(0.6, 'upper').written).toBe('umumlm');
  });
  test('parity, beginning and end are right, and it fits in its time or says so', () => {
    fc.assert(
      fc.property(question, (asked) => {
        const plan = trillPlan(asked);
        expect(plan.notes % 2 === 1).toBe(asked.begins === 'main');
        expect(plan.written).toHaveLength(plan.notes);
        expect(plan.written[0]).toBe(asked.begins === 'main' ? 'm' : 'u');
        expect(plan.written.endsWith('lm')).toBe(asked.ending);
        expect(plan.written.endsWith('m')).toBe(true);
        expect(/mm|uu/.test(plan.written)).toBe(false);
        expect(plan.fits).toBe(plan.perS <= asked.notesPerS + 1e-6);
        if (plan.fits) expect(trillPlan({ ...asked, seconds: asked.seconds + 0.3 }).notes).toBeGreaterThanOrEqual(plan.notes);
      }),
    );
  });
  test('the ceiling is where it just fits', () => {
    fc.assert(
      fc.property(question, (asked) => {
        const ceiling = trillCeiling(100, asked);
        const at = (tempo: number) => trillPlan({ ...asked, seconds: (asked.seconds * 100) / tempo }).fits;
        expect(at(ceiling * 0.999)).toBe(true);
        expect(at(ceiling * 1.001)).toBe(false);
      }),
    );
  });
  test('built backwards from its last two notes', () => {
    expect(trillPlan({ seconds: 0.7, notesPerS: 10, begins: 'main', ending: true }).backwards).toEqual(['lm', 'mlm', 'umlm', 'mumlm', 'umumlm', 'mumumlm']);
  });
  test('fingers: neighbours, or 1-3 for a half step; none above the fourth', () => {
    expect(trillFingers(2, 2, 'neighbours')).toEqual({ main: 2, upper: 3 });
    expect(trillFingers(1, 1, '1-3')).toEqual({ main: 1, upper: 3 });
    expect(trillFingers(1, 2, '1-3')).toEqual({ main: 1, upper: 2 });
    expect(trillFingers(0, 1, 'neighbours')).toEqual({ main: 0, upper: 1 });
    expect(trillFingers(THUMB, 2, 'neighbours')).toEqual({ main: THUMB, upper: 1 });
    expect(trillFingers(4, 2, 'neighbours')).toBeNull();
  });
});

describe('turns and mordents', () => {
  test('a turn takes its time from the end of its note, which keeps at least a third', () => {
    expect(figurePlan('turn', 2, 10)).toEqual({ main: 1.6, figure: 0.4, needed: 0.4, fits: true });
    const short = figurePlan('turn', 0.3, 7);
    expect(short.fits).toBe(false);
    expect(short.main).toBeCloseTo(0.1, 9);
    expect(short.main + short.figure).toBeCloseTo(0.3, 9);
  });
  test('a mordent is half as long', () => expect(figurePlan('mordent', 1, 10).figure).toBeCloseTo(0.2, 9));
  test('the ceiling is where it just fits', () => {
    fc.assert(
      fc.property(fc.constantFrom('turn' as const, 'mordent' as const), fc.double({ min: 0.1, max: 4, noNaN: true }), (figure, seconds) => {
        const ceiling = figureCeiling(figure, 100, seconds, 7);
        const at = (tempo: number) => figurePlan(figure, (seconds * 100) / tempo, 7).fits;
        expect(at(ceiling * 0.999)).toBe(true);
        expect(at(ceiling * 1.001)).toBe(false);
      }),
    );
  });
});
