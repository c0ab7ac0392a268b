import type { Stroke } from '@/core/bow-arm/describe';
import { makeScore } from '@/core/testing/make';
import type { Engraving, System } from './engraving';
import { strokesBySystem } from './strokes-drawn';

/** Two bars in a system each, four quarters apart by 50 px. */
const { part } = makeScore('cello', 'C3/1 D3/1 E3/1 F3/1 | G3/1 A3/1 B3/1 C4/1');
const system = (bar: number): System =>
  ({
    svg: '',
    widthPx: 300,
    heads: Object.fromEntries(part.notes.filter(({ barIndex }) => barIndex === bar).map(({ id }, i) => [id, { x: 80 + i * 50, y: 0 }])),
    bars: [{ from: 60, to: 280 }],
  }) as unknown as System;
const engraving = { systems: [system(0), system(1)] } as unknown as Engraving;
const stroke = (from: number, to: number): Stroke =>
  ({ noteIds: part.notes.slice(from, to + 1).map(({ id }) => id), onset: part.notes[from]!.onset, from: 0.1, to: 0.9, strokes: 1 }) as unknown as Stroke;

test('a stroke within a system is drawn from its first head to the next', () => {
  const [first, second] = strokesBySystem(engraving, 0, part, [stroke(0, 1)]);
  expect(second).toEqual([]);
  expect(first![0]).toMatchObject({ from: 80, to: 180, begins: 0, ends: 1 });
});

test('one that goes over the end of a system ends at its edge, half way, and goes on from there', () => {
  const [first, second] = strokesBySystem(engraving, 0, part, [stroke(2, 5)]);
  expect(first![0]).toMatchObject({ from: 180, to: 290, begins: 0, ends: 0.5 });
  // From before the first head on, up to the head after its last note.
  expect(second![0]).toMatchObject({ from: 58, to: 180, begins: 0.5, ends: 1 });
});

test('the last one lasts as long as its note, within the bar', () => {
  const [, second] = strokesBySystem(engraving, 0, part, [stroke(7, 7)]);
  expect(second![0]).toMatchObject({ from: 230, to: 278, begins: 0, ends: 1 });
});

test('nothing is drawn before the part is known', () => expect(strokesBySystem(engraving, 0, null, [stroke(0, 1)])).toEqual([[], []]));
