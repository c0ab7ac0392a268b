import { demoScore, demoText } from '../../tests/support/demo';
import { readMusicXml } from '../formats/musicxml/read';
import { writeMarked } from '../formats/musicxml/write';
import { markKey, type Marking } from './mark';
import { BOW_WISH_KINDS, valueProblem } from './kinds';
import { bowPlace, BOW_ZONES, ZONES } from './values';
import { barsTarget, barTarget } from './target';
import { wishesFor, wishInWords } from './wishes';

const coach = (value: string) => ({ value, origin: 'coach' as const });

describe('places of the bow', () => {
  test('by name and by percent from the frog; nonsense is none', () => {
    expect(bowPlace('63 %')).toEqual({ from: 0.63, to: 0.63 });
    expect(bowPlace('frog')).toEqual(ZONES.frog);
    for (const wrong of ['whole bow', '101 %', '5', '', 'heel']) expect(bowPlace(wrong)).toBeNull();
  });
  test('zones lie on the bow, from the frog to the tip', () => {
    for (const zone of BOW_ZONES) expect(ZONES[zone].from >= 0 && ZONES[zone].from < ZONES[zone].to && ZONES[zone].to <= 1).toBe(true);
    expect(ZONES['lower half'].to).toBe(ZONES['upper half'].from);
  });
  test('what a wish may say', () => {
    expect([valueProblem('bow-amount', '12.5 cm'), valueProblem('bow-to', '80 %'), valueProblem('unequal', '2:1'), valueProblem('slur-is', 'phrase')]).toEqual([
      null,
      null,
      null,
      null,
    ]);
    expect(valueProblem('bow-amount', '0 cm')).toContain('12 cm');
    expect(valueProblem('bow-from', 'whole bow')).toContain('frog');
    expect(valueProblem('bow-zone', 'heel')).toContain('balance');
  });
});

describe('which wish counts', () => {
  const marking: Marking = {
    [markKey(barsTarget({ fromBar: 0, toBar: 9 }), 'bow-zone')]: coach('upper half'),
    [markKey(barsTarget({ fromBar: 2, toBar: 4 }), 'bow-zone')]: coach('middle'),
    [markKey(barTarget(3), 'bow-zone')]: coach('balance'),
    [markKey('n-1', 'bow-zone')]: coach('tip'),
    [markKey(barsTarget({ fromBar: 0, toBar: 9 }), 'bow-from')]: coach('frog'),
    [markKey('n-2', 'stroke')]: { ...coach('martelé'), off: true },
  };
  const zone = (id: string, barIndex: number) => wishesFor(marking)([id], barIndex)['bow-zone'];
  test('the note’s, else the bar’s, else that of the shortest run of bars', () => {
    expect([zone('n-1', 3), zone('n-9', 3), zone('n-9', 2), zone('n-9', 7), zone('n-9', 10)]).toEqual(['tip', 'balance', 'middle', 'upper half', undefined]);
  });
  test('where a stroke begins is only said of a note; what is set aside does not count', () => {
    expect(wishesFor(marking)(['n-9'], 1)['bow-from']).toBeUndefined();
    expect(wishesFor(marking)(['n-2'], 12)).toEqual({});
  });
});

test('wishes stand in the file as words that players know; of a slur nothing is said', () => {
  const read = readMusicXml(demoText('staircase'));
  if (!read.ok) throw new Error(read.problem.what);
  const part = demoScore('staircase').score.parts[0]!;
  const [first, second] = part.notes as [(typeof part.notes)[number], (typeof part.notes)[number]];
  const out = writeMarked(read.value.document, part, {
    [markKey(first.id, 'bow-zone')]: coach('frog'),
    [markKey(first.id, 'bow-amount')]: coach('little'),
    [markKey(second.id, 'slur-is')]: coach('phrase'),
    [markKey(barsTarget({ fromBar: 1, toBar: 2 }), 'sound-school')]: coach('held'),
    [markKey(second.id, 'bow-to')]: { ...coach('tip'), off: true },
  });
  expect(out).toContain('<words>at the frog, little bow</words>');
  expect(out).toContain('<words>held tone</words>');
  expect(out).not.toContain('to the tip');
  const again = readMusicXml(out);
  expect(again.ok && again.value.score.parts[0]!.notes.map((note) => note.id)).toEqual(part.notes.map((note) => note.id));
  for (const kind of BOW_WISH_KINDS) expect(wishInWords(kind, kind === 'unequal' ? '2:1' : 'tip') === null).toBe(kind === 'slur-is');
});
