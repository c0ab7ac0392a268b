/** Mill Race Serenade: one movement for five-part youth strings, composed for the demo. */
import type { DemoPart, DemoPiece, Section } from './musicxml';

export const STRINGS: readonly DemoPart[] = [
  { id: 'P1', name: 'Violin I', abbreviation: 'Vln. I', sound: 'strings.violin', clef: 'treble' },
  { id: 'P2', name: 'Violin II', abbreviation: 'Vln. II', sound: 'strings.violin', clef: 'treble' },
  { id: 'P3', name: 'Viola', abbreviation: 'Vla.', sound: 'strings.viola', clef: 'alto' },
  { id: 'P4', name: 'Cello', abbreviation: 'Vc.', sound: 'strings.cello', clef: 'bass' },
  { id: 'P5', name: 'Double Bass', abbreviation: 'Db.', sound: 'strings.contrabass', clef: 'bass', octaveDown: true },
];

/** The tune: two beats down and one beat up, the classic trap. */
const TUNE_FIRST = `F#5h E5q | (E5h C#5q) | D5q. E5e F#5q | (C#5h A4q) | B4q (D5 G5) | (F#5h D5q) | E5q. F#5e G5q | E5h A4q`;
const TUNE_SECOND = `F#5h E5q | (E5h C#5q) | D5q. E5e F#5q | {<} (B5h G5q) {.} | {>} G5q. F#5e E5q {.} | (C#5q D5 E5) | D5h.`;
const FLOW_FIRST = `(D4e F#4) (A4 F#4) (D4 F#4) | (C#4 E4) (A4 E4) (C#4 E4) | (B3 D4) (F#4 D4) (B3 D4) | (A3 C#4) (F#4 C#4) (A3 C#4) | (B3 D4) (G4 D4) (B3 D4) | (A3 D4) (F#4 D4) (A3 D4) | (B3 E4) (G4 E4) (B3 E4) | (C#4 E4) (A4 E4) (C#4 E4)`;
const FLOW_SECOND = `(D4e F#4) (A4 F#4) (D4 F#4) | (C#4 E4) (A4 E4) (C#4 E4) | (B3 D4) (F#4 D4) (B3 D4) | (B3 D4) (G4 D4) (B3 D4) | (B3 E4) (G4 E4) (B3 E4) | (C#4 E4) (G4 E4) (C#4 G4) | (F#4 A4) (F#4 D4) (F#4 A4)`;
const AFTERBEATS_FIRST = `rq A3- A3- | rq A3- A3- | rq F#3- F#3- | rq F#3- F#3- | rq G3- G3- | rq A3- A3- | rq G3- G3- | rq G3- G3-`;
const AFTERBEATS_SECOND = `rq A3- A3- | rq A3- A3- | rq F#3- F#3- | rq G3- G3- | rq G3- G3- | rq G3- G3- | rq F#3- F#3-`;
const LINE_FIRST = `D3h F#3q | C#3h E3q | B2h D3q | A2h C#3q | G2h B2q | F#2h A2q | E2h G2q | A2h.`;
const LINE_SECOND = `D3h F#3q | C#3h E3q | B2h D3q | G2h B2q | E2h G2q | A2q B2 C#3 | D3h A2q`;
const ROOTS_FIRST = `D3q rq rq | C#3 rq rq | B2 rq rq | A2 rq rq | G2 rq rq | F#2 rq rq | E2 rq rq | A2 rq rq`;
const ROOTS_SECOND = `D3q rq rq | C#3 rq rq | B2 rq rq | G2 rq rq | E2 rq rq | A2 rq rq | D3 rq rq`;

const opening: Section = {
  bars: 17,
  key: 2,
  time: [3, 4],
  tempo: { quarters: 112, words: 'Allegro grazioso' },
  music: {
    P1: `{p} A4q | ${TUNE_FIRST} | ${TUNE_SECOND} | D5h rq`,
    P2: `rq | {p} ${FLOW_FIRST} | ${FLOW_SECOND} | F#4h rq`,
    P3: `rq | {p} ${AFTERBEATS_FIRST} | ${AFTERBEATS_SECOND} | F#3h rq`,
    P4: `rq | {p} ${LINE_FIRST} | ${LINE_SECOND} | D2h rq`,
    P5: `rq | {p} {w:pizz.} ${ROOTS_FIRST} | ${ROOTS_SECOND} | D3q rq rq`,
  },
};

