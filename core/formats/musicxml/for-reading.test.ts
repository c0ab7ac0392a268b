import { readMusicXml } from './read';
import { cutPassage } from './cut';
import { writeMarked } from './write';
import { markKey, type Mark } from '../../marking/mark';
import type { MarkKind } from '../../marking/kinds';

const note = (step: string, inside = '') =>
  `<note><pitch><step>${step}</step><octave>4</octave></pitch><duration>1</duration><type>quarter</type>${inside}</note>`;
const SCORE = `<score-partwise version="4.0"><part-list><score-part id="P1"><part-name>Violin</part-name></score-part></part-list><part id="P1"><measure number="1"><attributes><divisions>1</divisions><time><beats>4</beats><beat-type>4</beat-type></time><clef><sign>G</sign><line>2</line></clef></attributes>${note('G')}${note('A', '<notations><technical><fingering>1</fingering></technical></notations>')}${note('B')}${note('C')}</measure></part></score-partwise>`;

const read = readMusicXml(SCORE);
if (!read.ok) throw new Error(read.problem.what);
const { document, score } = read.value;
const part = score.parts[0]!;
const [g, a, b, c] = part.notes.map(({ id }) => id) as [string, string, string, string];

const marks = (...list: Array<[id: string, kind: MarkKind, value: string]>): Record<string, Mark> =>
  Object.fromEntries(list.map(([id, kind, value]) => [markKey(id, kind), { value, origin: 'coach' as const }]));
/** What stands in each note as it is engraved: its notations without white space and tags that only group. */
function engraved(marking: Record<string, Mark>): string[] {
  const text = cutPassage(document, part, marking, { fromBar: 0, toBar: 0 });
  return [...text.matchAll(/<note\b[\s\S]*?<\/note>/g)].map(([each]) =>
    (/<notations>([\s\S]*)<\/notations>/.exec(each)?.[1] ?? '').replace(/<\/?(technical|articulations|notations)>|\s*\n\s*/g, ''),
  );
}
const fing = (text: string) => `<fingering>${text}</fingering>`;

test('a retake: a comma after the note before; before the first note there is none', () => {
  expect(engraved(marks([b, 'retake', 'yes']))).toEqual(['', `${fing('1')}<breath-mark>comma</breath-mark>`, '', '']);
  expect(engraved(marks([g, 'retake', 'yes']))).toEqual(['', fing('1'), '', '']);
  expect(engraved(marks([b, 'retake', 'yes'], [a, 'articulation:breath', 'yes']))[1]).toBe(`${fing('1')}<breath-mark/>`);
});

test('a hook: a slur over both notes and a dash at the second; the file keeps its own words', () => {
  const hook = marks([b, 'hook', 'yes'], [b, 'bow', 'down']);
  expect(engraved(hook)).toEqual(['', `${fing('1')}<slur number="1" type="start"/>`, '<slur number="1" type="stop"/><down-bow/><tenuto/>', '']);
  const file = writeMarked(document, part, hook);
  expect(file).toContain('<other-technical>hook</other-technical>');
  expect(file).not.toMatch(/<slur|<tenuto/);
});

test('a covered interval: a bracket from its note over the next', () => {
  const text = cutPassage(document, part, marks([g, 'covered', 'yes']), { fromBar: 0, toBar: 0 });
  const order = [...text.matchAll(/<bracket type="(\w+)"|<step>(\w)/g)].map(([, bracket, step]) => bracket ?? step);
  expect(order).toEqual(['start', 'G', 'A', 'stop', 'B', 'C']);
});

test.each<[string, Array<[string, MarkKind, string]>, string]>([
  ['extension', [[a, 'extension', 'yes']], fing('x1')],
  ['stay', [[a, 'stay', 'yes']], fing('1—')],
  ['another finger', [[a, 'other-finger', '3']], fing('1 (3)')],
  [
    'all of them and a finger of the coach',
    [
      [a, 'finger', '2'],
      [a, 'other-finger', '3'],
      [a, 'stay', 'yes'],
      [a, 'extension', 'yes'],
    ],
    fing('x2— (3)'),
  ],
  ['a position', [[a, 'position', 'third']], fing('1') + fing('3rd pos.')],
  ['a pair of glasses', [[a, 'look-up', 'yes']], fing('1') + fing('\u0298\u0298')],
  ['a sign of one’s own', [[a, 'sign', 'with V2 & <bass>']], fing('1') + fing('with V2 &amp; &lt;bass&gt;')],
])('%s', (_, list, expected) => expect(engraved(marks(...list))[1]).toBe(expected));

test('a slide goes to the next note, in the file too', () => {
  expect(engraved(marks([b, 'slide', 'yes']))).toEqual([
    '',
    fing('1'),
    '<slide type="start" number="1" line-type="solid"/>',
    '<slide type="stop" number="1" line-type="solid"/>',
  ]);
  expect(writeMarked(document, part, marks([b, 'slide', 'yes']))).toMatch(/<slide type="start"[\s\S]*<slide type="stop"/);
  expect(engraved(marks([c, 'slide', 'yes'])).join('')).not.toContain('slide');
});

test('in the file: what the format has, or words of their own; the edition’s finger stays beside another one', () => {
  const file = writeMarked(document, part, marks([a, 'other-finger', '3'], [c, 'position', 'third'], [g, 'sign', 'a & b'], [g, 'look-up', 'yes']));
  expect(file).toContain('<fingering>1</fingering>');
  expect(file).toContain('<fingering alternate="yes">3</fingering>');
  expect(file).toContain('<other-technical>third position</other-technical>');
  expect(file).toContain('<other-technical>a &amp; b</other-technical>');
  expect(file).toContain('<other-technical>look up</other-technical>');
  const again = readMusicXml(file);
  expect(again.ok && again.value.score.parts[0]!.notes[1]!.printed.finger).toBe('1');
});
