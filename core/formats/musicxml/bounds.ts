/**
 * What is drawn stays within bounds: a staff of a million lines, a repeat played a thousand million times or twenty thousand
 * fingers over one note are valid XML, and an engraver works on them for ever. Numbers outside the bounds are drawn as the
 * nearest bound, signs beyond a number that can be read are left out; the file itself is not touched. Bounds are judgement: wider
 * than any music that is printed.
 */
import { parseXml, type XmlElement } from '../raw/xml';
import { applyEdits, type TextEdit } from './edits';

interface Bounds {
  from: number;
  to: number;
}

const COUNT: Bounds = { from: 0, to: 64 };

/** Numbers in elements, by the element's name (MusicXML 4.0). */
const NUMBERS: Readonly<Record<string, Bounds>> = {
  'staff-lines': { from: 0, to: 12 },
  'staff-size': { from: 10, to: 400 },
  staves: { from: 1, to: 8 },
  instruments: { from: 1, to: 32 },
  staff: { from: 1, to: 8 },
  line: { from: -8, to: 12 },
  'clef-octave-change': { from: -3, to: 3 },
  fifths: { from: -11, to: 11 },
  'key-alter': { from: -3, to: 3 },
  'key-octave': { from: 0, to: 9 },
  beats: { from: 1, to: 256 },
  'beat-type': { from: 1, to: 128 },
  octave: { from: 0, to: 9 },
  'display-octave': { from: 0, to: 9 },
  alter: { from: -4, to: 4 },
  chromatic: { from: -48, to: 48 },
  diatonic: { from: -28, to: 28 },
  'octave-change': { from: -4, to: 4 },
  'actual-notes': { from: 1, to: 256 },
  'normal-notes': { from: 1, to: 256 },
  tremolo: { from: 0, to: 8 },
  'multiple-rest': { from: 1, to: 4_000 },
  'measure-distance': { from: 0, to: 4_000 },
  'tuning-octave': { from: 0, to: 9 },
  capo: COUNT,
  fret: COUNT,
  string: COUNT,
  'per-minute': { from: 1, to: 2_000 },
  'beat-repeat': COUNT,
  'measure-repeat': COUNT,
};

/** Numbers in attributes that make the engraver work; what is not named is a place on the page. */
const ATTRIBUTES: Readonly<Record<string, Bounds>> = {
  times: { from: 2, to: 64 },
  size: { from: 1, to: 22 },
  slashes: { from: 0, to: 8 },
  measures: { from: 1, to: 4_000 },
  'number-of-lines': { from: 0, to: 12 },
};

/** Every other number: lengths in ticks, and places in tenths of a staff space. */
const TICKS: Bounds = { from: -1e9, to: 1e9 };
const TENTHS: Bounds = { from: -10_000, to: 10_000 };
const IN_TICKS: ReadonlySet<string> = new Set(['divisions', 'duration', 'offset']);

/** Signs of one name that one note or direction may carry. */
const MOST_ALIKE = 24;
/** Inside these everything belongs to music that goes on. */
const LONG: ReadonlySet<string> = new Set(['score-partwise', 'score-timewise', 'part', 'measure', 'part-list', 'defaults', 'identification']);
/** What one bar may hold; nobody can read more, and an engraver works on more for minutes. */
const MOST_IN_BAR: Readonly<Record<string, number>> = { note: 600, direction: 150, harmony: 150, 'figured-bass': 150, attributes: 50, barline: 6 };
/** Letters in one piece of text. */
const LONGEST_WORDS = 600;

export interface OutOfBounds {
  element: XmlElement;
  /** `staff-lines 1000000`, `articulations: 20000 times accent` */
  what: string;
  /** How it is drawn, in words. */
  drawn: string;
  edit: TextEdit;
}

/** What has to be drawn otherwise than it stands, in the order of the text. @param text of the document that the element is from */
export function outOfBounds(text: string, root: XmlElement): OutOfBounds[] {
  const found: OutOfBounds[] = [];
  walk(text, root, found);
  return found;
}

/** The same document within bounds; what is no document at all comes back as it is, for the engraver to refuse. */
export function withinBounds(musicXml: string): string {
  const parsed = parseXml(musicXml);
  if (!parsed.ok) return musicXml;
  const edits = outOfBounds(musicXml, parsed.value.root).map(({ edit }) => edit);
  return edits.length ? applyEdits(musicXml, edits) : musicXml;
}

function walk(text: string, element: XmlElement, found: OutOfBounds[]): void {
  attributesOf(text, element, found);
  if (element.children.length === 0) {
    contentOf(element, found);
    return;
  }
  const alike = new Map<string, XmlElement[]>();
  const most = (name: string): number => (LONG.has(element.name) ? (element.name === 'measure' ? (MOST_IN_BAR[name] ?? Infinity) : Infinity) : MOST_ALIKE);
  for (const child of element.children) {
    const same = alike.get(child.name);
    if (same) same.push(child);
    else alike.set(child.name, [child]);
    if ((same?.length ?? 1) <= most(child.name)) walk(text, child, found);
  }
  for (const [name, same] of alike) {
    if (same.length <= most(name)) continue;
    const drawn = `drawn ${most(name)} times`;
    same.slice(most(name)).forEach((child, i) => {
      const edit = { start: child.start, end: child.end, text: '' };
      found.push({ element, what: i === 0 ? `${name} ${same.length} times` : '', drawn, edit });
    });
  }
}

function contentOf(element: XmlElement, found: OutOfBounds[]): void {
  const { name, openEnd: start, closeStart: end } = element;
  const words = element.text.trim();
  if (words === '') return;
  if (/^[-+]?[\d.]+(e[-+]?\d+)?$/i.test(words)) {
    const bounds = NUMBERS[name] ?? (IN_TICKS.has(name) ? TICKS : TENTHS);
    const drawn = nearest(Number(words), bounds);
    if (drawn !== null) found.push({ element, what: `${name} ${words.slice(0, 24)}`, drawn: `drawn as ${drawn}`, edit: { start, end, text: String(drawn) } });
  } else if (words.length > LONGEST_WORDS) {
    const edit = {
      start,
      end,
      text: words
        .slice(0, LONGEST_WORDS)
        .replace(/[\uD800-\uDBFF]$/, '')
        .replace(/[&<>]/g, ' '),
    };
    found.push({ element, what: `${name} of ${words.length} letters`, drawn: `drawn as its first ${LONGEST_WORDS}`, edit });
  }
}

function attributesOf(text: string, element: XmlElement, found: OutOfBounds[]): void {
  for (const [name, value] of Object.entries(element.attributes)) {
    if (!/^\s*[-+]?[\d.]+(e[-+]?\d+)?\s*$/i.test(value) || name === 'id' || (name === 'number' && element.name === 'measure')) continue;
    const drawn = nearest(Number(value), ATTRIBUTES[name] ?? TENTHS);
    if (drawn === null) continue;
    const tag = text.slice(element.start, element.openEnd);
    const at = new RegExp(`\\s${name}\\s*=\\s*("[^"]*"|'[^']*')`).exec(tag);
    if (!at) continue;
    const edit = { start: element.start + at.index, end: element.start + at.index + at[0].length, text: ` ${name}="${drawn}"` };
    found.push({ element, what: `${element.name} with ${name} ${value.trim().slice(0, 24)}`, drawn: `drawn as ${drawn}`, edit });
  }
}

/** The nearest number within the bounds; null where it is within them. */
function nearest(value: number, { from, to }: Bounds): number | null {
  if (!Number.isFinite(value)) return from > 0 ? from : 0;
  return value < from ? from : value > to ? to : null;
}
