/**
 * Short phrases with the bowing that method books and common practice give them. "LM": the rules of L. Mozart, Versuch einer
 * gründlichen Violinschule (1756), chapter 4, from memory; "cp": common practice of teachers today.
 */
import type { MakeOptions } from '../../core/testing/make';

export interface BowRule {
  name: string;
  source: 'LM' | 'cp';
  music: string;
  options?: MakeOptions;
  /** Direction of every note: a hooked or slurred note has the direction of the bow it lies in. */
  ways: string;
}

const times = (count: number, music: string): string => Array.from({ length: count }, () => music).join(' ');

export const BOW_RULES: readonly BowRule[] = [
  { name: 'the first note of a bar down, then as it comes', source: 'LM', music: 'A4 B4 C5 D5 | E5 D5 C5 B4 | A4/4', ways: 'dudu dudu d' },
  { name: 'an upbeat up', source: 'LM', music: 'E4 | A4 B4 C5 D5 | A4/4', options: { pickupQuarters: 1 }, ways: 'u dudu d' },
  {
    name: 'two eighths before the bar, slurred: one up-bow',
    source: 'cp',
    music: '(E4/0.5 F#4/0.5) | G4 A4 B4 A4 | G4/4',
    options: { pickupQuarters: 1 },
    ways: 'uu dudu d',
  },
  {
    name: 'two eighths before the bar, separate: counted back from the down-bow',
    source: 'cp',
    music: 'D4/0.5 E4/0.5 | F4 G4 A4 G4 | F4/4',
    options: { pickupQuarters: 1 },
    ways: 'du dudu d',
  },
  {
    name: 'three eighths before the bar',
    source: 'cp',
    music: 'C4/0.5 D4/0.5 E4/0.5 | F4 G4 A4 G4 | F4/4',
    options: { pickupQuarters: 1.5 },
    ways: 'udu dudu d',
  },
  { name: 'an upbeat in three', source: 'LM', music: 'E4 | A4/2 B4 | C5/2 D5 | E5/2', options: { beats: 3, pickupQuarters: 1 }, ways: 'u du du d' },
  {
    name: 'an eighth before a bar of six eighths',
    source: 'cp',
    music: 'E4/0.5 | A4 B4/0.5 C5 B4/0.5 | A4/2.5',
    options: { beats: 6, beatType: 8, pickupQuarters: 0.5, tempo: 120 },
    ways: 'u dudu d',
  },
  { name: 'a rest on the first beat: what follows begins up', source: 'LM', music: 'r A4 B4 C5 | D5/4', ways: 'udu d' },
  { name: 'after a rest the bar begins down again', source: 'cp', music: 'A4 B4 C5 r | D5 C5 B4 r | A4/4', ways: 'dud dud d' },
  { name: 'after a rest a last beat is an upbeat', source: 'LM', music: 'A4/2 r B4 | C5/4', ways: 'd u d' },
  {
    name: 'dotted eighth and sixteenth hooked, quick',
    source: 'cp',
    music: `${times(4, 'A4/0.75 B4/0.25')} | C5/4`,
    options: { tempo: 132 },
    ways: 'dduudduu d',
  },
  {
    name: 'dotted eighth and sixteenth hooked, slow',
    source: 'cp',
    music: `${times(4, 'A4/0.75 B4/0.25')} | C5/4`,
    options: { tempo: 60 },
    ways: 'dduudduu d',
  },
  {
    name: 'dotted quarter and eighth hooked in three',
    source: 'cp',
    music: 'D5/1.5 E5/0.5 F#5 | E5/1.5 F#5/0.5 G5 | D5/3',
    options: { beats: 3, tempo: 112 },
    ways: 'ddu ddu d',
  },
  {
    name: 'dotted figures in six eighths',
    source: 'cp',
    music: `${times(2, 'A4/0.75 B4/0.25 C5/0.5')} | A4/3`,
    options: { beats: 6, beatType: 8, tempo: 66 },
    ways: 'dduddu d',
  },
  { name: 'long and short in three: long down, short up', source: 'LM', music: 'A4/2 B4 | C5/2 D5 | E5/3', options: { beats: 3 }, ways: 'du du d' },
  {
    name: 'quarter and eighth in six eighths',
    source: 'cp',
    music: 'A4 B4/0.5 C5 B4/0.5 | A4/3',
    options: { beats: 6, beatType: 8, tempo: 132 },
    ways: 'dudu d',
  },
  {
    name: 'slurred pairs in six eighths',
    source: 'cp',
    music: '(A4/0.5 B4/0.5) C5/0.5 (D5/0.5 C5/0.5) B4/0.5 | A4/3',
    options: { beats: 6, beatType: 8, tempo: 96 },
    ways: 'dduddu d',
  },
  {
    name: 'three slurred, three slurred',
    source: 'LM',
    music: '(A4/0.5 B4/0.5 C5/0.5) (D5/0.5 C5/0.5 B4/0.5) | A4/3',
    options: { beats: 6, beatType: 8, tempo: 96 },
    ways: 'ddduuu d',
  },
  {
    name: 'three slurred and one separate',
    source: 'cp',
    music: `${times(4, '(A4/0.25 B4/0.25 C5/0.25) D5/0.25')} | E5/4`,
    options: { tempo: 72 },
    ways: 'ddduddduddduddd u d'.replace(/ /g, ''),
  },
  {
    name: 'one separate and three slurred',
    source: 'cp',
    music: `${times(4, 'A4/0.25 (B4/0.25 C5/0.25 D5/0.25)')} | E5/4`,
    options: { tempo: 72 },
    ways: 'duuuduuuduuuduuu d',
  },
  { name: 'three quarters slurred and one separate', source: 'cp', music: '(A4 B4 C5) D5 | (E5 D5 C5) B4 | A4/4', ways: 'dddu dddu d' },
  { name: 'slurs of a bar', source: 'LM', music: '(A4 B4 C5 D5) | (E5 D5 C5 B4) | A4/4', ways: 'dddd uuuu d' },
  { name: 'slurred pairs', source: 'LM', music: '(A4 B4) (C5 D5) | (E5 D5) (C5 B4) | A4/4', ways: 'dduu dduu d' },
  { name: 'sixteenths as they come', source: 'LM', music: `${times(4, 'A4/0.25 B4/0.25 C5/0.25 B4/0.25')} | A4/4`, ways: 'dudududududududu d' },
  {
    name: 'an eighth and two sixteenths as they come',
    source: 'cp',
    music: `${times(4, 'C5/0.5 A4/0.25 B4/0.25')} | A4/4`,
    ways: 'dududududud u d'.replace(/ /g, ''),
  },
  { name: 'triplets as they come', source: 'LM', music: `${times(4, 'A4/0.3333 B4/0.3333 C5/0.3334')} | A4/4`, ways: 'dudududududu d' },
  { name: 'syncopations as they come', source: 'LM', music: 'A4/0.5 B4 C5/0.5 D5/0.5 E5 F5/0.5 | G5/4', ways: 'dududu d' },
  {
    name: 'three stopped notes in a waltz bar: down, up, up',
    source: 'cp',
    music: 'A5. F#5. D5. | B5. G5. E5. | D5/3',
    options: { beats: 3, tempo: 112 },
    ways: 'duu duu d',
  },
  {
    name: 'a half note and two quarters: the quarters in one up-bow, so that the bar begins down',
    source: 'LM',
    music: 'A4/2 B4 C5 | D5/2 C5 B4 | A4/4',
    ways: 'duu duu d',
  },
  { name: 'two eighths in one bow where the bar has an odd number', source: 'cp', music: 'A4 B4/0.5 C5/0.5 D5 E5 | A4/4', ways: 'duudu d' },
  {
    name: 'chords down, one after another',
    source: 'cp',
    music: 'G3+D4+B4+G5 G3+D4+B4+G5 G3+D4+B4+G5/2 | G3+D4+B4+G5/4',
    options: { dynamic: 'f', tempo: 72 },
    ways: 'ddd d',
  },
  { name: 'a last chord down', source: 'LM', music: 'A4/2 B4/2 | G3+D4+B4+G5/4', ways: 'du d' },
  { name: 'accents between rests all down', source: 'cp', music: 'A4! r B4! r | C5! r D5! r | A4/4', ways: 'dd dd d' },
  { name: 'dotted half and quarter: long down, short up', source: 'LM', music: 'A4/3 B4 | C5/3 D5 | E5/4', ways: 'du du d' },
  { name: 'repeated notes in portato begin up', source: 'cp', music: '(A4-. A4-. A4-. A4-.) | A4/4', options: { dynamic: 'p', tempo: 72 }, ways: 'uuuu d' },
  { name: 'short and long in three, as it comes', source: 'LM', music: 'A4 B4/2 | C5 D5/2 | E5/3', options: { beats: 3 }, ways: 'du du d' },
  { name: 'long notes, one bow each', source: 'cp', music: 'A4/4 | B4/4 | C5/4 | D5/4', options: { tempo: 72 }, ways: 'd u d u' },
];