/** Dotted figures in a rising sequence, then running quavers down the circle of fifths. */
const sequence: Section = {
  bars: 16,
  rehearsal: 'A',
  music: {
    P1: `{f} D5q. E5e F#5q | A5q' F#5' D5' | E5q. F#5e G5q | B5q' G5' E5' | F#5q. G5e A5q | C#6q' A5' F#5' | G5q. A5e B5q | A5q (G5 E5) | {mf} F#5e F#5 G5 F#5 E5 D5 | E5 E5 F#5 E5 D5 B4 | C#5 C#5 D5 C#5 B4 A4 | D5 D5 E5 D5 C#5 A4 | {<} B4 D5 G5 B5 A5 G5 | G5 F#5 E5 D5 C#5 B4 {.} | {f} C#5q> E5> A5> | A5h rq`,
    P2: `{f} A4q. C#5e D5q | F#5q' D5' A4' | B4q. D5e E5q | G5q' E5' B4' | C#5q. E5e F#5q | A5q' F#5' C#5' | D5q. F#5e G5q | E5q (E5 C#5) | {mf} D5e D5 E5 D5 C#5 B4 | B4 B4 D5 B4 G#4 E4 | A4 A4 B4 A4 G4 E4 | F#4 F#4 G4 F#4 E4 D4 | {<} G4 B4 D5 G5 F#5 D5 | B4 A4 G4 F#4 E4 G4 {.} | {f} A4q> C#5> E5> | E5h rq`,
    P3: `{f} A3q. A3e A3q | F#4q' D4' A3' | B3q. B3e B3q | G4q' E4' B3' | C#4q. C#4e C#4q | A4q' F#4' C#4' | D4q. D4e D4q | C#4q (E4 G4) | {mf} B3q. C#4e D4q | D4q. C#4e B3q | C#4q. B3e A3q | A3q. B3e A3q | {<} B3q. A3e G3q | G3q. A3e B3q {.} | {f} A3q> C#4> E4> | A3+E4h rq`,
    P4: `{f} D3q. D3e D3q | D3q' F#3' D3' | E3q. E3e E3q | E3q' G3' E3' | F#3q. F#3e F#3q | F#3q' A3' F#3' | G3q. G3e G3q | A3q A2h | {mf} B2h B3q | E3h E2q | A2h A3q | D3h D2q | {<} G2h G3q | E3h E2q {.} | {f} A2q> A2> A2> | A2h rq`,
    P5: `{f} {w:arco} D3h D3q | D3h D3q | E3h E3q | E3h E3q | F#3h F#3q | F#3h F#3q | G3h G3q | A3q A2h | {mf} B2h. | E3h. | A2h. | D3h. | {<} G2h. | E2h. {.} | {f} A2q> A2> A2> | A2h rq`,
  },
};

/** The violas have the tune; violins divided and softly, syncopations tied over the bar line. */
const violaTune: Section = {
  bars: 16,
  rehearsal: 'B',
  key: 1,
  music: {
    P1: `{pp} {w:div.} B4+D5h. | B4+E5h. | C5+E5h. | A4+D5h. | B4+D5h. | B4+E5h. | C5+E5h. | A4+F#5h. | B4+G5h. | B4+F#5h. | B4+G5h. | C5+G5h. | C5+E5h. | A4+F#5h. | B4+G5h.~ | B4+G5h rq`,
    P2: `{pp} rq G4h~ | G4q G4h~ | G4q G4h | rq F#4h | rq G4h~ | G4q G4h | rq E4h~ | E4q (D4 C4) | rq D4h | rq (F#4 A4) | rq G4h~ | G4q G4h~ | G4q E4h | rq C4h | rq D4h~ | D4h rq`,
    P3: `{mf} {w:espressivo} (G3q B3 D4) | E4h.~ | E4q (D4 C4) | (A3h D4q) | (B3q D4 G4) | G4h.~ | G4q (F#4e E4 D4 C4) | D4h. | (B3q D4 G4) | (F#4h D#4q) | E4h.~ | E4q (C4 E4) | {<} A4h (G4e E4) {.} | {>} (F#4q E4 C4) {.} | {p} B3h.~ | B3h rq`,
    P4: `{p} {w:pizz.} G2q D3 B3 | E3 B3 G3 | C3 G3 E3 | D3 A3 F#3 | G2 D3 B3 | E3 B3 G3 | A2 E3 C4 | D3 A3 C4 | G2 D3 B3 | B2 F#3 A3 | E3 B3 G3 | C3 G3 E3 | A2 E3 C4 | D3 F#3 C4 | G2 D3 G3 | G2 rq rq`,
    P5: `{p} {w:pizz.} G2q rq rq | E3 rq rq | C3 rq rq | D3 rq rq | G2 rq rq | E3 rq rq | A2 rq rq | D3 rq rq | G2 rq rq | B2 rq rq | E3 rq rq | C3 rq rq | A2 rq rq | D3 rq rq | G2 rq rq | G2 rq rq`,
  },
};

