/**
 * Scales and arpeggios in the low positions with the fingers that method books give them (common practice, from memory),
 * rising. The viola has the violin's, a fifth lower.
 */
import type { InstrumentKind } from '../../core/score/score';

export interface BookScale {
  name: string;
  kind: InstrumentKind;
  /** Fifths of the key signature. */
  fifths: number;
  music: string;
  /** A finger for each note; T is the thumb. */
  fingers: string;
}

/** Degrees of a scale as letters and alterations are left to the spelling: written out note by note. */
type Row = readonly [name: string, fifths: number, music: string, fingers: string];

const VIOLIN: readonly Row[] = [
  ['G major, one octave', 1, 'G3 A3 B3 C4 D4 E4 F#4 G4', '0123 0123'],
  ['G major, two octaves', 1, 'G3 A3 B3 C4 D4 E4 F#4 G4 A4 B4 C5 D5 E5 F#5 G5', '0123 0123 0123 012'],
  ['A major from the G string', 3, 'A3 B3 C#4 D4 E4 F#4 G#4 A4', '123 0123 0'],
  ['A major from the open A', 3, 'A4 B4 C#5 D5 E5 F#5 G#5 A5', '0123 0123'],
  ['A major, two octaves', 3, 'A3 B3 C#4 D4 E4 F#4 G#4 A4 B4 C#5 D5 E5 F#5 G#5 A5', '123 0123 0123 0123'],
  ['B-flat major, two octaves', -2, 'Bb3 C4 D4 Eb4 F4 G4 A4 Bb4 C5 D5 Eb5 F5 G5 A5 Bb5', '23 0123 01234 1234'],
  ['C major', 0, 'C4 D4 E4 F4 G4 A4 B4 C5', '3 0123 012'],
  ['D major', 2, 'D4 E4 F#4 G4 A4 B4 C#5 D5', '0123 0123'],
  ['E major', 4, 'E4 F#4 G#4 A4 B4 C#5 D#5 E5', '123 0123 0'],
  ['F major', -1, 'F4 G4 A4 Bb4 C5 D5 E5 F5', '23 0123 01'],
  ['G major from the D string', 1, 'G4 A4 B4 C5 D5 E5 F#5 G5', '3 0123 012'],
  ['E-flat major', -3, 'Eb4 F4 G4 Ab4 Bb4 C5 D5 Eb5', '1234 1234'],
  ['A-flat major, two octaves', -4, 'Ab3 Bb3 C4 Db4 Eb4 F4 G4 Ab4 Bb4 C5 Db5 Eb5 F5 G5 Ab5', '1234 1234 1234 123'],
  ['A minor, melodic', 0, 'A4 B4 C5 D5 E5 F#5 G#5 A5', '0123 0123'],
  ['E minor, melodic', 1, 'E4 F#4 G4 A4 B4 C#5 D#5 E5', '123 0123 0'],
  ['D minor, melodic', -1, 'D4 E4 F4 G4 A4 B4 C#5 D5', '0123 0123'],
  ['G minor, melodic, two octaves', -2, 'G3 A3 Bb3 C4 D4 E4 F#4 G4 A4 Bb4 C5 D5 E5 F#5 G5', '0123 0123 0123 012'],
  ['G major arpeggio, two octaves', 1, 'G3 B3 D4 G4 B4 D5 G5', '02 03 13 2'],
  ['A major arpeggio, two octaves', 3, 'A3 C#4 E4 A4 C#5 E5 A5', '13 1 02 03'],
  ['D major arpeggio', 2, 'D4 F#4 A4 D5', '02 03'],
  ['C major arpeggio', 0, 'C4 E4 G4 C5', '3 13 2'],
  ['B-flat major arpeggio, two octaves', -2, 'Bb3 D4 F4 Bb4 D5 F5 Bb5', '2 02 13 14'],
  ['F major arpeggio', -1, 'F4 A4 C5 F5', '2 02 1'],
  ['E minor arpeggio', 1, 'E4 G4 B4 E5', '13 1 0'],
  ['D minor arpeggio', -1, 'D4 F4 A4 D5', '02 03'],
  ['C minor, melodic', -3, 'C4 D4 Eb4 F4 G4 A4 B4 C5', '3 0123 012'],
  ['B minor, natural, from the G string', 2, 'B3 C#4 D4 E4 F#4 G4 A4 B4', '23 0123 01'],
  ['E major arpeggio', 4, 'E4 G#4 B4 E5', '13 1 0'],
];

