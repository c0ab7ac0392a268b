/** Documents of other shapes than the demo's: timewise, several voices and staves, editions with marks of their own. */
import { demoScore } from '../../../tests/support/demo';
import { markKey, type Marking } from '../../marking/mark';
import { encodeLike } from '../raw/encoding';
import { decodeXmlBytes, parseXml, placeInText } from '../raw/xml';
import { cutPart, cutPassage } from './cut';
import { applyEdits } from './edits';
import { readMusicXml, type ReadScore } from './read';
import { writeMarked } from './write';
import { quartersOf } from '../../score/ticks';

function open(text: string): ReadScore {
  const read = readMusicXml(text);
  if (!read.ok) throw new Error(`${read.problem.place} ${read.problem.what}`);
  return read.value;
}
const set = (id: string, kind: 'finger' | 'bow' | 'slur' | 'string', value: string): Marking => ({ [markKey(id, kind)]: { value, origin: 'coach' } });
const note = (step: string, octave: number, duration: number, inner = '') =>
  `<note><pitch><step>${step}</step><octave>${octave}</octave></pitch><duration>${duration}</duration><voice>1</voice>${inner}</note>`;
const ATTRIBUTES = '<attributes><divisions>1</divisions><time><beats>4</beats><beat-type>4</beat-type></time></attributes>';
const partwise = (measures: string, names = ['Violin']) =>
  `<score-partwise version="3.1"><part-list>${names.map((name, i) => `<score-part id="P${i + 1}"><part-name>${name}</part-name></score-part>`).join('')}</part-list>${names.map((_, i) => `<part id="P${i + 1}">${measures}</part>`).join('')}</score-partwise>`;

describe('timewise', () => {
  const text = `<score-timewise version="3.0"><part-list><score-part id="P1"><part-name>Violin</part-name></score-part><score-part id="P2"><part-name>Cello</part-name></score-part></part-list>
<measure number="1"><part id="P1">${ATTRIBUTES}${note('A', 4, 4)}</part><part id="P2">${ATTRIBUTES}${note('D', 3, 4)}</part></measure>
<measure number="2"><part id="P1">${note('B', 4, 4)}</part><part id="P2">${note('E', 3, 4)}</part></measure></score-timewise>`;
  const { document, score } = open(text);
  test('is marked in place, each part in its own', () => {
    const violin = score.parts[0]!;
    const marked = writeMarked(document, violin, set(violin.notes[1]!.id, 'finger', '1'));
    expect(marked).toMatch(/<part id="P1"><note><pitch><step>B<\/step>.*?<fingering>1<\/fingering>/);
    expect(marked.match(/<fingering>/g)).toHaveLength(1);
    expect(open(marked).score.parts[0]!.notes[1]!.printed.finger).toBe('1');
  });
  test('is cut into parts and passages that are partwise', () => {
    expect(open(cutPart(document, 'P2')).score.parts[0]!.notes).toEqual(score.parts[1]!.notes);
    const passage = open(cutPassage(document, score.parts[1]!, {}, { fromBar: 1, toBar: 1 })).score.parts[0]!;
    expect(passage.bars.map((bar) => [bar.label, bar.beats])).toEqual([['2', 4]]);
  });
});

describe('an edition with marks of its own', () => {
  const technical = (inner: string) => `<notations><technical>${inner}</technical></notations>`;
  const source = partwise(
    `<measure number="1">${ATTRIBUTES}${note('A', 4, 1, technical('<up-bow/><fingering>2</fingering><fingering substitution="yes">3</fingering><snap-pizzicato/>'))}${note('B', 4, 1, technical('<open-string/>'))}${note('C', 5, 2, '<notations><technical/></notations>')}</measure>`,
  );
  const { document, score } = open(source);
  const part = score.parts[0]!;
  const [first, second, third] = part.notes as [(typeof part.notes)[0], (typeof part.notes)[0], (typeof part.notes)[0]];
  test('is read', () =>
    expect([first, second, third].map((n) => [n.printed.finger, n.printed.bow])).toEqual([
      ['2', 'up'],
      ['0', null],
      [null, null],
    ]));
  test('a new finger replaces the old one; the substitution and signs that are not ours stay', () => {
    const marked = writeMarked(document, part, { ...set(first.id, 'finger', '1'), ...set(first.id, 'bow', 'down') });
    expect(marked).toContain('<technical><fingering substitution="yes">3</fingering><snap-pizzicato/><fingering>1</fingering><down-bow/></technical>');
  });
  test('striking out the only sign takes the empty brackets with it', () => {
    expect(writeMarked(document, part, set(second.id, 'finger', 'none'))).toContain(
      '<step>B</step><octave>4</octave></pitch><duration>1</duration><voice>1</voice></note>',
    );
  });
  test('an empty-element tag is opened for a new sign', () => {
    expect(writeMarked(document, part, set(third.id, 'finger', '2'))).toContain('<notations><technical><fingering>2</fingering></technical></notations>');
  });
  test('notations come before the lyrics', () => {
    const sung = open(partwise(`<measure number="1">${ATTRIBUTES}${note('A', 4, 4, '<lyric><text>la</text></lyric>')}</measure>`));
    expect(writeMarked(sung.document, sung.score.parts[0]!, set(sung.score.parts[0]!.notes[0]!.id, 'bow', 'up'))).toContain(
      '<notations><technical><up-bow/></technical></notations><lyric>',
    );
  });
});