/** Four bars to count, then the first violins come in high. */
const highEntry: Section = {
  bars: 16,
  rehearsal: 'C',
  key: 2,
  music: {
    P1: `{w:unis.} rh. | rh. | rh. | rh. | {f} F#6e E6s F#6 D6e A5 F#5 A5 | (G5s A5 B5 C#6) D6q' B5' | (C#6s B5 A5 G5) (F#5 E5 D5 C#5) E5q | D5q A5 D6 | {mf} (D6e C#6 B5 A5 G5 F#5) | (C#6 B5 A5 G#5 F#5 E5) | (B5 A5 G5 F#5 E5 D5) | (A5 G5 F#5 E5 D5 C#5) | {<} B4s C#5 D5 E5 F#5 G5 A5 B5 C#6 D6 E6 F#6 {.} | {f} (G6q E6 C#6) | D6h. | D6q rq rq`,
    P2: `{f} D5e' F#5' A5' F#5' D5' A4' | C#5e' E5' A5' E5' C#5' A4' | D5e' F#5' A5' F#5' D5' A4' | C#5e' E5' G5' E5' C#5' A4' | D5q' rq A4q' | B4q' rq D5' | A4q' rq C#5' | A4q rq rq | {mf} F#4e B4 F#4 B4 D5 B4 | F#4 A4 C#5 A4 F#4 A4 | G4 B4 D5 B4 G4 B4 | F#4 A4 D5 A4 F#4 A4 | {<} G4q B4 E5 {.} | {f} (E5 C#5 A4) | A4h. | A4q rq rq`,
    P3: `{mf} rq F#4' F#4' | rq G4' G4' | rq F#4' F#4' | rq G4' G4' | A3e A3 A3 A3 A3 A3 | B3 B3 B3 B3 B3 B3 | C#4 C#4 C#4 C#4 C#4 C#4 | D4q rq rq | D4h. | C#4h. | B3h. | A3h. | {<} B3h. {.} | {f} C#4q (E4 G4) | F#4h. | F#4q rq rq`,
    P4: `{mf} {w:arco} D3q' rq rq | A2' rq rq | D3' rq rq | A2' rq rq | D3e D3 D3 D3 D3 D3 | G2 G2 G2 G2 G2 G2 | A2 A2 A2 A2 A2 A2 | D3q A2 D2 | B2h B3q | F#2h F#3q | G2h G3q | D3h D2q | {<} E2q G2 B2 {.} | {f} A2h A2q | D3q A2 F#2 | D2q rq rq`,
    P5: `{mf} {w:arco} D3q' rq rq | A2' rq rq | D3' rq rq | A2' rq rq | D3q D3 D3 | G2 G2 G2 | A2 A2 A2 | D3 rq rq | B2h. | F#2h. | G2h. | D3h. | {<} E2h. {.} | {f} A2h. | D3h. | D3q rq rq`,
  },
};

