import { readMusicXml } from '../formats/musicxml/read';
import { barAt, barsAt, placeAt, sayBar, sayNote } from './address';
import { barStarts } from './counted';
import { automaticPassages } from './passages';
import type { Part } from './score';
import { quartersOf, TICKS_PER_QUARTER } from './ticks';
import { isTempoWord, onTimeLine } from './time-line';

const note = (step: string, quarters = 1) =>
  `<note><pitch><step>${step}</step><octave>4</octave></pitch><duration>${quarters * 2}</duration><voice>1</voice></note>`;
const notes = (steps: string) => [...steps].map((step) => note(step)).join('');
const bar = (number: string | number, inside: string, implicit = false) =>
  `<measure number="${number}"${implicit ? ' implicit="yes"' : ''}>${inside}</measure>`;
const metre = (beats: number, type = 4) =>
  `<attributes><divisions>2</divisions><time><beats>${beats}</beats><beat-type>${type}</beat-type></time></attributes>`;
const NO_METRE = '<attributes><divisions>2</divisions></attributes>';
const words = (text: string) => `<direction><direction-type><words>${text}</words></direction-type></direction>`;
const letter = (text: string) => `<direction><direction-type><rehearsal>${text}</rehearsal></direction-type></direction>`;
const REPEAT = '<barline location="right"><repeat direction="backward"/></barline>';
const REPEAT_HERE = '<barline location="left"><repeat direction="forward"/></barline>';

function scoreOf(...parts: string[]) {
  const list = parts.map((_, i) => `<score-part id="P${i}"><part-name>Violin ${i + 1}</part-name></score-part>`).join('');
  const bodies = parts.map((part, i) => `<part id="P${i}">${part}</part>`).join('');
  const read = readMusicXml(`<score-partwise version="3.1"><part-list>${list}</part-list>${bodies}</score-partwise>`);
  if (!read.ok) throw new Error(read.problem.what);
  return read.value.score;
}
const lengths = ({ bars }: Pick<Part, 'bars'>) => bars.map(({ ticks }) => quartersOf(ticks));
const onsets = ({ notes: all }: Pick<Part, 'notes'>) => all.map(({ onset }) => quartersOf(onset));

describe('what one part carries all parts have', () => {
  const top = [
    bar(1, metre(4) + words('Allegro') + '<direction><sound tempo="132"/></direction>' + words('dolce') + notes('ABCD')),
    bar(2, letter('A') + note('A', 2) + words('poco rit.') + note('B', 2)),
    bar(3, REPEAT_HERE + notes('ABCD') + '<direction><direction-type><words>D.C. al Fine</words></direction-type><sound dacapo="yes"/></direction>' + REPEAT),
  ].join('');
  const below = [bar(1, metre(4) + note('G', 4)), bar(2, note('F', 4)), bar(3, note('E', 4))].join('');
  const [first, second] = scoreOf(top, below).parts as [Part, Part];
  test('letters, tempi, tempo words, repeats and jumps; words for one part stay in it', () => {
    expect(second.bars.map(({ rehearsal, repeatStart, repeatEnd, signs }) => [rehearsal, repeatStart, repeatEnd, signs?.jump ?? null])).toEqual([
      [null, false, false, null],
      ['A', false, false, null],
      [null, true, true, 'da capo'],
    ]);
    expect(second.tempi).toEqual([{ tick: 0, quartersPerMinute: 132, printed: null }]);
    expect(second.words.map(({ tick, text }) => [quartersOf(tick), text])).toEqual([
      [0, 'Allegro'],
      [6, 'poco rit.'],
    ]);
    expect(first.words.map(({ text }) => text)).toEqual(['Allegro', 'dolce', 'poco rit.', 'D.C. al Fine']);
    expect(first.words.every(({ source }) => source !== undefined)).toBe(true);
  });
  test('passages are cut alike', () => expect(automaticPassages(second)).toEqual(automaticPassages(first)));
  test('a tempo of its own stands before that of others', () => {
    const own = below.replace(metre(4), metre(4) + '<direction><sound tempo="66"/></direction>');
    expect(scoreOf(top, own).parts.map(({ tempi }) => tempi.map(({ quartersPerMinute }) => quartersPerMinute))).toEqual([[132], [66]]);
  });
  test('a part by itself is laid on the line of its score; a part with other bars stays as it is', () => {
    const { timeLine } = scoreOf(top, below);
    const alone = scoreOf(below).parts[0]!;
    expect(alone.bars[1]!.rehearsal).toBeNull();
    const laid = onTimeLine(alone, JSON.parse(JSON.stringify(timeLine)));
    expect({ ...laid, id: second.id, name: second.name, instrumentBecause: second.instrumentBecause }).toEqual(second);
    const shorter = scoreOf(bar(1, metre(4) + note('G', 4))).parts[0]!;
    expect(onTimeLine(shorter, timeLine)).toBe(shorter);
  });
  test.each(['poco rit.', 'Andante con moto', 'a tempo', 'più mosso', 'sehr langsam', 'rallentando'])('%s is about the tempo', (text) =>
    expect(isTempoWord(text)).toBe(true),
  );
  test.each(['dolce', 'pizz.', 'spiritoso', 'arco', 'div.', 'solo'])('%s is not', (text) => expect(isTempoWord(text)).toBe(false));
});

