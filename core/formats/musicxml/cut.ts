/**
 * Cutting a document: one part out of a score, and a passage out of a part, with the clef, key, time and
 * transposition in force at its start, so that an engraver has to read no more than it draws.
 */
import type { Part } from '../../score/score';
import type { Marking } from '../../marking/mark';
import { escapeXml, type XmlElement } from '../raw/xml';
import { applyEdits, type TextEdit } from './edits';
import type { MusicXmlDocument } from './read';
import { noteElements, withMarks } from './write';

const HEAD = '<?xml version="1.0" encoding="UTF-8"?>\n<score-partwise version="4.0">\n';

/** One part as a document of its own; headings are kept, the layout of the page is not. */
export function cutPart(document: MusicXmlDocument, partId: string): string {
  const source = document.parts.find((candidate) => candidate.id === partId);
  if (!source) throw new Error(`no part ${partId}`);
  const headings = document.root.children.filter((element) => ['work', 'movement-title', 'identification'].includes(element.name));
  return (
    HEAD +
    headings.map((element) => `${applyEdits(document.text, foreignIn(element), element.start, element.end)}\n`).join('') +
    `<part-list>${inGroup(source.group, raw(document, source.scorePart))}</part-list>\n<part id="${escapeXml(partId)}">\n` +
    source.measures.map((measure) => measureText(document, measure, foreignIn(measure), '')).join('\n') +
    '\n</part>\n</score-partwise>\n'
  );
}

/**
 * Pictures and programs of the web that somebody put into a file: no reader of music needs them, and they stay in the file as it came. By a prefix,
 * or by a namespace of the W3C (Namespaces in XML 1.0).
 */
function foreignIn(element: XmlElement): TextEdit[] {
  return element.children.flatMap((child) => (isForeign(child) ? [{ start: child.start, end: child.end, text: '' }] : foreignIn(child)));
}

const isForeign = ({ name, attributes }: XmlElement): boolean => name.includes(':') || /w3\.org/.test(attributes.xmlns ?? '');

const inGroup = (group: string | null, scorePart: string): string =>
  group === null
    ? scorePart
    : `<part-group number="1" type="start"><group-name>${escapeXml(group)}</group-name></part-group>${scorePart}<part-group number="1" type="stop"/>`;

export interface PassageCut {
  fromBar: number;
  toBar: number;
}

/** The order in which `<attributes>` wants its children (MusicXML content model). */
const ATTRIBUTE_ORDER = ['divisions', 'key', 'time', 'staves', 'part-symbol', 'instruments', 'clef', 'staff-details', 'transpose'];

/**
 * The bars of a passage with their marks engraved and every note carrying its id, for the engraver.
 * String numbers become the Roman numerals that players read.
 */
export function cutPassage(document: MusicXmlDocument, part: Part, marking: Marking, { fromBar, toBar }: PassageCut): string {
  const source = document.parts.find((candidate) => candidate.id === part.id);
  if (!source) throw new Error(`no part ${part.id}`);
  const edits: TextEdit[] = [...withMarks(document, part, marking, { forReading: true }).edits, ...idEdits(document, part)];
  const carried = attributesBefore(document, source.measures, fromBar);
  const bars = source.measures.slice(fromBar, toBar + 1).map((measure, i) => {
    const text = measureText(document, measure, edits, i === 0 ? startAttributes(measure, carried) : '');
    return text.replace(/<print\b[^>]*?(\/>|>[\s\S]*?<\/print>)/g, '');
  });
  return asDocument(part.id, bars.join('\n'));
}

/** Bars as a document of their own, for the engraver. */
export const asDocument = (partId: string, bars: string): string =>
  `${HEAD}<part-list><score-part id="${escapeXml(partId)}"><part-name></part-name></score-part></part-list>\n<part id="${escapeXml(partId)}">\n${forEngraver(bars)}\n</part>\n</score-partwise>\n`;

const NUMERALS = ['', 'I', 'II', 'III', 'IV', 'V', 'VI'];

/** Signs that engravers leave out of notes are turned into ones that they draw. */
export function forEngraver(bars: string): string {
  return bars
    .replace(/<string\b[^>]*>\s*([1-6])\s*<\/string>/g, (_, number: string) => `<fingering>${NUMERALS[Number(number)]}</fingering>`)
    .replace(/<thumb-position\s*\/>/g, '<fingering>T</fingering>')
    .replace(/<\/words>(?=\s*<\/direction-type>\s*<direction-type>\s*<metronome)/g, '\u00a0\u00a0</words>');
}

function raw(document: MusicXmlDocument, element: XmlElement): string {
  return document.text.slice(element.start, element.end);
}

/** A measure as text, whether it stood as a measure or, in a timewise file, as a part inside one. */
export function measureText(document: MusicXmlDocument, measure: XmlElement, edits: readonly TextEdit[], opening: string): string {
  const number = escapeXml(measure.attributes.number ?? '');
  const implicit = measure.attributes.implicit === 'yes' ? ' implicit="yes"' : '';
  const inside = measure.closeStart > measure.openEnd ? applyEdits(document.text, edits, measure.openEnd, measure.closeStart) : '';
  return `<measure number="${number}"${implicit}>${opening}${inside}</measure>`;
}

export function idEdits(document: MusicXmlDocument, part: Part): TextEdit[] {
  const elements = noteElements(document, part.id);
  return part.notes.map((note) => {
    const element = elements[note.source]!;
    const tag = document.text.slice(element.start, element.openEnd);
    const own = /\sid=("[^"]*"|'[^']*')/.exec(tag);
    if (own) return { start: element.start + own.index, end: element.start + own.index + own[0].length, text: ` id="${note.id}"` };
    const at = element.start + '<note'.length;
    return { start: at, end: at, text: ` id="${note.id}"` };
  });
}

/** The latest attributes before a bar, by name and number, as text. */
function attributesBefore(document: MusicXmlDocument, measures: readonly XmlElement[], bar: number): Map<string, string> {
  const carried = new Map<string, string>();
  for (const measure of measures.slice(0, bar)) {
    for (const element of measure.children) {
      if (element.name !== 'attributes') continue;
      for (const attribute of element.children) {
        if (ATTRIBUTE_ORDER.includes(attribute.name)) carried.set(attributeKey(attribute), raw(document, attribute));
      }
    }
  }
  return carried;
}

const attributeKey = (attribute: XmlElement): string => `${attribute.name} ${attribute.attributes.number ?? '1'}`;

/** Carried attributes without those that the bar itself gives before its first note. */
function startAttributes(measure: XmlElement, carried: ReadonlyMap<string, string>): string {
  const given = new Set<string>();
  for (const element of measure.children) {
    if (element.name === 'note' || element.name === 'forward') break;
    if (element.name === 'attributes') element.children.forEach((attribute) => given.add(attributeKey(attribute)));
  }
  const kept = [...carried].filter(([key]) => !given.has(key));
  if (kept.length === 0) return '';
  kept.sort(([a], [b]) => ATTRIBUTE_ORDER.indexOf(a.split(' ')[0]!) - ATTRIBUTE_ORDER.indexOf(b.split(' ')[0]!) || (a < b ? -1 : 1));
  return `<attributes>${kept.map(([, text]) => text).join('')}</attributes>`;
}