/** Slower, in four; the cellos sing in tenor clef over a chromatic inner line. */
const slow: Section = {
  bars: 16,
  rehearsal: 'D',
  time: [4, 4],
  tempo: { quarters: 76, words: 'Meno mosso' },
  music: {
    P1: `rw | {p} rh rq F#5q | F#5h. E5q | D5h (E5q D5) | B4h. rq | rh F#5h~ | F#5h (F#5q E#5) | F#5h. rq | {pp} D5w | (E5h G5) | G5w | F#5h. rq | {<} D5q (E5 F#5 G5) {.} | {>} (G5h E5) {.} | {p} (F#5h. E5q) | D5w`,
    P2: `{pp} (B4h A#4) | (A#4h. A4q) | (A4h G#4) | (G#4 G4) | (G4 B4) | (F#4h. E#4q) | (E#4h G#4) | (F#4h A#4q F#4) | B4q (A#4 A4 G#4) | (G4 F#4 F4 E4) | (E4 F4 F#4 G4) | (F#4 G4 G#4 A4) | (B4 A#4 B4 C5) | (C#5h B4) | (A#4q B4 A#4 F#4) | F#4w`,
    P3: `{pp} F#3q- F#3- F#3- F#3- | C#4- C#4- C#4- C#4- | D4- D4- D4- D4- | B3- B3- B3- B3- | B3- B3- B3- B3- | B3- B3- B3- B3- | C#4- C#4- C#4- C#4- | C#4- C#4- C#4- E4- | D4- D4- D4- D4- | B3- B3- B3- B3- | C#4- C#4- C#4- C#4- | D4- D4- D4- D4- | D4- D4- D4- D4- | E4- E4- E4- E4- | C#4- C#4- C#4- C#4- | D4w`,
    P4: `{clef:tenor} {mf} {w:cantabile} B3h (C#4q D4) | C#4h. F#3q | D4h (E4q F#4) | E4h. B3q | G4q. (F#4e E4q D4) | (D4h C#4q B3) | (C#4h B3q G#3) | A#3h. rq | {f} F#4h (G4q F#4) | E4h (F#4q E4) | C#4h (D4q E4) | F#4h D4q A3 | {mf} (B3q D4) (G4 F#4) | (E4q. F#4e) G4h | {>} F#4h (E4q C#4) {.} | {p} {clef:bass} B3w`,
    P5: `{p} {w:pizz.} B2q rq B2 rq | A#2 rq A#2 rq | A2 rq A2 rq | G#2 rq G#2 rq | G2 rq G2 rq | F#2 rq F#2 rq | E#2 rq E#2 rq | F#2 rq F#2 rq | B2 rq B2 rq | E2 rq E2 rq | A2 rq A2 rq | D3 rq D3 rq | G2 rq G2 rq | E2 rq E2 rq | F#2 rq F#2 rq | B2 rq rh`,
  },
};

/** Back in tempo over the dominant, from a whisper to chords. */
const build: Section = {
  bars: 16,
  rehearsal: 'E',
  time: [3, 4],
  tempo: { quarters: 112, words: 'Tempo I' },
  music: {
    P1: `{p} (E5e F#5 G5 F#5 E5 C#5) | (E5 F#5 G5 A5 G5 E5) | {<} (G5 A5 B5 A5 G5 E5) | (G5 A5 B5 C#6 B5 G5) {.} | {mf} A#5q. B5e C#6q | (B5h F#5q) | G#5q. A5e B5q | (A5h E5q) | F#5q A5 D6 | {<} (E6h C#6q) | B5s A5 G5 F#5 G5 A5 B5 C#6 D6 C#6 B5 A5 {.} | {f} C#6q> A5> E5> | A4s C#5 E5 A5 C#6 A5 E5 C#5 A4 C#5 E5 A5 | A4 C#5 E5 G5 C#6 G5 E5 C#5 A4 C#5 E5 G5 | {ff} A3+E4+C#5+A5q> A3+E4+C#5+A5> A3+E4+C#5+A5> | A3+E4+C#5+A5h {mf} A4q`,
    P2: `{p} C#5h.~ | C#5h. | {<} C#5h.~ | C#5h E5q {.} | {mf} C#5q. D5e E5q | (D5h B4q) | B4q. C#5e D5q | (C#5h A4q) | A4q D5 F#5 | {<} (G5h E5q) | D5e D5 E5 E5 G5 G5 {.} | {f} E5q> C#5> A4> | A4e C#5q C#5 C#5e | A4e C#5q C#5 C#5e | {ff} A3+E4+C#5q> A3+E4+C#5> A3+E4+C#5> | A3+E4+C#5h rq`,
    P3: `{p} rq E4- E4- | rq E4- E4- | {<} rq G4- G4- | rq G4- G4- {.} | {mf} F#4q. F#4e F#4q | (F#4h D4q) | E4q. E4e E4q | (E4h C#4q) | D4q F#4 A4 | {<} (A4h G4q) | G4e G4 G4 G4 E4 E4 {.} | {f} A4q> E4> C#4> | E4e A3 E4 A3 E4 A3 | E4 A3 G4 A3 E4 A3 | {ff} A3+E4q> A3+E4> A3+E4> | A3+E4h rq`,
    P4: `{p} A2h.~ | A2h. | {<} A2h.~ | A2h. {.} | {mf} A#2h C#3q | B2h B3q | G#2h B2q | A2h A3q | A2q A3 A2 | {<} A2 A3 A2 | E3 G3 E3 {.} | {f} A3> A2> A2> | A2e E3 A3 E3 A2 E3 | A2 E3 G3 E3 A2 E3 | {ff} A2+E3q> A2+E3> A2+E3> | A2+E3h rq`,
    P5: `{p} {w:arco} A2h.~ | A2h. | {<} A2h.~ | A2h. {.} | {mf} A#2h. | B2h. | G#2h. | A2h. | A2q A2 A2 | {<} A2 A2 A2 | E3h. {.} | {f} A2q> A2> A2> | A2 A2 A2 | A2 A2 A2 | {ff} A2q> A2> A2> | A2h rq`,
  },
};

