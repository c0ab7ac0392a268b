import { pitchName } from '../../score/pitch';
import type { Part } from '../../score/score';
import { problemText } from '../../util/result';
import { LARGEST_FILE_BYTES } from '../raw/xml';
import { readMusicXml, readMusicXmlBytes } from './read';
import { quartersOf, ticksOfQuarters } from '../../score/ticks';

const note = (step: string, octave: number, duration: number, more = '', before = '') =>
  `<note>${before}<pitch><step>${step}</step><octave>${octave}</octave></pitch><duration>${duration}</duration><voice>1</voice>${more}</note>`;
const measure = (inner: string, number = '1', attributes = '') => `<measure number="${number}"${attributes}>${inner}</measure>`;
const ATTRIBUTES =
  '<attributes><divisions>2</divisions><key><fifths>1</fifths></key><time><beats>4</beats><beat-type>4</beat-type></time><clef><sign>G</sign><line>2</line></clef></attributes>';
const score = (measures: string, name = 'Violin') =>
  `<?xml version="1.0"?><score-partwise version="3.0"><part-list><score-part id="P1"><part-name>${name}</part-name></score-part></part-list><part id="P1">${measures}</part></score-partwise>`;

function partOf(text: string): Part {
  const read = readMusicXml(text);
  if (!read.ok) throw new Error(problemText(read.problem));
  return read.value.score.parts[0]!;
}
function problemOf(input: string | Uint8Array): string {
  const read = typeof input === 'string' ? readMusicXml(input) : readMusicXmlBytes(input);
  return read.ok ? 'no problem' : problemText(read.problem);
}
const QUARTERS = note('A', 4, 2) + note('B', 4, 2) + note('C', 5, 2) + note('D', 5, 2);

test.each([1, 2, 4, 8, 16, 32, 64])('a time signature over %i is read', (type) => {
  const attributes = ATTRIBUTES.replace('<beats>4</beats><beat-type>4<', `<beats>${type}</beats><beat-type>${type}<`);
  expect(partOf(score(measure(attributes + QUARTERS))).bars[0]).toMatchObject({ beats: type, beatType: type });
});