describe('bars as they are counted', () => {
  /** An upbeat, four bars of three, the second of them split by a repeat into two quarters and one. */
  const split = [
    bar(0, metre(3) + note('E'), true),
    bar(1, notes('ABC')),
    bar(2, notes('DE') + REPEAT),
    bar('X1', note('F'), true),
    bar(3, letter('B') + notes('GAB')),
    bar(4, notes('CDE')),
  ].join('');
  const part = scoreOf(split).parts[0]!;
  const { bars } = part;
  test('a split bar is one bar, as long as it is; an upbeat is none', () => {
    expect(lengths(part)).toEqual([1, 3, 2, 1, 3, 3]);
    expect(onsets(part)).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12]);
    expect(bars.map(({ counted, into }) => [counted, quartersOf(into)])).toEqual([
      [null, 2],
      [0, 0],
      [1, 0],
      [1, 2],
      [2, 0],
      [3, 0],
    ]);
    expect(barStarts(bars)).toEqual([1, 2, 4, 5]);
    expect(bars.map((_, i) => sayBar(bars, i))).toEqual(['0', '1', '2', '2', '3', '4']);
  });
  test.each([
    ['2+1', 4],
    ['1+2', 4],
    ['0+1', 1],
    ['-1', 5],
    ['-4', 1],
    ['-3', 2],
    ['four before the end', 1],
    ['two before B', 1],
    ['the bar before B', 2],
    ['bar after 2', 4],
    ['B+1', 5],
    ['2nd of 2', 4],
  ])('%s', (said, index) => expect(barAt(part, said)).toEqual({ ok: true, value: index }));
  test.each([
    ['2/3', 3, 'F'],
    ['beat 3 of 2', 3, 'F'],
    ['2/2', 2, 'E'],
    ['0/3', 0, 'E'],
    ['pickup to B', 3, 'F'],
    ['upbeat to 1', 0, 'E'],
  ])('%s', (said, index, step) => {
    const found = placeAt(part, said);
    expect(found.ok && [found.value.barIndex, part.notes.find(({ id }) => id === found.value.noteId)?.written.step]).toEqual([index, step]);
  });
  test('every note is found where it is said to be, and a range takes whole bars', () => {
    for (const each of part.notes) {
      const found = placeAt(part, sayNote(part, each));
      expect([each.id, found.ok && found.value.noteId]).toEqual([each.id, each.id]);
    }
    expect(barsAt(part, '1-2')).toEqual({ ok: true, value: { fromBar: 1, toBar: 3 } });
    expect(barsAt(part, '9-16').ok).toBe(false);
  });
  test('what lies outside says how many bars there are', () => {
    const outside = barAt(part, '-5');
    expect(outside.ok || outside.problem.what).toBe('That lies outside the part, which has 4 bars.');
  });
  test('the rest of a split bar may have the number of its beginning instead of none', () => {
    const same = scoreOf([bar(1, metre(3) + notes('DE')), bar(1, note('F')), bar(2, notes('GAB'))].join('')).parts[0]!;
    expect(same.bars.map(({ counted, into }) => [counted, quartersOf(into)])).toEqual([
      [0, 0],
      [0, 2],
      [1, 0],
    ]);
  });
});

describe('how long a bar is', () => {
  test('as long as the part that fills it most; where nothing stands, as the time signature says', () => {
    const { parts, warnings } = scoreOf(
      [bar(1, metre(4) + note('A', 2)), bar(2, ''), bar(3, note('B', 4))].join(''),
      [bar(1, metre(4) + note('C', 4)), bar(2, ''), bar(3, note('D', 4))].join(''),
    );
    expect(parts.map(lengths)).toEqual([
      [4, 4, 4],
      [4, 4, 4],
    ]);
    expect(onsets(parts[0]!)).toEqual([0, 8]);
    expect(warnings).toEqual([]);
  });
  test('without a time signature as it is filled, and nobody minds', () => {
    const { parts, warnings } = scoreOf([bar(1, NO_METRE + notes('ABC')), bar(2, notes('ABCDE')), bar(3, note('A'))].join(''));
    expect([lengths(parts[0]!), warnings, parts[0]!.bars.every(({ pickup }) => !pickup)]).toEqual([[3, 5, 1], [], true]);
  });
  test('a bar in the middle that is too short, and nothing explains it, is named', () => {
    const { parts, warnings } = scoreOf([bar(1, metre(4) + notes('ABCD')), bar(2, notes('AB')), bar(3, notes('ABCD'))].join(''));
    expect(lengths(parts[0]!)).toEqual([4, 2, 4]);
    expect(warnings).toEqual([{ place: 'bar 2', text: expect.stringContaining('fill 2 quarters, the time signature 4/4 has 4') }]);
  });
  test('a short bar before a repeat or at the end is what an upbeat leaves', () => {
    const { warnings } = scoreOf([bar(0, metre(4) + note('A'), true), bar(1, notes('ABC') + REPEAT), bar(2, notes('ABCD')), bar(3, notes('ABC'))].join(''));
    expect(warnings).toEqual([]);
  });
  test('signs move with their measures', () => {
    const upper = [bar(1, metre(4) + notes('ABCD')), bar(2, notes('ABCD'))].join('');
    const lower = [bar(1, metre(4) + note('A', 2)), bar(2, words('dolce') + note('B', 2) + words('sul D') + note('C', 2))].join('');
    const part = scoreOf(upper, lower).parts[1]!;
    expect(part.words.map(({ tick }) => tick / TICKS_PER_QUARTER)).toEqual([4, 6]);
    expect(part.notes.map(({ onset }) => quartersOf(onset))).toEqual([0, 4, 6]);
  });
});
