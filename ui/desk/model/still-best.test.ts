import { sparedElsewhere } from './still-best';

const spot = (kind: 'shift late' | 'reach', barIndex: number) => ({ kind, barIndex, bar: String(barIndex + 1), noteIds: ['n'] });
const way = (aim: string, more: string[], ...spots: Array<ReturnType<typeof spot>>) => ({ way: { aim }, more, outlook: { spots } });

test('each spot that another way spares, once a bar, with the next best way that spares it and its price', () => {
  const best = way('best', [], spot('shift late', 1), spot('shift late', 1), spot('reach', 2), spot('reach', 3));
  const second = way('stay low', ['crossings'], spot('shift late', 1), spot('reach', 3));
  const third = way('fewest shifts', ['reach'], spot('reach', 3));
  expect(sparedElsewhere([best, second, third]).map(({ finding, aim, more }) => [finding.kind, finding.bar, aim, ...more])).toEqual([
    ['shift late', '2', 'fewest shifts', 'reach'],
    ['reach', '3', 'stay low', 'crossings'],
  ]);
  expect(sparedElsewhere([best])).toEqual([]);
  expect(sparedElsewhere([])).toEqual([]);
});
