import fc from 'fast-check';
import type { FitCell, FitRow } from '../checks/fit';
import { seatInWords, sectionFit } from './section-fit';

const cell = (floor: number | null, ceiling: number | null, none: FitCell['none'] = null): FitCell => ({ floor, ceiling, none, worst: null, spots: 0 });
const row = (whole: FitCell, ...passages: FitCell[]): FitRow => ({ whole, passages });

test('two sit at a desk', () => {
  expect([0, 1, 2, 3].map(seatInWords)).toEqual(['desk 1, outside', 'desk 1, inside', 'desk 2, outside', 'desk 2, inside']);
});

test('who decides the tempo, and who leaves out what at the wanted one', () => {
  const { whole, passages, leavesOut, unknown, without } = sectionFit(
    [
      { name: 'Ines', row: row(cell(null, 120), cell(null, 140), cell(null, 120)) },
      { name: 'Nobody', row: null },
      { name: 'Tobi', row: row(cell(50, 63), cell(50, 100), cell(null, 63)) },
      { name: 'Pia', row: row(cell(null, null, 'unplayable'), cell(null, null), cell(null, null, 'unplayable')) },
    ],
    84,
  );
  expect(unknown).toEqual(['Nobody']);
  expect(whole).toMatchObject({ none: true, never: ['Pia'], ceilingBy: 'Tobi' });
  expect(passages.map(({ text }) => text)).toEqual(['All together from 50 on (Tobi), up to 100 (Tobi).', 'No common tempo: Pia cannot play it at any.']);
  expect(leavesOut).toEqual([
    { name: 'Tobi', seat: 'desk 2, outside', passages: [{ passage: 1, floor: null, ceiling: 63, none: false }] },
    { name: 'Pia', seat: 'desk 2, inside', passages: [{ passage: 1, floor: null, ceiling: null, none: true }] },
  ]);
  // What is left can be played together at the wanted tempo.
  expect(without).toMatchObject({ none: false, floor: 50, ceiling: 100, ceilingBy: 'Tobi' });
});

test('at the limit itself nobody leaves anything out', () => {
  const at = (wanted: number) => sectionFit([{ name: 'Tobi', row: row(cell(60, 80), cell(60, 80)) }], wanted).leavesOut.length;
  expect([59.9, 60, 80, 80.1].map(at)).toEqual([1, 0, 0, 1]);
});

test('with what is left out, the wanted tempo suits everybody; a passage is as its players allow', () => {
  const tempo = fc.integer({ min: 20, max: 240 });
  const cells = fc.record({ floor: fc.option(tempo), ceiling: fc.option(tempo), none: fc.constantFrom(null, 'unplayable' as const) });
  const rows = fc.array(fc.tuple(cells, cells, cells), { maxLength: 5 });
  fc.assert(
    fc.property(rows, tempo, (list, wanted) => {
      const seated = list.map(([whole, ...passages], i) => ({
        name: String(i),
        row: row(cell(whole.floor, whole.ceiling, whole.none), ...passages.map((each) => cell(each.floor, each.ceiling, each.none))),
      }));
      const { without, passages, leavesOut } = sectionFit(seated, wanted);
      expect([without.none, (without.floor ?? 0) <= wanted, (without.ceiling ?? Infinity) >= wanted]).toEqual([false, true, true]);
      passages.forEach((all, i) => {
        const leaving = leavesOut.some(({ passages: out }) => out.some(({ passage }) => passage === i));
        const together = !all.none && (all.floor ?? 0) <= wanted && (all.ceiling ?? Infinity) >= wanted;
        expect(leaving).toBe(!together);
      });
    }),
  );
});