const CELLO: readonly Row[] = [
  ['C major, one octave', 0, 'C2 D2 E2 F2 G2 A2 B2 C3', '0134 0134'],
  ['C major, two octaves', 0, 'C2 D2 E2 F2 G2 A2 B2 C3 D3 E3 F3 G3 A3 B3 C4', '0134 0134 0124 012'],
  ['D major', 2, 'D3 E3 F#3 G3 A3 B3 C#4 D4', '0134 0134'],
  ['G major', 1, 'G2 A2 B2 C3 D3 E3 F#3 G3', '0134 0134'],
  ['G major, two octaves', 1, 'G2 A2 B2 C3 D3 E3 F#3 G3 A3 B3 C4 D4 E4 F#4 G4', '0134 0134 0124 134'],
  ['F major', -1, 'F2 G2 A2 Bb2 C3 D3 E3 F3', '4 0124 012'],
  ['D minor, melodic', -1, 'D3 E3 F3 G3 A3 B3 C#4 D4', '0124 0134'],
  ['G minor, melodic', -2, 'G2 A2 Bb2 C3 D3 E3 F#3 G3', '0124 0134'],
  ['C minor, melodic', -3, 'C2 D2 Eb2 F2 G2 A2 B2 C3', '0124 0134'],
  ['A minor, natural', 0, 'A2 B2 C3 D3 E3 F3 G3 A3', '134 0124 0'],
  ['C major arpeggio, two octaves', 0, 'C2 E2 G2 C3 E3 G3 C4', '03 04 14 2'],
  ['D major arpeggio', 2, 'D3 F#3 A3 D4', '03 04'],
  ['G major arpeggio', 1, 'G2 B2 D3 G3', '03 04'],
  ['F major arpeggio', -1, 'F2 A2 C3 F3', '4 14 2'],
  ['D minor arpeggio', -1, 'D3 F3 A3 D4', '02 04'],
  ['G minor arpeggio', -2, 'G2 Bb2 D3 G3', '02 04'],
  ['A minor arpeggio', 0, 'A2 C3 E3 A3', '14 1 0'],
  ['C major, three octaves', 0, 'C2 D2 E2 F2 G2 A2 B2 C3 D3 E3 F3 G3 A3 B3 C4 D4 E4 F4 G4 A4 B4 C5', '0134 0134 0124 0124 124 123'],
  ['A major, extended', 3, 'A2 B2 C#3 D3 E3 F#3 G#3 A3', '124 0124 0'],
  ['E-flat major, extended back', -3, 'Eb2 F2 G2 Ab2 Bb2 C3 D3 Eb3', '24 0124 01'],
  ['E minor, natural', 1, 'E2 F#2 G2 A2 B2 C3 D3 E3', '24 0134 01'],
];

const BASS: readonly Row[] = [
  ['G major', 1, 'G1 A1 B1 C2 D2 E2 F#2 G2', '2 012 014 0'],
  ['F major, half position', -1, 'F1 G1 A1 Bb1 C2 D2 E2 F2', '14 014 024'],
  ['B-flat major, half position', -2, 'Bb1 C2 D2 Eb2 F2 G2 A2 Bb2', '14 014 024'],
  ['E minor, natural', 1, 'E1 F#1 G1 A1 B1 C2 D2 E2', '012 012 01'],
  ['A minor, natural', 0, 'A1 B1 C2 D2 E2 F2 G2 A2', '012 012 01'],
  ['D major', 2, 'D2 E2 F#2 G2 A2 B2 C#3 D3', '014 014 24'],
  ['G minor, natural', -2, 'G1 A1 Bb1 C2 D2 Eb2 F2 G2', '4 014 014 0'],
  ['G major arpeggio', 1, 'G1 B1 D2 G2', '2 1 0 0'],
  ['E minor arpeggio', 1, 'E1 G1 B1 E2', '02 1 1'],
  ['A minor arpeggio', 0, 'A1 C2 E2 A2', '02 1 1'],
  ['F major arpeggio', -1, 'F1 A1 C2 F2', '1 04 4'],
  ['B-flat major arpeggio', -2, 'Bb1 D2 F2 Bb2', '1 04 4'],
];

