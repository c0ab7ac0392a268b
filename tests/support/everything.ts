/**
 * Scores with everything in them, composed for the tests: voices, chords, ties, tuplets, grace notes, clefs, keys,
 * transposition, octave lines, repeats and signs, partwise and timewise, and typed in ABC.
 */
import { musicXmlFromAbc } from '../../core/formats/abc/to-musicxml';
import { demoText, DEMO_NAMES } from './demo';

interface NoteOptions {
  chord?: boolean;
  grace?: 'slash' | 'plain';
  voice?: number;
  staff?: number;
  type?: string;
  dots?: number;
  tuplet?: [number, number];
  tie?: Array<'start' | 'stop'>;
  notations?: string;
  accidental?: string;
}

/** Divisions of the quarter. */
const D = 12;
const TYPES: Readonly<Record<number, string>> = {
  48: 'whole',
  24: 'half',
  12: 'quarter',
  6: 'eighth',
  3: '16th',
  36: 'half',
  18: 'quarter',
  9: 'eighth',
  4: 'eighth',
  8: 'quarter',
};

function note(pitch: string, duration: number, o: NoteOptions = {}): string {
  const alter = { '#': 1, b: -1, x: 2 }[pitch[1]!];
  const dotted = duration === 36 || duration === 18 || duration === 9;
  const ties = (o.tie ?? []).map((type) => `<tie type="${type}"/>`).join('');
  const notations = (o.tie ?? []).map((type) => `<tied type="${type}"/>`).join('') + (o.notations ?? '');
  return (
    `<note>${o.grace ? `<grace${o.grace === 'slash' ? ' slash="yes"' : ''}/>` : ''}${o.chord ? '<chord/>' : ''}` +
    `<pitch><step>${pitch[0]}</step>${alter ? `<alter>${alter}</alter>` : ''}<octave>${pitch.at(-1)}</octave></pitch>` +
    `${o.grace ? '' : `<duration>${duration}</duration>`}${ties}<voice>${o.voice ?? 1}</voice><type>${o.type ?? TYPES[duration] ?? 'quarter'}</type>${dotted ? '<dot/>' : ''}` +
    `${o.accidental ? `<accidental>${o.accidental}</accidental>` : ''}` +
    `${o.tuplet ? `<time-modification><actual-notes>${o.tuplet[0]}</actual-notes><normal-notes>${o.tuplet[1]}</normal-notes></time-modification>` : ''}` +
    `${o.staff ? `<staff>${o.staff}</staff>` : ''}${notations ? `<notations>${notations}</notations>` : ''}</note>\n`
  );
}
const rest = (duration: number, voice = 1) => `<note><rest/><duration>${duration}</duration><voice>${voice}</voice><type>${TYPES[duration]}</type></note>\n`;
const backup = (duration: number) => `<backup><duration>${duration}</duration></backup>\n`;
const forward = (duration: number, voice = 1) => `<forward><duration>${duration}</duration><voice>${voice}</voice></forward>\n`;
const attributes = (inner: string) => `<attributes>${inner}</attributes>\n`;
const clef = (sign: string, line: number) => `<clef><sign>${sign}</sign><line>${line}</line></clef>`;
const direction = (type: string, more = '') => `<direction><direction-type>${type}</direction-type>${more}</direction>\n`;
const slur = (type: string, number = 1) => `<slur number="${number}" type="${type}"/>`;
const triplet = (pitches: readonly string[]) =>
  pitches
    .map((pitch, i) => note(pitch, 4, { tuplet: [3, 2], notations: i === 0 ? '<tuplet type="start"/>' : i === 2 ? '<tuplet type="stop"/>' : '' }))
    .join('');
const start = (fifths: number, sign: string, line: number, more = '') =>
  attributes(`<divisions>${D}</divisions><key><fifths>${fifths}</fifths></key><time><beats>4</beats><beat-type>4</beat-type></time>${clef(sign, line)}${more}`);

