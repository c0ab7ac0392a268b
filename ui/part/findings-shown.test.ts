import { findingKey, type Finding } from '@/core/checks/finding';
import { FINDING_KINDS, type FindingKind } from '@/core/checks/kinds';
import { acceptedNow, EVERYTHING, grouped, listed, parted, passes, sideOf, SIDES } from './findings-shown';

const finding = (kind: FindingKind, severity: Finding['severity'] = 1, numbers: Record<string, number> = { load: 1.2 }) =>
  ({
    id: `${kind} n1`,
    kind,
    bar: '3',
    barIndex: 2,
    beat: 1,
    noteIds: ['n1'],
    severity,
    numbers,
    text: '',
    hearIt: null,
    remedies: [],
  }) as unknown as Finding;

test('every kind belongs to one side', () => {
  for (const kind of FINDING_KINDS) expect(SIDES.slice(1)).toContain(sideOf(kind));
  expect([sideOf('shift late'), sideOf('retake late'), sideOf('reading trap')]).toEqual(['left hand', 'bow', 'music']);
});

test('filters work together', () => {
  const late = finding('shift late', 2);
  expect(passes(late, EVERYTHING)).toBe(true);
  expect(passes(late, { ...EVERYTHING, from: 3 })).toBe(false);
  expect(passes(late, { ...EVERYTHING, side: 'bow' })).toBe(false);
  expect(passes(late, { ...EVERYTHING, side: 'left hand', kind: 'shift late', from: 2 })).toBe(true);
  expect(passes(late, { ...EVERYTHING, side: 'left hand', kind: 'reach' })).toBe(false);
});

test('accepted is quiet while all it depends on is the same, and told again as soon as a number changes', () => {
  const late = finding('shift late');
  const accepted = [{ id: late.id, key: findingKey(late), why: 'she plays it' }];
  expect(acceptedNow(late, accepted)?.why).toBe('she plays it');
  expect(acceptedNow(finding('shift late', 1, { load: 1.3 }), accepted)).toBeNull();
  expect(acceptedNow(finding('reach'), accepted)).toBeNull();
  const { open, quiet } = parted([late, finding('reach')], accepted);
  expect([open.map(({ kind }) => kind), quiet.map(({ why }) => why)]).toEqual([['reach'], ['she plays it']]);
});

test('in bar order, or the worst first', () => {
  const [mild, bad, quiet] = [finding('shift late', 1), finding('reach', 3), finding('reading trap', 1)];
  expect(listed([mild, bad, quiet], EVERYTHING)).toEqual([mild, bad, quiet]);
  expect(listed([mild, bad, quiet], { ...EVERYTHING, order: 'worst first' })).toEqual([bad, mild, quiet]);
  expect(listed([mild, bad, quiet], { ...EVERYTHING, order: 'worst first', side: 'left hand' })).toEqual([bad, mild]);
});

test('the same words of several places are one finding with its places', () => {
  const at = (id: string, text: string, severity: Finding['severity'] = 1) => ({ ...finding('shift late', severity), id, text });
  const [a, b, c, d] = [at('a', 'Shift of 40 mm'), at('b', 'Shift of 50 mm'), at('c', 'Shift of 40 mm'), at('d', 'Shift of 40 mm', 2)];
  expect(grouped([a, b, c, d]).map(({ first, all }) => [first.id, all.map(({ id }) => id)])).toEqual([
    ['a', ['a', 'c']],
    ['b', ['b']],
    ['d', ['d']],
  ]);
});
