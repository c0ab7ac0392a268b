/** `<attributes>`: divisions, key, time, clefs, transposition. */
import type { ClefChange, KeyChange, Warning } from '../../score/score';
import { child, childNumber, childText, type XmlElement } from '../raw/xml';

/** What is in force while a part is read from bar to bar. */
export interface InForce {
  divisions: number;
  /** A time signature is in force. */
  metred: boolean;
  beats: number;
  beatType: number;
  fifths: number;
  diatonic: number;
  chromatic: number;
  transposes: boolean;
  clefs: ClefChange[];
  keys: KeyChange[];
}

export const atTheStart = (): InForce => ({
  divisions: 1,
  metred: false,
  beats: 4,
  beatType: 4,
  fifths: 0,
  diatonic: 0,
  chromatic: 0,
  transposes: false,
  clefs: [],
  keys: [],
});

const MOST_ACCIDENTALS = 11;
const MOST_BEATS = 64;

/** Takes the attributes over; what no score can mean is left out, and said. */
export function readAttributes(element: XmlElement, tick: number, now: InForce, place: string, warnings: Warning[]): void {
  now.divisions = childNumber(element, 'divisions') ?? now.divisions;
  for (const attribute of element.children) {
    switch (attribute.name) {
      case 'time':
        if (child(attribute, 'senza-misura')) now.metred = false;
        else readTime(attribute, now, place, warnings);
        break;
      case 'key':
        readKey(attribute, tick, now, place, warnings);
        break;
      case 'clef':
        readClef(attribute, tick, now);
        break;
      case 'transpose':
        readTranspose(attribute, now, place, warnings);
        break;
    }
  }
}

function readKey(key: XmlElement, tick: number, now: InForce, place: string, warnings: Warning[]): void {
  const fifths = childNumber(key, 'fifths');
  if (fifths === null) {
    if (child(key, 'key-step')) warnings.push({ place, text: 'A key signature of its own kind is not understood; the accidentals before the notes are.' });
    return;
  }
  if (Math.abs(fifths) > MOST_ACCIDENTALS) return;
  const before = now.fifths;
  now.fifths = Math.round(fifths);
  if (now.keys.length === 0 || now.fifths !== before) now.keys.push({ tick, fifths: now.fifths });
}

function readClef(element: XmlElement, tick: number, now: InForce): void {
  const sign = childText(element, 'sign') ?? 'G';
  const staff = Number(element.attributes.number ?? '1');
  if (!Number.isInteger(staff) || staff < 1 || !/^(G|F|C|percussion|TAB|jianpu|none)$/.test(sign)) return;
  const line = childNumber(element, 'line') ?? { G: 2, F: 4, C: 3 }[sign] ?? 3;
  const octave = childNumber(element, 'clef-octave-change') ?? 0;
  now.clefs.push({ tick, staff, clef: { sign, line, octave } });
}

function readTranspose(transpose: XmlElement, now: InForce, place: string, warnings: Warning[]): void {
  const octaves = childNumber(transpose, 'octave-change') ?? 0;
  const chromatic = childNumber(transpose, 'chromatic') ?? 0;
  const diatonic = childNumber(transpose, 'diatonic') ?? Math.round((chromatic * 7) / 12);
  if (![octaves, chromatic, diatonic].every(Number.isInteger) || Math.abs(octaves) > 4 || Math.abs(chromatic) > 24 || Math.abs(diatonic) > 14) {
    warnings.push({ place, text: 'The transposition in the file is not one that an instrument has; it is left out.' });
    return;
  }
  now.transposes = true;
  now.chromatic = chromatic + 12 * octaves;
  now.diatonic = diatonic + 7 * octaves;
}

function readTime(time: XmlElement, now: InForce, place: string, warnings: Warning[]): void {
  const beats = time.children.filter((c) => c.name === 'beats').map((c) => c.text.split('+').reduce((sum, x) => sum + Number(x), 0));
  const types = time.children.filter((c) => c.name === 'beat-type').map((c) => Number(c.text));
  const type = Math.max(...types);
  const total = beats.reduce((sum, count, i) => sum + (count * type) / (types[i] ?? type), 0);
  if (total > 0 && total <= MOST_BEATS && [1, 2, 4, 8, 16, 32, 64].includes(type)) {
    now.beats = total;
    now.beatType = type;
    now.metred = true;
  } else warnings.push({ place, text: `The time signature in the file cannot be read; ${now.beats}/${now.beatType} goes on.` });
}