/** Chromatic lines in both schools, rising (from memory: the sliding fingers of older methods, a finger for each half step of newer ones). */
export const CHROMATIC_BOOK: ReadonlyArray<{ kind: InstrumentKind; school: 'sliding' | 'finger each'; music: string; fingers: string }> = [
  { kind: 'violin', school: 'sliding', music: 'G3 G#3 A3 A#3 B3 C4 C#4 D4 D#4 E4 F4 F#4 G4 G#4 A4', fingers: '0112233 0112233 0' },
  { kind: 'violin', school: 'finger each', music: 'G3 G#3 A3 A#3 B3 C4 C#4 D4', fingers: '0123123 0' },
  { kind: 'viola', school: 'sliding', music: 'C3 C#3 D3 D#3 E3 F3 F#3 G3 G#3 A3 A#3 B3 C4 C#4 D4', fingers: '0112233 0112233 0' },
  { kind: 'viola', school: 'finger each', music: 'C3 C#3 D3 D#3 E3 F3 F#3 G3', fingers: '0123123 0' },
  { kind: 'cello', school: 'finger each', music: 'C2 C#2 D2 D#2 E2 F2 F#2 G2', fingers: '0123123 0' },
];

/**
 * Finger charts of the first (and half) position: stop above the open string → fingers, the first one the plain one
 * (common practice: domain facts 3 to 6 and 11).
 */
export const FINGER_CHARTS: Readonly<Record<InstrumentKind, Readonly<Record<number, string>>>> = {
  violin: { 1: '1', 2: '1', 3: '2', 4: '2', 5: '3', 6: '3', 7: '4' },
  viola: { 1: '1', 2: '1', 3: '2', 4: '2', 5: '3', 6: '3', 7: '4' },
  cello: { 1: '1', 2: '1', 3: '2', 4: '3', 5: '4' },
  bass: { 1: '1', 2: '1', 3: '2', 4: '4' },
};

/** Bass, four-finger school: a finger for each half step from the first finger a tone above the open string (common practice). */
export const FOUR_FINGER_CHART: Readonly<Record<number, string>> = { 2: '1', 3: '2', 4: '3', 5: '4' };

const rowsOf = (kind: InstrumentKind, rows: readonly Row[]): BookScale[] =>
  rows.map(([name, fifths, music, fingers]) => ({ name: `${kind}: ${name}`, kind, fifths, music, fingers: fingers.replace(/ /g, '') }));

/** A fifth lower: four letters down, and the key a step towards the flats. */
function fifthLower(music: string): string {
  const letters = 'CDEFGAB';
  const sharps = 'FCGDAEB';
  return music
    .split(' ')
    .map((note) => {
      const [, letter, alter, octave] = /^([A-G])([#b]?)(\d)$/.exec(note)!;
      const at = letters.indexOf(letter!) + Number(octave) * 7 - 4;
      const lower = letters[at % 7]!;
      // A fifth down is one step back in the circle of fifths.
      const fifth = sharps.indexOf(letter!) + (alter === '#' ? 7 : alter === 'b' ? -7 : 0) - 1;
      const sign = Math.floor((fifth - sharps.indexOf(lower)) / 7);
      return `${lower}${sign > 0 ? '#' : sign < 0 ? 'b' : ''}${Math.floor(at / 7)}`;
    })
    .join(' ');
}

export const SCALE_BOOK: readonly BookScale[] = [
  ...rowsOf('violin', VIOLIN),
  ...rowsOf(
    'viola',
    VIOLIN.map(([name, fifths, music, fingers]) => [`${name} (a fifth lower)`, fifths - 1, fifthLower(music), fingers] as const),
  ),
  ...rowsOf('cello', CELLO),
  ...rowsOf('bass', BASS),
];
