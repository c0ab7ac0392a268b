/** Everything that may stand at a note, a bar line or over the staff: each sign in, and what a player must know of it out. */
import { pizzicatoAt, mutedAt } from '../../score/techniques';
import { playedOrder } from '../../score/played';
import type { Note, Part } from '../../score/score';
import { problemText } from '../../util/result';
import { readMusicXml } from './read';
import { quartersOf, ticksOfQuarters } from '../../score/ticks';

const ATTRIBUTES =
  '<attributes><divisions>4</divisions><key><fifths>0</fifths></key><time><beats>4</beats><beat-type>4</beat-type></time><clef><sign>G</sign><line>2</line></clef></attributes>';
interface Extra {
  before?: string;
  after?: string;
  notations?: string;
  voice?: string;
}
const note = (pitch: string, duration: number, { before = '', after = '', notations = '', voice = '1' }: Extra = {}) =>
  `<note>${before}<pitch><step>${pitch[0]}</step>${pitch.includes('#') ? '<alter>1</alter>' : pitch.includes('b') ? '<alter>-1</alter>' : ''}<octave>${pitch.at(-1)}</octave></pitch>${before.includes('grace') ? '' : `<duration>${duration}</duration>`}<voice>${voice}</voice>${after}${notations ? `<notations>${notations}</notations>` : ''}</note>`;
const bar = (inner: string, number: number | string = 1) => `<measure number="${number}">${inner}</measure>`;
const score = (bars: string, name = 'Violin') =>
  `<score-partwise version="4.0"><part-list><score-part id="P1"><part-name>${name}</part-name></score-part></part-list><part id="P1">${bars}</part></score-partwise>`;
function read(bars: string, name?: string): { part: Part; warnings: string[] } {
  const result = readMusicXml(score(bars, name));
  if (!result.ok) throw new Error(problemText(result.problem));
  return { part: result.value.score.parts[0]!, warnings: result.value.score.warnings.map((warning) => warning.text) };
}
const first = (notations: string, more: Extra = {}): Note => read(bar(ATTRIBUTES + note('A4', 16, { notations, ...more }))).part.notes[0]!;
const direction = (inner: string, sound = '') => `<direction><direction-type>${inner}</direction-type>${sound}</direction>`;

