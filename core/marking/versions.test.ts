import fc from 'fast-check';
import { ticksOfQuarters } from '../score/ticks';
import { placeTarget } from './target';
import { changesForward, markForward, markingForward, namesForward, resolutionBefore } from './versions';

test('the resolution of a document was the least common multiple of its divisions', () => {
  const said = (...divisions: number[]) => divisions.map((n) => `<attributes><divisions> ${n} </divisions></attributes>`).join('<note/>');
  expect([said(), said(480), said(2, 3), said(4, 6, 10)].map(resolutionBefore)).toEqual([1, 480, 6, 60]);
});

test('notes, places and hairpins of the first version stand where they stood', () => {
  expect(namesForward('n-P1-0-1-3-Fs4-0', 2)).toBe('n-0-1-3_2-Fs4-0');
  expect(namesForward('n-P1.b-12-2_x-0-Am14-1', 480)).toBe('n-12-2_x-0-Am14-1');
  expect(namesForward('at-4-720', 480)).toBe('at-4-3_2');
  expect(['bar-3', 'bars-3-5', 'the at-sign'].map((text) => namesForward(text, 480))).toEqual(['bar-3', 'bars-3-5', 'the at-sign']);
  expect(namesForward('lost [12/1 A4] n-P1-11-1-160-A4-0', 480)).toBe('lost [12/1 A4] n-11-1-1_3-A4-0');
  expect(namesForward('marked differently elsewhere n-P1-3-1-0-A4-0 n-P1-1-1-24-A4-0', 12)).toBe('marked differently elsewhere n-3-1-0-A4-0 n-1-1-2-A4-0');
  expect(markForward('hairpin', { value: 'crescendo 4 160' }, 480)).toEqual({ value: 'crescendo 4 1_3' });
  expect(markForward('words', { value: 'crescendo 4 160' }, 480)).toEqual({ value: 'crescendo 4 160' });
  const mark = (value: string) => ({ value, origin: 'coach' as const });
  expect(markingForward({ 'at-0-2|hairpin': mark('diminuendo 1 3'), 'n-P1-0-1-1-A4-0|finger': mark('3') }, 2)).toEqual({
    'at-0-1|hairpin': mark('diminuendo 1 3_2'),
    'n-0-1-1_2-A4-0|finger': mark('3'),
  });
  expect(changesForward([{ target: 'at-0-2', kind: 'hairpin', from: null, to: mark('diminuendo 1 3') }], 2)).toEqual([
    { target: 'at-0-1', kind: 'hairpin', from: null, to: mark('diminuendo 1 3_2') },
  ]);
});

test('whatever the resolution was, a place is the same fraction of a quarter', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 960 }), fc.nat(4000), fc.nat(99), (resolution, ticks, bar) => {
      expect(namesForward(`at-${bar}-${ticks}`, resolution)).toBe(placeTarget(bar, ticksOfQuarters(ticks / resolution)));
    }),
  );
});
