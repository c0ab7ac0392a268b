/**
 * Cadences, sequences and foreign notes as textbooks of harmony have them, read by hand (from memory; common practice). Voices from the
 * highest down, in the notation of `makeScore`; a chord for each beat ("." goes on), foreign notes as "voice:note in its voice, from 1".
 */
export interface Cadence {
  name: string;
  beats?: number;
  beatType?: number;
  fifths?: number;
  pickupQuarters?: number;
  voices: readonly string[];
  /** Root, kind, "/" inversion; one for each quarter (for each eighth in metres of eighths: each dotted quarter). */
  chords: string;
  foreign?: Readonly<Record<string, string>>;
}

export const CADENCES: readonly Cadence[] = [
  { name: 'I IV V I', voices: ['C5 C5 B4 C5', 'G4 A4 G4 G4', 'E4 F4 D4 E4', 'C3 F3 G3 C3'], chords: 'C F G C' },
  { name: 'I ii6 V7 I', voices: ['C5 D5 B4 C5', 'G4 A4 F4 E4', 'E4 F4 D4 C4', 'C3 F3 G3 C3'], chords: 'C Dm/1 G7 C' },
  { name: 'half close in minor: i VI iv V', voices: ['A4 A4 A4 G#4', 'E4 F4 F4 E4', 'C4 C4 D4 B3', 'A2 F3 D3 E3'], chords: 'Am F Dm E' },
  { name: 'deceptive close: I V7 vi', beats: 3, voices: ['C5 B4 C5', 'G4 F4 E4', 'E4 D4 C4', 'C3 G3 A3'], chords: 'C G7 Am' },
  { name: 'plagal close', beats: 3, fifths: 1, voices: ['B4 C5 B4', 'G4 G4 G4', 'D4 E4 D4', 'G3 C3 G2'], chords: 'G C G' },
  {
    name: 'six-four before the dominant',
    beats: 2,
    voices: ['E5 F5 | E5 D5 | C5/2', 'G4 A4 | G4 F4 | E4/2', 'C4 C4 | C4 B3 | C4/2', 'C3 F3 | G3 G3 | C3/2'],
    chords: 'C F C/2 G7 C .',
  },
  {
    name: 'circle of fifths in sevenths',
    fifths: 0,
    voices: [
      'E5/2 D5/2 | D5/2 C5/2 | C5/2 F5/2 | E5/2 E5/2',
      'G4/2 F4/2 | F4/2 E4/2 | E4/2 D4/2 | D4/2 C4/2',
      'C4/2 C4/2 | B3/2 B3/2 | A3/2 A3/2 | G#3/2 A3/2',
      'A2/2 D3/2 | G2/2 C3/2 | F2/2 B2/2 | E2/2 A2/2',
    ],
    chords: 'Am7 . Dm7 . G7 . CM7 . FM7 . Bh7 . E7 . Am .',
  },
  {
    name: 'falling thirds over a walking bass',
    fifths: 2,
    voices: [
      'F#5/2 E5/2 | D5/2 C#5/2 | B4/2 A4/2 | B4/2 C#5/2',
      'D5/2 C#5/2 | B4/2 A4/2 | G4/2 F#4/2 | G4/2 E4/2',
      'A3/2 A3/2 | F#3/2 F#3/2 | D4/2 D4/2 | D4/2 A3/2',
      'D3/2 A2/2 | B2/2 F#2/2 | G2/2 D2/2 | G2/2 A2/2',
    ],
    chords: 'D . A . Bm . F#m . G . D . G . A .',
  },
  { name: 'diminished seventh', fifths: -2, voices: ['D5 Eb5 Eb5 D5', 'Bb4 C5 C5 Bb4', 'G4 G4 A4 G4', 'G3 Eb3 F#3 G3'], chords: 'Gm Cm/1 F#o7 Gm' },
  { name: 'Italian sixth', beats: 3, fifths: -3, voices: ['C5 C5 B4', 'G4 F#4 G4', 'Eb4 C4 D4', 'C3 Ab2 G2'], chords: 'Cm AbIt G' },
  { name: 'French sixth', beats: 3, fifths: -3, voices: ['C5 C5 B4', 'G4 F#4 G4', 'Eb4 D4 D4', 'C3 Ab2 G2'], chords: 'Cm AbFr G' },
  { name: 'German sixth', fifths: -3, voices: ['G5 F#5 G5 G5', 'Eb5 Eb5 Eb5 D5', 'C4 C4 C4 B3', 'C3 Ab2 G2 G2'], chords: 'Cm AbGer Cm/2 G' },
  { name: 'lowered second step', voices: ['C5 Bb4 G#4 A4', 'A4 F4 E4 E4', 'E4 D4 B3 C4', 'A3 D3 E3 A2'], chords: 'Am Bb/1 E Am' },
  {
    name: 'dominant of the second step',
    voices: ['C5 A4 A4 B4 | C5/4', 'G4 G4 F4 F4 | E4/4', 'E4 E4 D4 D4 | C4/4', 'C3 C#3 D3 G3 | C3/4'],
    chords: 'C A7/1 Dm G7 C . . .',
  },
  {
    name: 'a bass in thirds: I V6 vi I6 IV ii V I',
    voices: ['E5 D5 C5 C5 | C5 D5 B4 C5', 'C5 B4 A4 G4 | A4 A4 G4 G4', 'G4 G4 E4 E4 | F4 F4 D4 E4', 'C3 B2 A2 E3 | F3 D3 G3 C3'],
    chords: 'C G/1 Am C/1 F Dm G C',
  },
  {
    name: 'sevenths turned: V65 I V43 I6 V2 I6',
    beats: 2,
    voices: ['F5 E5 | F5 G5 | G5 G5', 'D5 C5 | B4 C5 | D5 C5', 'G4 G4 | G4 G4 | B4 G4', 'B2 C3 | D3 E3 | F3 E3'],
    chords: 'G7/1 C G7/2 C/1 G7/3 C/1',
  },
  {
    name: 'broken chords under a tune',
    voices: [
      'E5/2 G5/2 | F5/2 D5/2 | E5/4',
      'C4/.5 G4/.5 E4/.5 G4/.5 C4/.5 G4/.5 E4/.5 G4/.5 | B3/.5 G4/.5 D4/.5 G4/.5 B3/.5 G4/.5 F4/.5 G4/.5 | C4/.5 G4/.5 E4/.5 G4/.5 C4/2',
    ],
    chords: 'C . . . G7/1 . . . C . . .',
  },
  {
    name: 'a waltz in three',
    beats: 3,
    fifths: -1,
    voices: ['A4/2 C5 | Bb4/2 G4 | E4/2 G4 | F4/3', 'r A3+C4 A3+C4 | r Bb3+D4 Bb3+D4 | r Bb3+C4 Bb3+C4 | r A3+C4 A3+C4', 'F3 r r | G3 r r | C3 r r | F3 r r'],
    chords: 'F . . Gm . . C7 . . F . .',
  },
  {
    name: 'a jig in six eighths',
    beats: 6,
    beatType: 8,
    fifths: 1,
    voices: [
      'B4/1 B4/.5 D5/1 B4/.5 | C5/1 E5/.5 D5/1 C5/.5 | B4/3',
      'G4/1.5 G4/1.5 | G4/1.5 F#4/1.5 | G4/3',
      'D4/1.5 D4/1.5 | E4/1.5 D4/1.5 | D4/3',
      'G3/1.5 G3/1.5 | C3/1.5 D3/1.5 | G2/3',
    ],
    chords: 'G . C D7 G .',
    foreign: {},
  },
  {
    name: 'passing notes in the upper voice',
    voices: ['C5 D5 E5 F5 | G5/4', 'G4/4 | G4/4', 'E4/4 | E4/4', 'C3/4 | C3/4'],
    chords: 'C . . . C . . .',
    foreign: { '1:2': 'passing', '1:4': 'passing' },
  },
  {
    name: 'passing notes in eighths over I and V',
    voices: [
      'E5/.5 D5/.5 C5/.5 D5/.5 E5/.5 F5/.5 G5 | D5/.5 C5/.5 B4/.5 C5/.5 D5/.5 E5/.5 F5 | E5/4',
      'G4/4 | G4/4 | G4/4',
      'C4/4 | B3/4 | C4/4',
      'C3/4 | G2/4 | C3/4',
    ],
    chords: 'C . . . G . . . C . . .',
    foreign: { '1:2': 'passing', '1:4': 'passing', '1:6': 'passing', '1:9': 'passing', '1:11': 'passing', '1:13': 'passing', '1:14': 'neighbour' },
  },
  {
    name: 'neighbours above and below',
    voices: ['G5 A5 G5 F#5 | G5/4', 'E5/4 | E5/4', 'C4/4 | C4/4', 'C3/4 | C3/4'],
    chords: 'C . . . C . . .',
    foreign: { '1:2': 'neighbour', '1:4': 'neighbour' },
  },
  {
    name: 'leaning notes by leap',
    beats: 3,
    voices: ['G4/3 | D5/2 C5 | A4/2 G4', 'F4/3 | E4/3 | E4/3', 'B3/3 | G3/3 | G3/3', 'G2/3 | C3/3 | C3/3'],
    chords: 'G7 . . C . . C . .',
    foreign: { '1:2': 'leaning', '1:4': 'leaning' },
  },
  {
    name: 'a sigh in eighths',
    beats: 2,
    fifths: -1,
    voices: ['C5 F5 | Bb4/.5 A4/.5 G4/.5 F4/.5 | E4/2', 'A4/2 | F4/2 | Bb3/2', 'F4/2 | C4/2 | G3/2', 'F3/2 | F3/2 | C3/2'],
    chords: 'F . F . C7 .',
    foreign: { '1:3': 'leaning', '1:5': 'leaning' },
  },
  {
    name: 'suspended fourth',
    voices: ['C5/2 C5~/2 | C5/2 B4/2 | C5/4', 'G4/2 A4/2 | G4/4 | G4/4', 'E4/2 F4/2 | D4/4 | E4/4', 'C3/2 F3/2 | G3/4 | C3/4'],
    chords: 'C . F . G . . . C . . .',
    foreign: { '1:2': 'suspended' },
  },
  {
    name: 'suspended seventh over a sixth, prepared and struck again',
    beats: 2,
    voices: ['C5/2 | C5 B4 | C5/2', 'E4/2 | F4/2 | G4/2', 'C4/2 | D4/2 | E4/2', 'A3/2 | D3/2 | C3/2'],
    chords: 'Am . Bo/1 . C .',
    foreign: { '1:2': 'suspended' },
  },
  {
    name: 'suspended ninth over I',
    voices: ['D5~/4 | D5/2 C5/2', 'F4/4 | E4/4', 'B3/4 | G3/4', 'G3/4 | C3/4'],
    chords: 'G7 . . . C . . .',
    foreign: { '1:1': 'suspended' },
  },
  {
    name: 'anticipated tonic',
    voices: ['D5/2 B4/1.5 C5/.5 | C5/4', 'F4/4 | E4/4', 'D4/4 | C4/4', 'G3/4 | C3/4'],
    chords: 'G7 . . . C . . .',
    foreign: { '1:3': 'anticipated' },
  },
  {
    name: 'escaping note',
    voices: ['E5/3.5 F5/.5 | D5/4', 'G4/4 | G4/4', 'C4/4 | B3/4', 'C3/4 | G3/4'],
    chords: 'C . . . G . . .',
    foreign: { '1:2': 'escaping' },
  },
  {
    name: 'chromatic passing note',
    voices: ['G4/3 G#4 | A4/4', 'E4/4 | F4/4', 'C4/4 | C4/4', 'C3/4 | F3/4'],
    chords: 'C . . . F . . .',
    foreign: { '1:2': 'passing' },
  },
  {
    name: 'pedal in the bass',
    beats: 3,
    voices: ['E5/3 | F5/3 | E5/3', 'C5/3 | B4/3 | C5/3', 'G4/3 | D4/3 | G4/3', 'C3~/3 | C3~/3 | C3/3'],
    chords: 'C . . Bo . . C . .',
    foreign: { '4:1': 'pedal' },
  },
  {
    name: 'neighbours in an inner voice',
    beats: 2,
    voices: ['G5/2 | G5/2', 'E5/2 | D5/2', 'C4/.5 B3/.5 C4 | B3/.5 C4/.5 B3', 'C3/2 | G2/2'],
    chords: 'C . G .',
    foreign: { '3:2': 'neighbour', '3:5': 'neighbour' },
  },
  {
    name: 'a chain of suspensions',
    voices: [
      'A4/2 A4~/2 | A4/2 G4~/2 | G4/2 F4~/2 | F4/2 E4/2',
      'F4/2 F4/2 | E4/4 | D4/4 | C4/4',
      'D4/2 D4/2 | B3/4 | A3/4 | G3/4',
      'D3/2 D3/2 | E3/4 | D3/4 | C3/4',
    ],
    chords: 'Dm . . . Em . . . Dm . . . C . . .',
    foreign: { '1:2': 'suspended', '1:3': 'suspended', '1:4': 'suspended' },
  },
];