/** Written after the costs were settled, and not used to change them. */
export const HELD_OUT_RULES: readonly BowRule[] = [
  {
    name: 'upbeat of a quarter in a march',
    source: 'cp',
    music: 'D5 | G4 B4 D5 B4 | C5 A4 F#4 A4 | G4/3',
    options: { pickupQuarters: 1, tempo: 112, fifths: 1 },
    ways: 'u dudu dudu d',
  },
  {
    name: 'eighths in two four as they come',
    source: 'LM',
    music: 'A4/0.5 B4/0.5 C5/0.5 D5/0.5 | E5/0.5 D5/0.5 C5/0.5 B4/0.5 | A4/2',
    options: { beats: 2 },
    ways: 'dudu dudu d',
  },
  { name: 'two slurred, two separate', source: 'cp', music: '(A4/0.5 B4/0.5) C5/0.5 D5/0.5 (E5/0.5 D5/0.5) C5/0.5 B4/0.5 | A4/4', ways: 'dduduudu d' },
  { name: 'two separate, two slurred', source: 'cp', music: 'A4/0.5 B4/0.5 (C5/0.5 D5/0.5) E5/0.5 D5/0.5 (C5/0.5 B4/0.5) | A4/4', ways: 'dudduduu d' },
  { name: 'a slur of three quarters in three', source: 'LM', music: '(A4 B4 C5) | (D5 C5 B4) | A4/3', options: { beats: 3 }, ways: 'ddd uuu d' },
  { name: 'dotted eighths in two four', source: 'cp', music: 'D5/0.75 E5/0.25 F#5/0.75 E5/0.25 | D5/2', options: { beats: 2, tempo: 84 }, ways: 'dduu d' },
  { name: 'a rest of an eighth, then three eighths', source: 'cp', music: 'r/0.5 A4/0.5 B4/0.5 C5/0.5 D5/2 | E5/4', options: { tempo: 80 }, ways: 'udud d' },
  { name: 'half notes as they come', source: 'LM', music: 'A4/2 B4/2 | C5/2 D5/2 | E5/4', options: { tempo: 72 }, ways: 'du du d' },
  { name: 'chord, rest, chord', source: 'cp', music: 'G3+D4+B4/2 r/2 | G3+D4+B4/2 r/2 | G3+D4+B4/4', options: { dynamic: 'f' }, ways: 'd d d' },
  {
    name: 'twelve eighths in groups of three, slurred',
    source: 'cp',
    music: times(4, '(A4/0.5 B4/0.5 C5/0.5)') + ' | A4/6',
    options: { beats: 12, beatType: 8 },
    ways: 'ddduuuddduuu d',
  },
];
