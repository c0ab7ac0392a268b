/** Repeats, voltas, segno, coda and the like: what the bar lines, the signs and the words say about the order of the bars. */
import type { PlaySigns } from '../../score/score';
import { child, childText, type XmlElement } from '../raw/xml';

export interface BarSigns extends PlaySigns {
  repeatStart: boolean;
  repeatEnd: boolean;
  double: boolean;
  /** A coda sign without a word for which of the two it is. */
  someCoda: boolean;
}

export const noSigns = (): BarSigns => ({
  times: null,
  volta: null,
  voltaEnd: false,
  segno: false,
  coda: false,
  toCoda: false,
  fine: false,
  jump: null,
  repeatStart: false,
  repeatEnd: false,
  double: false,
  someCoda: false,
});

const CLOSING_LINES = new Set(['light-light', 'light-heavy', 'heavy-heavy']);

export function readBarline(element: XmlElement, signs: BarSigns): void {
  const repeat = child(element, 'repeat');
  const direction = repeat?.attributes.direction;
  if (direction === 'forward') signs.repeatStart = true;
  if (direction === 'backward') {
    signs.repeatEnd = true;
    const times = Number(repeat?.attributes.times);
    if (Number.isInteger(times) && times >= 2 && times <= 32) signs.times = times;
  }
  if ((element.attributes.location ?? 'right') === 'right' && CLOSING_LINES.has(childText(element, 'bar-style') ?? '')) signs.double = true;
  for (const ending of element.children) {
    if (ending.name !== 'ending') continue;
    if (ending.attributes.type === 'start') {
      const numbers = (ending.attributes.number ?? '')
        .split(/[\s,]+/)
        .map(Number)
        .filter((n) => Number.isInteger(n) && n > 0 && n <= 32);
      if (numbers.length) signs.volta = numbers;
    } else signs.voltaEnd = true;
  }
  if (child(element, 'segno')) signs.segno = true;
  if (child(element, 'coda')) signs.someCoda = true;
}

/** Attributes of a `<sound>`: what a program plays; they are clearer than the signs. */
export function readPlaySound(sound: XmlElement, signs: BarSigns): void {
  const { attributes } = sound;
  if (attributes.dacapo === 'yes') signs.jump = 'da capo';
  if (attributes.dalsegno !== undefined) signs.jump = 'dal segno';
  if (attributes.segno !== undefined) signs.segno = true;
  if (attributes.coda !== undefined) signs.coda = true;
  if (attributes.tocoda !== undefined) signs.toCoda = true;
  if (attributes.fine !== undefined && attributes.fine !== 'no') signs.fine = true;
  if (attributes['forward-repeat'] === 'yes') signs.repeatStart = true;
}

export function readPlayWords(text: string, signs: BarSigns): void {
  if (/\bd\.\s?c\.|\bdc\b|da capo/i.test(text)) signs.jump = 'da capo';
  else if (/\bd\.\s?s\.|\bds\b|dal segno/i.test(text)) signs.jump = 'dal segno';
  else if (/^\W*fine\W*$/i.test(text)) signs.fine = true;
  else if (/\bto coda\b/i.test(text)) signs.toCoda = true;
  else if (/^\W*coda\W*$/i.test(text)) signs.coda = true;
}

/** Coda signs without words: the first one sends the player away, the last one is where he arrives (common practice). */
export function settleCodas(bars: readonly BarSigns[]): void {
  const some = bars.filter((signs) => signs.someCoda && !signs.coda && !signs.toCoda);
  if (some.length === 0) return;
  const arrival = bars.some((signs) => signs.coda) ? null : some.pop()!;
  if (arrival) arrival.coda = true;
  for (const signs of some) signs.toCoda = true;
}

/** What is kept of them in the score; null where nothing is said. */
export function playSigns(signs: BarSigns): PlaySigns | null {
  const { times, volta, voltaEnd, segno, coda, toCoda, fine, jump } = signs;
  const said = times !== null || volta !== null || voltaEnd || segno || coda || toCoda || fine || jump !== null;
  return said ? { times, volta, voltaEnd, segno, coda, toCoda, fine, jump } : null;
}