const comeback: Section = {
  bars: 16,
  rehearsal: 'F',
  music: {
    P1: `${TUNE_FIRST} | ${TUNE_SECOND} | D5h.`,
    P2: `{mf} ${FLOW_FIRST} | ${FLOW_SECOND} | (F#4 A4) (F#4 D4) (F#4 A4)`,
    P3: `{mf} ${AFTERBEATS_FIRST} | ${AFTERBEATS_SECOND} | rq F#3- F#3-`,
    P4: `{mf} ${LINE_FIRST} | ${LINE_SECOND} | D3h D2q`,
    P5: `{mf} {w:pizz.} ${ROOTS_FIRST} | ${ROOTS_SECOND} | D3 rq rq`,
  },
};

const coda: Section = {
  bars: 16,
  rehearsal: 'G',
  music: {
    P1: `{f} (B5q A5 G5) | (C#6 B5 A5) | (A5 G#5 F#5) | (D6h B5q) | G5q. F#5e E5q | (C#5q E5 G5) | (F#5h D5q) | (C6h A5q) | {>} B5h. | Bb5h. {.} | {mf} (A5h F#5q) | {>} (G5q E5 C#5) {.} | {p} (D5 F#5 A5) | {pp} D6h.*~ | D6h.*@ | {w:pizz.} D4+A4+F#5q rq rq`,
    P2: `{f} D5h B4q | E5h C#5q | C#5h A4q | F#5h D5q | B4h G4q | A4h E4q | A4h F#4q | D5h F#4q | {>} D5h.~ | D5h. {.} | {mf} (D5h A4q) | {>} (C#5q A4 G4) {.} | {p} F#4h.~ | {pp} F#4h.~ | F#4h.@ | {w:pizz.} D4+A4q rq rq`,
    P3: `{f} G3e B3 D4 B3 G3 B3 | A3 C#4 E4 C#4 A3 C#4 | F#3 A3 C#4 A3 F#3 A3 | B3 D4 F#4 D4 B3 D4 | E3 G3 B3 G3 E3 G3 | A3 C#4 E4 C#4 A3 G3 | F#3 A3 D4 A3 F#3 A3 | F#3 A3 C4 A3 F#3 A3 | {>} (G3 B3 D4 B3 G3 B3) | (G3 Bb3 D4 Bb3 G3 Bb3) {.} | {mf} (F#3h A3q) | {>} G3h. {.} | {p} F#3h.~ | {pp} F#3h.~ | F#3h.@ | {w:pizz.} D3+A3q rq rq`,
    P4: `{f} {w:arco} G2h G3q | A2h A3q | F#2h F#3q | B2h B3q | E2h E3q | A2h A3q | D3h D2q | C3h D3q | {>} B2h. | Bb2h. {.} | {mf} A2h. | {>} A2h. {.} | {p} D2h.~ | {pp} D2h.~ | D2h.@ | {w:pizz.} D2+A2q rq rq`,
    P5: `{f} {w:arco} G2h. | A2h. | F#2h. | B2h. | E2h. | A2h. | D3h. | C3h. | {>} B2h. | Bb2h. {.} | {mf} A2h. | {>} A2h. {.} | {p} D3h.~ | {pp} D3h.~ | D3h.@ | {w:pizz.} D3q rq rq`,
  },
};

export const SERENADE: DemoPiece = {
  title: 'Mill Race Serenade',
  composer: 'The Omaggio workshop',
  parts: STRINGS,
  pickupQuarters: 1,
  sections: [opening, sequence, violaTune, highEntry, slow, build, comeback, coda],
};