describe('what a string player must know of each note', () => {
  test('onsets, durations and pitches', () => {
    const part = partOf(score(measure(ATTRIBUTES + QUARTERS) + measure(note('E', 5, 8), '2')));
    expect(part.notes.map((n) => [pitchName(n.pitch), 2 * quartersOf(n.onset), 2 * quartersOf(n.duration)])).toEqual([
      ['A4', 0, 2],
      ['B4', 2, 2],
      ['C5', 4, 2],
      ['D5', 6, 2],
      ['E5', 8, 8],
    ]);
    expect(part.bars.map((bar) => [bar.label, 2 * quartersOf(bar.onset), 2 * quartersOf(bar.ticks), bar.fifths])).toEqual([
      ['1', 0, 8, 1],
      ['2', 8, 8, 1],
    ]);
  });
  test('two voices by backup, a chord, a grace note, a cue note', () => {
    const part = partOf(
      score(
        measure(
          ATTRIBUTES +
            note('A', 5, 8) +
            '<backup><duration>8</duration></backup>' +
            '<note><pitch><step>D</step><octave>4</octave></pitch><duration>4</duration><voice>2</voice></note>' +
            '<note><chord/><pitch><step>B</step><octave>4</octave></pitch><duration>4</duration><voice>2</voice></note>' +
            '<note><grace slash="yes"/><pitch><step>C</step><octave>5</octave></pitch><voice>2</voice></note>' +
            '<note><cue/><pitch><step>D</step><octave>5</octave></pitch><duration>4</duration><voice>2</voice></note>',
        ),
      ),
    );
    expect(part.notes.map((n) => [pitchName(n.pitch), n.voice, 2 * quartersOf(n.onset), n.inChord, n.grace, n.cue])).toEqual([
      ['A5', '1', 0, false, null, false],
      ['D4', '2', 0, false, null, false],
      ['B4', '2', 0, true, null, false],
      ['C5', '2', 4, false, 'slashed', false],
      ['D5', '2', 4, false, null, true],
    ]);
  });
  test('a triplet in divisions that do not divide by three still comes out whole', () => {
    const first = score(
      measure(
        ATTRIBUTES.replace('<divisions>2', '<divisions>3') +
          note('A', 4, 1) +
          note('B', 4, 1) +
          note('C', 5, 1) +
          '<attributes><divisions>4</divisions></attributes>' +
          note('D', 5, 12),
      ),
    );
    expect(partOf(first).notes.map((n) => [12 * quartersOf(n.onset), 12 * quartersOf(n.duration)])).toEqual([
      [0, 4],
      [4, 4],
      [8, 4],
      [12, 36],
    ]);
  });
  test('signs: fingering, string, bows, harmonic, articulations, trill, tremolo, fermata', () => {
    const notations =
      '<notations><technical><up-bow/><fingering>3</fingering><string>2</string><harmonic><natural/></harmonic></technical><articulations><accent/><staccato/></articulations><ornaments><trill-mark/><tremolo type="single">2</tremolo></ornaments><fermata/></notations>';
    expect(partOf(score(measure(ATTRIBUTES + note('A', 4, 8, notations)))).notes[0]).toMatchObject({
      printed: { finger: '3', string: 2, bow: 'up' },
      harmonic: 'natural',
      articulations: ['accent', 'staccato'],
      trill: true,
      tremolo: 2,
      fermata: true,
    });
  });
  test('slurs over the bar line, hairpins, dynamics, words, tempo, rehearsal marks, double bars', () => {
    const slur = (type: string) => `<notations><slur number="1" type="${type}"/></notations>`;
    const direction = (inner: string) => `<direction><direction-type>${inner}</direction-type></direction>`;
    const part = partOf(
      score(
        measure(
          ATTRIBUTES +
            direction('<rehearsal>A</rehearsal>') +
            direction('<dynamics><pp/></dynamics>') +
            '<direction><direction-type><metronome><beat-unit>quarter</beat-unit><beat-unit-dot/><per-minute>60</per-minute></metronome></direction-type></direction>' +
            direction('<wedge type="crescendo"/>') +
            direction('<words>arco</words>') +
            note('A', 4, 8, slur('start')) +
            direction('<wedge type="stop"/>') +
            '<barline location="right"><bar-style>light-light</bar-style></barline>',
        ) + measure(note('B', 4, 8, slur('stop')), '2'),
      ),
    );
    expect(part.slurs).toEqual([{ from: part.notes[0]!.id, to: part.notes[1]!.id, voice: '1', onset: 0, endOnset: ticksOfQuarters(4) }]);
    expect(part.hairpins).toMatchObject([{ kind: 'crescendo', from: 0, to: ticksOfQuarters(4) }]);
    expect(part.dynamics).toMatchObject([{ tick: 0, text: 'pp', level: 'pp' }]);
    expect(part.tempi[0]!.quartersPerMinute).toBe(90);
    expect(part.words[0]!.text).toBe('arco');
    expect(part.bars.map((bar) => [bar.rehearsal, bar.doubleBarAfter])).toEqual([
      ['A', true],
      [null, false],
    ]);
  });
  test('a tie that is only drawn is a tie', () => {
    const tied = (type: string) => `<notations><tied type="${type}"/></notations>`;
    const part = partOf(score(measure(ATTRIBUTES + note('A', 4, 8, tied('start'))) + measure(note('A', 4, 8, tied('stop')), '2')));
    expect(part.notes.map((n) => [n.tiedFrom, n.tiedTo])).toEqual([
      [false, true],
      [true, false],
    ]);
  });
  test('an upbeat is as long as it is filled', () => {
    const part = partOf(score(measure(ATTRIBUTES + note('A', 4, 2), '0', ' implicit="yes"') + measure(QUARTERS, '1')));
    expect(part.bars.map((bar) => [bar.label, 2 * quartersOf(bar.ticks), bar.pickup])).toEqual([
      ['0', 2, true],
      ['1', 8, false],
    ]);
  });
  test('ids are the same each time and differ within the part', () => {
    const text = score(measure(ATTRIBUTES + QUARTERS) + measure(QUARTERS, '2'));
    const ids = partOf(text).notes.map((n) => n.id);
    expect(new Set(ids).size).toBe(8);
    expect(partOf(text).notes.map((n) => n.id)).toEqual(ids);
  });
});

describe('sounding pitch (domain facts 10 and 13)', () => {
  const bass = (transpose: string) => score(measure(ATTRIBUTES.replace('</attributes>', `${transpose}</attributes>`) + note('E', 2, 8)), 'Double Bass');
  test('pitch plus transpose is the sound', () => {
    const part = partOf(bass('<transpose><diatonic>0</diatonic><chromatic>0</chromatic><octave-change>-1</octave-change></transpose>'));
    expect([pitchName(part.notes[0]!.pitch), pitchName(part.notes[0]!.written)]).toEqual(['E1', 'E2']);
  });
  test('a bass part without transpose sounds an octave lower, and that is said', () => {
    const read = readMusicXml(bass(''));
    expect(read.ok && pitchName(read.value.score.parts[0]!.notes[0]!.pitch)).toBe('E1');
    expect(read.ok && read.value.score.warnings[0]!.text).toContain('octave below');
  });
});