describe('slurs', () => {
  const slur = (type: string, number = 1) => `<notations><slur number="${number}" type="${type}"/></notations>`;
  const source = partwise(
    `<measure number="1">${ATTRIBUTES}${note('A', 4, 1, slur('start'))}${note('B', 4, 1)}${note('C', 5, 1)}${note('D', 5, 1, slur('stop'))}</measure>` +
      `<measure number="2">${note('E', 5, 1)}${note('D', 5, 1, slur('start', 2))}${note('C', 5, 1, slur('stop', 2))}${note('B', 4, 1)}</measure>`,
  );
  const { document, score } = open(source);
  const part = score.parts[0]!;
  const spans = (marking: Marking) =>
    open(writeMarked(document, part, marking)).score.parts[0]!.slurs.map(({ onset, endOnset }) => [quartersOf(onset), quartersOf(endOnset)]);
  const at = (i: number, value: 'split' | 'join') => set(part.notes[i]!.id, 'slur', value);
  test.each<[string, Marking, number[][]]>([
    [
      'as printed',
      {},
      [
        [0, 3],
        [5, 6],
      ],
    ],
    [
      'split in the middle',
      at(2, 'split'),
      [
        [0, 1],
        [2, 3],
        [5, 6],
      ],
    ],
    [
      'split behind the first note',
      at(1, 'split'),
      [
        [1, 3],
        [5, 6],
      ],
    ],
    [
      'split before the last note',
      at(3, 'split'),
      [
        [0, 2],
        [5, 6],
      ],
    ],
    [
      'joined on at the end',
      at(7, 'join'),
      [
        [0, 3],
        [5, 7],
      ],
    ],
    ['two slurs joined by the note between', { ...at(4, 'join'), ...at(5, 'join') }, [[0, 6]]],
    [
      'a new slur where there was none',
      at(5, 'join'),
      [
        [0, 3],
        [4, 6],
      ],
    ],
    ['split to single notes', { ...at(1, 'split'), ...at(2, 'split'), ...at(3, 'split') }, [[5, 6]]],
  ])('%s', (_, marking, expected) => expect(spans(marking)).toEqual(expected));
  test('a mark that says what is printed already changes nothing', () => expect(writeMarked(document, part, at(1, 'join'))).toBe(source));
});

describe('parts of a group', () => {
  const measure = `<measure number="1">${ATTRIBUTES}${note('A', 4, 4)}</measure>`;
  const list = (names: string) => partwise(measure, ['One', 'Two']).replace(/<part-list>[\s\S]*<\/part-list>/, `<part-list>${names}</part-list>`);
  const part = (id: number, name: string) => `<score-part id="P${id}"><part-name>${name}</part-name></score-part>`;
  const group = (name: string, inside: string, number = 1) =>
    `<part-group number="${number}" type="start"><group-name>${name}</group-name></part-group>${inside}<part-group number="${number}" type="stop"/>`;
  const names = (xml: string) => open(list(xml)).score.parts.map(({ name }) => name);
  test('numbers alone are said with the name of their group, also where the part is by itself', () => {
    expect(names(group('Horns in F', part(1, '1 2') + part(2, '3 4')))).toEqual(['Horns in F 1 2', 'Horns in F 3 4']);
    expect(names(group('Strings', group('Violins', part(1, 'I') + part(2, 'II &amp; III'), 2)))).toEqual(['Violins I', 'Violins II & III']);
    expect(names(group('', group('Oboes', part(1, '1'), 2) + part(2, '2')))).toEqual(['Oboes 1', '2']);
    const { document } = open(list(group('Violas &amp; Co', part(1, '1') + part(2, '2'))));
    expect(open(cutPart(document, 'P2')).score.parts[0]).toMatchObject({ name: 'Violas & Co 2', instrument: 'viola' });
  });
  test('a name stands by itself', () => expect(names(group('Strings', part(1, 'Violin I') + part(2, 'Vla.')))).toEqual(['Violin I', 'Vla.']));
});

