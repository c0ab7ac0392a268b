/** One solo study for each instrument, composed for the demo. */
import type { DemoPiece } from './musicxml';
import { STRINGS } from './serenade';

const solo = (index: number, name: string) => [{ ...STRINGS[index]!, id: 'P1', name }];

/** Rising sequences that ask for first, third and fifth position, and a chromatic descent. */
export const STAIRCASE: DemoPiece = {
  title: 'Staircase',
  composer: 'The Omaggio workshop',
  parts: solo(0, 'Violin'),
  sections: [
    {
      bars: 16,
      key: 0,
      time: [2, 4],
      tempo: { quarters: 84, words: 'Con moto' },
      music: {
        P1: `{mf} (A4s B4 C5 D5) E5e A5 | (G5s F5 E5 D5) C5e E5 | (B4s C5 D5 E5) F5e B5 | (A5s G5 F5 E5) D5e F5 | (C5s D5 E5 F5) G5e C6 | (B5s A5 G5 F5) E5e G5 | {<} (D5s E5 F5 G5) A5e D6 | (E6s D6 C6 B5) A5q {.} | {f} E5s E6 D#6 E6 C6 A5 B5 C6 | D6 C6 B5 A5 G#5 B5 E5 G#5 | A5 C6 B5 A5 G5 F5 E5 D5 | (C5e E5) (A4 G#4) | {p} (A5s G#5 G5 F#5) (F5 E5 D#5 D5) | (C#5 C5 B4 Bb4) A4e E5 | {<} C5s B4 A4 C5 E5 D5 C5 E5 {.} | {f} A5q> A4`,
      },
    },
    {
      bars: 16,
      rehearsal: 'A',
      key: 3,
      music: {
        P1: `{p} {w:dolce} C#5q. (D5e | E5q) A5 | (G#5e F#5) E5q | F#5q. (G#5e | A5q) C#6 | {<} (B5e A5 G#5 A5) | (C#6q E6) | E6h {.} | {f} F#6e' E6s D6 C#6e' B5' | E6' D6s C#6 B5e' A5' | D6' C#6s B5 A5e' G#5' | (A5s B5 C#6 D6 E6 F#6 G#6 A6) | A6q* E6 | {p} C#5+A5h | {<} D5+B5q G#4+E5 {.} | {f} A3+E4+C#5+A5h@`,
      },
    },
  ],
};

/** A barcarole: long slurs, soft crossings, one swell that needs planning. */
export const EVENING_BARGE: DemoPiece = {
  title: 'Evening Barge',
  composer: 'The Omaggio workshop',
  parts: solo(2, 'Viola'),
  sections: [
    {
      bars: 16,
      key: -2,
      time: [6, 8],
      tempo: { quarters: 78, words: 'Andante cullando' },
      music: {
        P1: `{p} (G3e Bb3 D4 G4q.) | (F4e Eb4 D4 C4q.) | (A3e C4 Eb4 F4q.) | D4h. | {<} (G3e Bb3 D4 Bb4q.) {.} | {>} (A4e G4 F4 Eb4q.) {.} | (D4q C4e Bb3q A3e) | G3h. | {mf} (Bb4e A4 G4 F#4q.) | (G4e F4 Eb4 D4q.) | (Eb4e D4 C4 Bb3q.) | (A3q. F#3) | {p} (G3e D4 Bb3 D4 G3 D4) | (F3 D4 Bb3 D4 F3 D4) | (Eb3 C4 G3 C4 Eb3 C4) | D3h.`,
      },
    },
    {
      bars: 12,
      rehearsal: 'A',
      key: 1,
      music: {
        P1: `{pp} B3q. (C4e D4 E4) | D4h. | E4q. (F#4e G4 A4) | G4h. | {<} (B4q A4e G4q F#4e) | (E4q F#4e G4q A4e) {.} | {f} B4q.! A4s G4 A4q | {>} (G4e E4 C4 A3 F#3 D3) {.} | {p} (G3 D4 B3) (G4 D4 B3) | (G3 E4 C4) (G4 E4 C4) | (D3 C4 A3) (F#4 C4 A3) | G3h.@`,
      },
    },
  ],
};

/** From the neck up to the thumb, with extensions and a tenor-clef song. */
export const HERON: DemoPiece = {
  title: 'The Heron',
  composer: 'The Omaggio workshop',
  parts: solo(3, 'Cello'),
  sections: [
    {
      bars: 16,
      key: -1,
      time: [4, 4],
      tempo: { quarters: 92, words: 'Moderato' },
      music: {
        P1: `{mf} F2q (A2 C3) F3 | E3q. D3e (C3q Bb2) | A2q (C3 F3) A3 | G3h. rq | Bb2q (D3 F3) Bb3 | A3q. G3e (F3q E3) | D3q (E3 F#3 G#3) | A3h. rq | {f} (D3e E3 F3 G3) A3q> Bb3 | C4q. A3e F3h | (G3e A3 Bb3 C4) D4q> E4 | F4h. C4q | {p} Eb4h D4 | Db4h C4 | (Bb3q G3 E3 C3) | F2h. rq`,
      },
    },
    {
      bars: 16,
      rehearsal: 'A',
      music: {
        P1: `{clef:tenor} {p} {w:cantabile} A3q (C4 F4 A4) | G4h. (F4e E4) | F4q (A4 C5 A4) | {<} Bb4h (A4q G4) {.} | {f} A4q (G4e F4) (E4q D4) | C#4h E4 | F4q (E4e D4) (C4q Bb3) | {clef:bass} A3h. rq | {p} A3q* A3*  E3 C3 | {mf} F2e C3 A3 C3 F3 C3 A3 C3 | G2 D3 Bb3 D3 G3 D3 Bb3 D3 | C3 G3 E4 G3 C3 G3 E4 G3 | {<} F3s G3 A3 Bb3 C4 D4 E4 F4 G4e F4 E4 D4 | C4q Bb3 A3 G3 {.} | {f} F2+C3+A3h C2+G2+E3 | F2+C3+A3w@`,
      },
    },
  ],
};

/** Steps and shifts between half position and the octave harmonic. */
export const LOW_TIDE: DemoPiece = {
  title: 'Low Tide',
  composer: 'The Omaggio workshop',
  parts: solo(4, 'Double Bass'),
  sections: [
    {
      bars: 16,
      key: 0,
      time: [3, 4],
      tempo: { quarters: 88, words: 'Tempo di valse lento' },
      music: {
        P1: `{mf} A2q (C3 E3) | A3h. | G3q (F3 E3) | D3h. | F2q (A2 C3) | F3h E3q | D3q (B2 G#2) | A2h. | {f} E3q. F3e G3q | A3q C4 A3 | D3q. E3e F3q | G3q Bb3 G3 | C3q (E3 G3) | {<} (A3 B3 C4) {.} | (D4h B3q) | C4h.`,
      },
    },
    {
      bars: 16,
      rehearsal: 'A',
      music: {
        P1: `{p} C4h (B3q | Bb3h) (A3q | Ab3h) (G3q | F#3h) F3q | E3q G#3 B3 | D4h. | C4q (A3 F3) | E3h. | {w:pizz.} A2q E3 A3 | F2 C3 F3 | D3 A3 D4 | E3 B3 E3 | {w:arco} {mf} A2e B2 C3 D3 E3 F3 | G3 A3 B3 C4 D4 E4 | {>} D4q (B3 G#3) {.} | {p} A3h.*@`,
      },
    },
  ],
};
