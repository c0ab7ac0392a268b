/** Decorations of ABC ("!p!", "v", ".") as MusicXML: directions before or after the note, and its notations. */
import { levelOf } from '../../score/dynamics';

export interface Decorations {
  /** Directions in front of the note. */
  before: string[];
  /** Directions behind it. */
  after: string[];
  notations: string;
}

const ARTICULATIONS: Readonly<Record<string, string>> = {
  staccato: 'staccato',
  tenuto: 'tenuto',
  accent: 'accent',
  emphasis: 'accent',
  marcato: 'strong-accent',
  umarcato: 'strong-accent',
  wedge: 'staccatissimo',
  breath: 'breath-mark',
  caesura: 'caesura',
};
const TECHNICAL: Readonly<Record<string, string>> = {
  upbow: '<up-bow/>',
  downbow: '<down-bow/>',
  thumb: '<thumb-position/>',
  open: '<open-string/>',
  snap: '<snap-pizzicato/>',
  plus: '<stopped/>',
  harmonic: '<harmonic><natural/></harmonic>',
  '0': '<fingering>0</fingering>',
  '1': '<fingering>1</fingering>',
  '2': '<fingering>2</fingering>',
  '3': '<fingering>3</fingering>',
  '4': '<fingering>4</fingering>',
  '5': '<fingering>5</fingering>',
};
const ORNAMENTS: Readonly<Record<string, string>> = {
  trill: '<trill-mark/>',
  mordent: '<mordent/>',
  lowermordent: '<mordent/>',
  pralltriller: '<inverted-mordent/>',
  uppermordent: '<inverted-mordent/>',
  turn: '<turn/>',
  roll: '<turn/>',
  irishroll: '<turn/>',
  invertedturn: '<inverted-turn/>',
  '/': '<tremolo type="single">1</tremolo>',
  '//': '<tremolo type="single">2</tremolo>',
  '///': '<tremolo type="single">3</tremolo>',
  '////': '<tremolo type="single">4</tremolo>',
};
const WEDGES: Readonly<Record<string, string>> = { 'crescendo(': 'crescendo', 'diminuendo(': 'diminuendo', '<(': 'crescendo', '>(': 'diminuendo' };
const WEDGE_ENDS = new Set(['crescendo)', 'diminuendo)', '<)', '>)']);
const WORDS: Readonly<Record<string, string>> = {
  'D.C.': 'D.C.',
  'D.S.': 'D.S.',
  dacapo: 'Da Capo',
  dacoda: 'To Coda',
  fine: 'Fine',
  'D.C.alfine': 'D.C. al Fine',
  'D.S.alfine': 'D.S. al Fine',
  'D.C.alcoda': 'D.C. al Coda',
  'D.S.alcoda': 'D.S. al Coda',
};

export function decorationsOf(names: readonly string[]): Decorations {
  const found = { articulations: '', technical: '', ornaments: '', others: '' };
  const result: Decorations = { before: [], after: [], notations: '' };
  const sign = (content: string, placement: 'above' | 'below' = 'above') =>
    `<direction placement="${placement}"><direction-type>${content}</direction-type></direction>\n`;
  for (const name of names) {
    if (ARTICULATIONS[name]) found.articulations += `<${ARTICULATIONS[name]}/>`;
    else if (TECHNICAL[name]) found.technical += TECHNICAL[name];
    else if (ORNAMENTS[name]) found.ornaments += ORNAMENTS[name];
    else if (name === 'fermata' || name === 'invertedfermata') found.others += '<fermata/>';
    else if (name === 'arpeggio') found.others += '<arpeggiate/>';
    else if (levelOf(name) !== undefined)
      result.before.push(
        sign(
          `<dynamics>${/^(p{1,6}|f{1,6}|mp|mf|sf|sfp|fp|sfz|rf|rfz|fz)$/.test(name) ? `<${name}/>` : `<other-dynamics>${name}</other-dynamics>`}</dynamics>`,
          'below',
        ),
      );
    else if (WEDGES[name]) result.before.push(sign(`<wedge type="${WEDGES[name]}"/>`, 'below'));
    else if (WEDGE_ENDS.has(name)) result.after.push(sign('<wedge type="stop"/>', 'below'));
    else if (name === 'segno') result.before.push(sign('<segno/>'));
    else if (name === 'coda') result.before.push(sign('<coda/>'));
    else if (WORDS[name]) result.after.push(sign(`<words>${WORDS[name]}</words>`));
  }
  const group = (name: 'articulations' | 'technical' | 'ornaments') => (found[name] ? `<${name}>${found[name]}</${name}>` : '');
  result.notations = group('ornaments') + group('technical') + group('articulations') + found.others;
  return result;
}