describe('several parts, staves and voices', () => {
  test('marks of one part leave the others alone, and two parts are marked one after the other', () => {
    const { document, score } = open(partwise(`<measure number="1">${ATTRIBUTES}${note('A', 4, 4)}</measure>`, ['Violin I', 'Violin II']));
    const [first, second] = score.parts as [(typeof score.parts)[0], (typeof score.parts)[0]];
    const once = writeMarked(document, second, set(second.notes[0]!.id, 'finger', '0'));
    const both = open(once);
    const twice = writeMarked(both.document, both.score.parts[0]!, set(first.notes[0]!.id, 'finger', '4'));
    expect(open(twice).score.parts.map((part) => part.notes[0]!.printed.finger)).toEqual(['4', '0']);
  });
  test('a clef of each staff is carried into a passage', () => {
    const attributes =
      '<attributes><divisions>1</divisions><staves>2</staves><clef number="1"><sign>G</sign><line>2</line></clef><clef number="2"><sign>F</sign><line>4</line></clef></attributes>';
    const { document, score } = open(partwise(`<measure number="1">${attributes}${note('A', 4, 4)}</measure><measure number="2">${note('B', 4, 4)}</measure>`));
    const cut = cutPassage(document, score.parts[0]!, {}, { fromBar: 1, toBar: 1 });
    expect(cut).toContain('<staves>2</staves><clef number="1"><sign>G</sign><line>2</line></clef><clef number="2"><sign>F</sign><line>4</line></clef>');
  });
  test('a clef that the passage itself begins with is not given twice', () => {
    const { document, score } = demoScore('mill-race-serenade');
    const cello = score.parts[3]!;
    const cut = cutPassage(document, cello, {}, { fromBar: 65, toBar: 66 });
    expect(cut.match(/<sign>/g)).toHaveLength(1);
    expect(cut).toContain('<sign>C</sign>');
  });
});

describe('text and bytes', () => {
  test('edits apply from the left, inside a range only, and never over one another', () => {
    const text = 'abcdef';
    expect(
      applyEdits(text, [
        { start: 4, end: 5, text: 'X' },
        { start: 1, end: 1, text: '-' },
      ]),
    ).toBe('a-bcdXf');
    expect(
      applyEdits(
        text,
        [
          { start: 4, end: 5, text: 'X' },
          { start: 1, end: 1, text: '-' },
        ],
        2,
        6,
      ),
    ).toBe('cdXf');
    expect(() =>
      applyEdits(text, [
        { start: 1, end: 4, text: '' },
        { start: 2, end: 3, text: '' },
      ]),
    ).toThrow(/overlap/);
  });
  test('UTF-16 goes out as it came in, mark and all', () => {
    const text = '\ufeff<a>é𝄞</a>';
    for (const littleEndian of [true, false]) {
      const bytes = new Uint8Array(text.length * 2);
      const view = new DataView(bytes.buffer);
      Array.from({ length: text.length }, (_, i) => view.setUint16(i * 2, text.charCodeAt(i), littleEndian));
      const decoded = decodeXmlBytes(bytes);
      expect(decoded.ok && decoded.value).toBe(text);
      expect(encodeLike(text, bytes)).toEqual(bytes);
    }
  });
  test('bytes that are not what they say are named', () => {
    const decoded = decodeXmlBytes(new Uint8Array([0x3c, 0x61, 0xff, 0xfe, 0x3e]));
    expect(decoded.ok ? '' : decoded.problem.what).toMatch(/not valid UTF-8/);
  });
  test('every element knows where it stands', () => {
    const text = '<?xml version="1.0"?>\n<a x="<">\n</a>'.replace('"<"', '"&lt;"');
    const parsed = parseXml(text.replace('\n</a>', '<b/><!-- </b> --><b c="2">t<![CDATA[<b>]]></b>\n</a>'));
    if (!parsed.ok) throw new Error(parsed.problem.what);
    const { root, text: whole } = parsed.value;
    expect(root.children.map((element) => whole.slice(element.start, element.end))).toEqual(['<b/>', '<b c="2">t<![CDATA[<b>]]></b>']);
    expect(root.children[1]!.text).toBe('t<b>');
    expect(placeInText(whole, root.start)).toBe('line 2, column 1');
  });
});

test('pictures and programs of the web that lie in a file stay out of what is cut from it', () => {
  const evil = '<script xmlns="http://www.w3.org/1999/xhtml">alert(1)</script><x:svg xmlns:x="http://www.w3.org/2000/svg" onload="alert(2)"><x:g/></x:svg>';
  const note = `<note><pitch><step>A</step><octave>4</octave>${evil}</pitch><duration>4</duration><type>whole</type></note>`;
  const text = `<score-partwise version="4.0" xmlns:xlink="http://www.w3.org/1999/xlink"><identification><creator type="composer">Nobody</creator>${evil}</identification><part-list><score-part id="P1"><part-name>Violin</part-name></score-part></part-list><part id="P1"><measure number="1"><attributes><divisions>1</divisions></attributes>${evil}${note}<link xlink:href="a" name="b"/></measure></part></score-partwise>`;
  const read = readMusicXml(text);
  if (!read.ok) throw new Error(read.problem.what);
  const cut = cutPart(read.value.document, 'P1');
  expect(cut).not.toMatch(/script|svg|alert|onload/);
  expect(cut).toContain('<creator type="composer">Nobody</creator>');
  expect(cut).toContain('<link xlink:href="a" name="b"/>');
  const again = readMusicXml(cut);
  expect(again.ok && again.value.score.parts[0]!.notes.map(({ id }) => id)).toEqual(read.value.score.parts[0]!.notes.map(({ id }) => id));
});