const violin = [
  start(2, 'G', 2) +
    direction('<words>Allegro</words>') +
    direction('<metronome><beat-unit>quarter</beat-unit><per-minute>96</per-minute></metronome>', '<sound tempo="96"/>') +
    note('A5', 24, { notations: slur('start') }) +
    note('G5', 24, { notations: slur('stop') }) +
    backup(48) +
    note('D4', 12, { voice: 2 }) +
    note('F#4', 12, { voice: 2, chord: true }) +
    forward(12, 2) +
    note('E4', 24, { voice: 2 }),
  triplet(['A4', 'B4', 'C#5']) + note('D5', 18) + note('E5', 6) + note('F#5', 12, { tie: ['start'] }),
  note('F#5', 24, { tie: ['stop'] }) +
    note('G5', 6, { grace: 'slash', type: 'eighth' }) +
    note('A5', 12, { notations: '<ornaments><trill-mark/><accidental-mark>sharp</accidental-mark></ornaments>' }) +
    rest(12),
  '<barline location="left"><repeat direction="forward"/></barline>\n' +
    note('B4', 12, { grace: 'plain', type: '16th' }) +
    note('C#5', 12, { grace: 'plain', type: '16th' }) +
    note('D5', 12, { notations: '<articulations><staccato/><accent/></articulations>' }) +
    note('D4', 12) +
    note('A4', 12, { chord: true }) +
    note('F#5', 12, { chord: true }) +
    note('E5', 24, { notations: '<ornaments><tremolo type="single">3</tremolo></ornaments>' }),
  '<barline location="left"><ending number="1" type="start"/></barline>\n' +
    note('C5', 48, { accidental: 'natural', notations: '<fermata/>' }) +
    '<barline location="right"><ending number="1" type="stop"/><repeat direction="backward"/></barline>\n',
  '<barline location="left"><ending number="2" type="start"/></barline>\n' +
    note('D5', 48) +
    '<barline location="right"><ending number="2" type="stop"/></barline>\n',
  attributes('<key><fifths>-3</fifths></key><time><beats>3</beats><beat-type>4</beat-type></time>') +
    direction('<octave-shift type="down" size="8" number="1"/>') +
    note('Eb6', 12) +
    note('D6', 12) +
    note('C6', 12) +
    direction('<octave-shift type="stop" size="8" number="1"/>'),
  note('B4', 36, {
    accidental: 'natural',
    notations: '<technical><harmonic><natural/></harmonic><fingering>3</fingering><string>2</string><up-bow/></technical>',
  }),
];
const viola = [
  start(2, 'C', 3) + note('D4', 12) + note('E4', 12) + note('F#4', 24),
  note('A4', 24) + attributes(clef('G', 2)) + note('A5', 24),
  note('F#5', 48),
  attributes(clef('C', 3)) + note('D3', 6) + note('A3', 6) + note('D4', 12) + note('Fx3', 12, { accidental: 'double-sharp' }) + note('G#3', 12),
  note('A3', 48),
  note('F#3', 48),
  attributes('<key><fifths>-3</fifths></key><time><beats>3</beats><beat-type>4</beat-type></time>') + note('C4', 36),
  note('G3', 36),
];
const transpose = '<transpose><diatonic>-7</diatonic><chromatic>-12</chromatic><octave-change>0</octave-change></transpose>';
const bass = [
  start(2, 'F', 4, transpose) + note('D3', 48),
  note('A2', 24) + note('D3', 24),
  note('B2', 48),
  note('D3', 24) + note('A3', 24, { notations: slur('start', 2) }),
  note('G3', 24, { notations: slur('stop', 2) }) + note('E2', 24),
  note('D3', 48),
  attributes('<key><fifths>-3</fifths></key><time><beats>3</beats><beat-type>4</beat-type></time>') + note('C3', 36),
  note('G2', 36),
];

const NAMES = ['Violin I', 'Viola', 'Double Bass'];
const PARTS = [violin, viola, bass];
const list = NAMES.map((name, i) => `<score-part id="P${i + 1}"><part-name>${name}</part-name></score-part>`).join('\n');
const head = (root: string, version: string) =>
  `<?xml version="1.0" encoding="UTF-8"?>\n<${root} version="${version}">\n<work><work-title>Everything</work-title></work>\n<part-list>\n${list}\n</part-list>\n`;

export const EVERYTHING =
  head('score-partwise', '3.0') +
  PARTS.map((bars, p) => `<part id="P${p + 1}">\n${bars.map((bar, i) => `<measure number="${i + 1}">\n${bar}</measure>`).join('\n')}\n</part>`).join('\n') +
  '\n</score-partwise>\n';

export const EVERYTHING_TIMEWISE =
  head('score-timewise', '2.0') +
  violin.map((_, i) => `<measure number="${i + 1}">\n${PARTS.map((bars, p) => `<part id="P${p + 1}">\n${bars[i]}</part>`).join('\n')}\n</measure>`).join('\n') +
  '\n</score-timewise>\n';

const ABC = `X:1
T:Typed everything
M:4/4
L:1/8
Q:1/4=88
K:G
V:1 name="Violin"
V:2 name="Cello" clef=bass
[V:1] !p! v(G>A) uB2 (3cde [GB]2- | [GB]2 !trill!^c2 .d .e f=f | !<(! g4 a4!<)! | !f! b8 |]
[V:2] G,,4 D,4 | [G,,D,]8 | C,2 E,2 D,4 | G,,8 |]
`;

/** Every score that the tests have, by name, as MusicXML text. */
export function testScores(): Record<string, string> {
  const typed = musicXmlFromAbc(ABC);
  if (!typed.ok) throw new Error(typed.problem.what);
  return {
    ...Object.fromEntries(DEMO_NAMES.map((name) => [name, demoText(name)])),
    everything: EVERYTHING,
    'everything-timewise': EVERYTHING_TIMEWISE,
    typed: typed.value.musicXml,
  };
}