test('timewise reads like partwise', () => {
  const timewise = `<score-timewise version="3.0"><part-list><score-part id="P1"><part-name>Violin</part-name></score-part></part-list><measure number="1"><part id="P1">${ATTRIBUTES}${QUARTERS}</part></measure><measure number="2"><part id="P1">${note('E', 5, 8)}</part></measure></score-timewise>`;
  expect(partOf(timewise).notes.map((n) => n.id)).toEqual(partOf(score(measure(ATTRIBUTES + QUARTERS) + measure(note('E', 5, 8), '2'))).notes.map((n) => n.id));
});

describe('encodings', () => {
  const text = score(measure(ATTRIBUTES + QUARTERS), 'Violín').replace('<?xml version="1.0"?>', '');
  const utf16 = (littleEndian: boolean) => {
    const bytes = new Uint8Array(2 + text.length * 2);
    const view = new DataView(bytes.buffer);
    [0xfeff, ...Array.from(text, (char) => char.charCodeAt(0))].forEach((code, i) => view.setUint16(i * 2, code, littleEndian));
    return bytes;
  };
  test.each([
    ['UTF-8', new TextEncoder().encode(text)],
    ['UTF-8 with mark', new TextEncoder().encode(`\ufeff${text}`)],
    ['UTF-16 little endian', utf16(true)],
    ['UTF-16 big endian', utf16(false)],
  ])('%s', (_, bytes) => {
    const read = readMusicXmlBytes(bytes);
    expect(read.ok && read.value.score.parts[0]!.name).toBe('Violín');
  });
});

describe('bad input is named with its place and a remedy', () => {
  const good = score(measure(ATTRIBUTES + QUARTERS));
  test.each<[string, string | Uint8Array, RegExp]>([
    ['an empty file', new Uint8Array(), /empty.*Export/],
    ['not XML', 'hello', /line 1, column \d+: .*not well-formed/],
    ['not MusicXML', '<html><body/></html>', /line 1, column 1: .*<html>.*\.musicxml/],
    ['a cut-off file', good.slice(0, -60), /line 1, column \d+: .*may be cut off/],
    ['a zip', new Uint8Array([0x50, 0x4b, 3, 4]), /compressed/],
    ['a file over the limit', new Uint8Array(LARGEST_FILE_BYTES + 1), /limit is 32 MB/],
    ['a score without notes', score(measure(`${ATTRIBUTES}<note><rest/><duration>8</duration></note>`)), /no notes of definite pitch/],
    ['a percussion part', score(measure(`${ATTRIBUTES}<note><unpitched/><duration>8</duration></note>`), 'Drums'), /Percussion/],
    ['entities of its own', `<?xml version="1.0"?><!DOCTYPE score-partwise [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]>${good.slice(21)}`, /entities.*refused/],
    [
      'an external entity',
      `<?xml version="1.0"?><!DOCTYPE score-partwise [<!ENTITY x SYSTEM "file:///etc/passwd">]>${good.slice(21).replace('Violin', '&x;')}`,
      /entities.*refused/,
    ],
    ['deep nesting', '<a>'.repeat(500), /nested/],
    ['divisions of zero', good.replace('<divisions>2', '<divisions>0'), /part P1, bar 1: .*divisions/],
    ['a note without a duration', good.replace('<duration>2</duration>', ''), /Violin, bar 1: .*duration "none" \(line 1/],
    ['a note without a pitch', good.replace('<step>A</step>', '<step>Q</step>'), /Violin, bar 1: .*no readable pitch/],
    ['a backup before the bar', good.replace('</measure>', '<backup><duration>99</duration></backup></measure>'), /goes back before the bar/],
    ['a part that is not listed', good.replace('id="P1">', 'id="P9">').replace('<part id="P1"', '<part id="P1"'), /part "P9"|Part "P1"/],
    ['a bar of a thousand quarters', good.replace('<duration>2</duration>', '<duration>2000</duration>'), /bar 1: .*holds 1003 quarter notes/],
  ])('%s', (_, input, message) => expect(problemOf(input)).toMatch(message));

  test('a bar that is overfilled is read as long as it is, and named', () => {
    const read = readMusicXml(score(measure(ATTRIBUTES + QUARTERS + note('E', 5, 2)) + measure(QUARTERS, '2')));
    expect(read.ok && read.value.score.warnings).toEqual([{ place: 'Violin, bar 1', text: expect.stringContaining('5 quarters') }]);
    expect(read.ok && quartersOf(read.value.score.parts[0]!.bars[1]!.onset)).toBe(5);
  });
});
