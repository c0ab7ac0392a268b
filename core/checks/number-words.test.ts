import type { Finding } from './finding';
import { numbersInWords } from './number-words';

const said = (kind: Finding['kind'], numbers: object) => numbersInWords({ kind, numbers } as Finding);

test.each<[Finding['kind'], object, Array<[string, string]>]>([
  [
    'shift late',
    { mm: 103.4, load: 1.42, heard: 'in a slur' },
    [
      ['distance', '103.4 mm'],
      ['asked for against managed', '142 %'],
      ['where it happens', 'in a slur'],
    ],
  ],
  [
    'out-of-tune risk',
    { chance: 0.344, 'shift cents': 12.3 },
    [
      ['chance of being too far off', '34 %'],
      ['of it from: shift', '12.3 cents'],
    ],
  ],
  // A name may mean something else in another finding.
  ['reach', { mm: 90 }, [['span', '90 mm']]],
  ['wish not met', { from: 0.256 }, [['begins, from the frog', '26 %']]],
  ['colour break', { from: 'D' }, [['from', 'D']]],
  ['string leap in a slur', { strings: 2 }, [['strings apart', '2']]],
])('%s: %j', (kind, numbers, words) => expect(said(kind, numbers)).toEqual(words));