describe('at a note', () => {
  test.each<[string, string, Partial<Note>]>([
    [
      'trill with an accidental',
      '<ornaments><trill-mark/><accidental-mark>sharp</accidental-mark></ornaments>',
      { trill: true, ornaments: [{ kind: 'trill', above: 1, below: null }] },
    ],
    ['mordent', '<ornaments><mordent/></ornaments>', { ornaments: [{ kind: 'mordent', above: null, below: null }] }],
    ['inverted mordent', '<ornaments><inverted-mordent/></ornaments>', { ornaments: [{ kind: 'inverted mordent', above: null, below: null }] }],
    [
      'turn with both accidentals',
      '<ornaments><turn/><accidental-mark placement="above">flat</accidental-mark><accidental-mark placement="below">sharp</accidental-mark></ornaments>',
      { ornaments: [{ kind: 'turn', above: -1, below: 1 }] },
    ],
    [
      'an accidental beside the ornament',
      '<ornaments><trill-mark/></ornaments><accidental-mark>natural</accidental-mark>',
      { ornaments: [{ kind: 'trill', above: 0, below: null }] },
    ],
    ['tremolo of two strokes', '<ornaments><tremolo type="single">2</tremolo></ornaments>', { tremolo: 2, tremoloWith: null }],
    ['tremolo between two notes', '<ornaments><tremolo type="start">3</tremolo></ornaments>', { tremolo: 3, tremoloWith: 'start' }],
    ['unmeasured tremolo', '<ornaments><tremolo type="unmeasured">0</tremolo></ornaments>', { tremolo: 3 }],
    ['glissando', '<glissando type="start"/>', { slide: 'start' }],
    ['a slide that goes on', '<slide type="stop" number="1"/><slide type="start" number="2"/>', { slide: 'both' }],
    ['arpeggio', '<arpeggiate/>', { chordSign: 'arpeggio' }],
    ['arpeggio down', '<arpeggiate direction="down"/>', { chordSign: 'arpeggio down' }],
    ['not arpeggiated', '<non-arpeggiate type="bottom"/>', { chordSign: 'together' }],
    ['natural harmonic', '<technical><harmonic><natural/></harmonic></technical>', { harmonic: 'natural', harmonicShows: null }],
    [
      'touch of an artificial harmonic',
      '<technical><harmonic><artificial/><touching-pitch/></harmonic></technical>',
      { harmonic: 'artificial', harmonicShows: 'touching' },
    ],
    ['fermata', '<fermata type="upright"/>', { fermata: true }],
    [
      'all articulations',
      '<articulations><accent/><strong-accent/><staccato/><tenuto/><detached-legato/><staccatissimo/><spiccato/><breath-mark/><caesura/><stress/><unstress/><soft-accent/></articulations>',
      {
        articulations: [
          'accent',
          'strong-accent',
          'staccato',
          'tenuto',
          'portato',
          'staccatissimo',
          'spiccato',
          'breath',
          'caesura',
          'stress',
          'unstress',
          'soft-accent',
        ],
      },
    ],
    [
      "the edition's finger, string and bow",
      '<technical><fingering>3</fingering><string>2</string><up-bow/></technical>',
      { printed: { finger: '3', string: 2, bow: 'up' } },
    ],
  ])('%s', (_, notations, expected) => expect(first(notations)).toMatchObject(expected));

  test.each<[string, Extra, Partial<Note>]>([
    ['grace note with a slash', { before: '<grace slash="yes"/>' }, { grace: 'slashed', duration: 0 }],
    ['grace note without', { before: '<grace/>' }, { grace: 'plain', duration: 0 }],
    ['cue note', { before: '<cue/>' }, { cue: true }],
    ['a note of the size of a cue is played all the same', { after: '<type size="cue">whole</type>' }, { cue: false }],
    ['accidental', { after: '<accidental>natural</accidental>' }, { accidental: { alter: 0, courtesy: false } }],
    ['reminder in brackets', { after: '<accidental parentheses="yes">flat-flat</accidental>' }, { accidental: { alter: -2, courtesy: true } }],
    [
      'dotted eighth in a triplet',
      { after: '<type>eighth</type><dot/><time-modification><actual-notes>3</actual-notes><normal-notes>2</normal-notes></time-modification>' },
      { length: { type: 'eighth', dots: 1, actual: 3, normal: 2 } },
    ],
    ['diamond head', { after: '<notehead>diamond</notehead>' }, { harmonic: 'natural', harmonicShows: 'touching' }],
  ])('%s', (_, extra, expected) => {
    const notes = read(bar(ATTRIBUTES + note('A4', 16, extra) + note('B4', 16, { voice: '1' }))).part.notes;
    expect(notes[0]).toMatchObject(expected);
  });

  test('a note that lasts no time is read as a grace note, and that is said', () => {
    const { part, warnings } = read(bar(ATTRIBUTES + note('A4', 0) + note('B4', 16)));
    expect(part.notes.map((n) => n.grace)).toEqual(['plain', null]);
    expect(warnings.join(' ')).toMatch(/1 notes last no time/);
  });
  test('slurs of the same number in two voices, and one that ends in another voice', () => {
    const slur = (type: string) => `<slur number="1" type="${type}"/>`;
    const { part } = read(
      bar(
        ATTRIBUTES +
          note('A5', 8, { notations: slur('start') }) +
          note('B5', 8, { notations: slur('stop') }) +
          '<backup><duration>16</duration></backup>' +
          note('C4', 4, { voice: '2', notations: slur('start') }) +
          note('D4', 12, { voice: '2' }),
      ) + bar(note('E5', 16, { notations: slur('stop') }), 2),
    );
    const name = (id: string) => part.notes.find((n) => n.id === id)!.pitch.step;
    expect(part.slurs.map((each) => name(each.from) + name(each.to))).toEqual(['AB', 'CE']);
  });
  test('a number that is open in two voices at once closes the slur of its own voice', () => {
    const slur = (type: string) => ({ notations: `<slur number="1" type="${type}"/>` });
    const { part } = read(
      bar(ATTRIBUTES + note('A5', 16, slur('start')) + '<backup><duration>16</duration></backup>' + note('C4', 16, { voice: '2', ...slur('start') })) +
        bar(note('B5', 16, slur('stop')) + '<backup><duration>16</duration></backup>' + note('D4', 16, { voice: '2', ...slur('stop') }), 2),
    );
    const name = (id: string) => part.notes.find((n) => n.id === id)!.pitch.step;
    expect(part.slurs.map((each) => name(each.from) + name(each.to)).sort()).toEqual(['AB', 'CD']);
  });
});

describe('over the staff', () => {
  test('dynamics in the middle of the bar, by offset and at a note; a sforzato leaves the level alone', () => {
    const { part } = read(
      bar(
        ATTRIBUTES +
          direction('<dynamics><pp/></dynamics>') +
          `<direction><direction-type><dynamics><mf/></dynamics></direction-type><offset>2</offset></direction>` +
          note('A4', 8) +
          note('B4', 8, { notations: '<dynamics><sfz/></dynamics>' }),
      ),
    );
    expect(part.dynamics.map(({ tick, text, level }) => [4 * quartersOf(tick), text, level])).toEqual([
      [0, 'pp', 'pp'],
      [2, 'mf', 'mf'],
      [8, 'sfz', null],
    ]);
  });
  test('metric modulation takes its tempo from the one before, in either way of writing it', () => {
    const plain = '<metronome><beat-unit>quarter</beat-unit><per-minute>90</per-minute></metronome>';
    const equal = '<metronome><beat-unit>quarter</beat-unit><beat-unit>quarter</beat-unit><beat-unit-dot/></metronome>';
    const notes =
      '<metronome><metronome-note><metronome-type>half</metronome-type></metronome-note><metronome-relation>equals</metronome-relation><metronome-note><metronome-type>quarter</metronome-type></metronome-note></metronome>';
    const { part } = read(
      bar(ATTRIBUTES + direction(plain) + note('A4', 16)) + bar(direction(equal) + note('A4', 16), 2) + bar(direction(notes) + note('A4', 16), 3),
    );
    expect(part.tempi.map(({ tick, quartersPerMinute, printed }) => [4 * quartersOf(tick), quartersPerMinute, printed])).toEqual([
      [0, 90, 'quarter = 90'],
      [16, 135, 'quarter = dotted quarter'],
      [32, 67.5, 'half = quarter'],
    ]);
  });
  test.each(['pizz.', 'gezupft', 'pizzicato'])('%s plucks until arco; what a file says for sound only counts too', (word) => {
    const { part } = read(
      bar(ATTRIBUTES + direction(`<words>${word}</words>`) + note('A4', 8) + direction('<words>arco</words>') + note('A4', 8)) +
        bar('<sound pizzicato="yes"/>' + note('A4', 8) + '<sound pizzicato="no"/>' + note('A4', 8), 2),
    );
    expect([0, 2, 4, 6].map((quarter) => pizzicatoAt(part)(ticksOfQuarters(quarter)))).toEqual([true, false, true, false]);
  });
  test.each([
    ['con sord.', 'senza sord.'],
    ['mit Dämpfer', 'ohne Dämpfer'],
    ['avec sourdine', 'ôtez les sourdines'],
    ['con sordino', 'via sord.'],
  ])('%s … %s', (on, off) => {
    const { part } = read(bar(ATTRIBUTES + direction(`<words>${on}</words>`) + note('A4', 8) + direction(`<words>${off}</words>`) + note('A4', 8)));
    expect([0, 2].map((quarter) => mutedAt(part)(ticksOfQuarters(quarter)))).toEqual([true, false]);
  });
  test('clefs and keys where they change, in the middle of a bar too; the bar keeps the key that it begins with', () => {
    const clef = (sign: string, line: number, octave = '') => `<attributes><clef><sign>${sign}</sign><line>${line}</line>${octave}</clef></attributes>`;
    const { part } = read(
      bar(ATTRIBUTES + note('A4', 8) + clef('F', 4) + '<attributes><key><fifths>-2</fifths></key></attributes>' + note('A2', 8)) +
        bar(clef('C', 4) + note('A3', 8) + clef('G', 2, '<clef-octave-change>-1</clef-octave-change>') + note('A3', 8), 2),
      'Cello',
    );
    expect(part.clefs.map(({ tick, clef: { sign, line, octave } }) => `${4 * quartersOf(tick)} ${sign}${line} ${octave}`)).toEqual([
      '0 G2 0',
      '8 F4 0',
      '16 C4 0',
      '24 G2 -1',
    ]);
    expect(part.keys).toEqual([
      { tick: 0, fifths: 0 },
      { tick: ticksOfQuarters(2), fifths: -2 },
    ]);
    expect(part.bars.map((each) => each.fifths)).toEqual([0, -2]);
  });
});

describe('bar lines and the order of playing', () => {
  const whole = note('A4', 16);
  const line = (inner: string, location = 'right') => `<barline location="${location}">${inner}</barline>`;
  const order = (bars: string) =>
    playedOrder(read(bars).part.bars)
      .order.map((i) => i + 1)
      .join(' ');
  test('repeats with voltas', () => {
    expect(
      order(
        bar(ATTRIBUTES + line('<repeat direction="forward"/>', 'left') + whole) +
          bar(line('<ending number="1" type="start"/>', 'left') + whole + line('<ending number="1" type="stop"/><repeat direction="backward"/>'), 2) +
          bar(line('<ending number="2" type="start"/>', 'left') + whole + line('<ending number="2" type="discontinue"/>'), 3),
      ),
    ).toBe('1 2 1 3');
  });
  test('a repeat that is played three times', () => {
    expect(order(bar(ATTRIBUTES + whole + line('<repeat direction="backward" times="3"/>')) + bar(whole, 2))).toBe('1 1 1 2');
  });
  test('Dal Segno al Coda by signs and words', () => {
    expect(
      order(
        bar(ATTRIBUTES + whole) +
          bar(direction('<segno/>') + whole, 2) +
          bar(whole + direction('<coda/>'), 3) +
          bar(whole + direction('<words>D.S. al Coda</words>'), 4) +
          bar(direction('<coda/>') + whole, 5),
      ),
    ).toBe('1 2 3 4 2 3 5');
  });
  test('Da Capo al Fine by sounds', () => {
    expect(
      order(
        bar(ATTRIBUTES + whole + direction('<words>Fine</words>', '<sound fine="yes"/>')) +
          bar(whole + direction('<words>from the top</words>', '<sound dacapo="yes"/>'), 2),
      ),
    ).toBe('1 2 1');
  });
});
