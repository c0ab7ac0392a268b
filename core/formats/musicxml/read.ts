/**
 * MusicXML in: partwise or timewise, versions 2.0 to 4.0, plain or compressed.
 * Source: the published MusicXML 4.0 documentation (W3C Music Notation Community Group).
 */
import { LIMITS } from '../../util/limits';
import { bad, good, type Problem, type Result } from '../../util/result';
import { titleText } from '../../util/text';
import type { Score, Warning } from '../../score/score';
import { child, childText, decodeXmlBytes, parseXml, placeInText, type XmlDocument, type XmlElement } from '../raw/xml';
import { isZip, openContainer } from '../raw/container';
import { onTimeLine, timeLineOf, type PartAlone } from '../../score/time-line';
import { readPart } from './part';

/** A document together with the measures of each part in order, whichever way the file nests them. */
export interface MusicXmlDocument extends XmlDocument {
  /** One entry per score-part of the part-list, in its order. */
  parts: Array<{ id: string; scorePart: XmlElement; measures: XmlElement[]; group: string | null }>;
}

export interface ReadScore {
  score: Score;
  document: MusicXmlDocument;
}

/** Divisions of a quarter note beyond which a file is mistaken. */
const MOST_DIVISIONS = 1_000_000;

const NOT_A_SCORE = 'Choose a MusicXML file (.musicxml, .xml or .mxl) exported from a notation program.';

/** A file as it came: plain or compressed, in any of the encodings that XML allows here. */
export function readMusicXmlBytes(bytes: Uint8Array): Result<ReadScore> {
  const xml = isZip(bytes) ? fromContainer(bytes) : good(bytes);
  if (!xml.ok) return xml;
  const text = decodeXmlBytes(xml.value);
  return text.ok ? readMusicXml(text.value) : text;
}

function fromContainer(bytes: Uint8Array): Result<Uint8Array> {
  const opened = openContainer(bytes);
  return opened.ok ? good(opened.value.files.get(opened.value.root)!) : opened;
}

export function readMusicXml(text: string): Result<ReadScore> {
  if (text.trim() === '') return bad(null, 'The file is empty.', 'Export the part again and send that file.');
  const opened = openMusicXml(text);
  if (!opened.ok) return opened;
  const document = opened.value;
  const warnings: Warning[] = [];
  const problem = divisionsProblem(document);
  if (problem) return { ok: false, problem };
  const alone: PartAlone[] = [];
  for (const source of document.parts) {
    const part = readPart(source, document.text, warnings);
    if (!part.ok) return part;
    alone.push(part.value);
  }
  const { line: timeLine, warnings: unexplained } = timeLineOf(alone);
  warnings.push(...unexplained);
  const parts = alone.map(({ part }) => onTimeLine(part, timeLine));
  if (parts.every((part) => part.notes.length === 0)) {
    return bad(
      null,
      'The score holds no notes of definite pitch.',
      'Percussion parts and empty scores cannot be marked; choose a part for violin, viola, cello or double bass.',
    );
  }
  const most = LIMITS.warnings;
  if (warnings.length > most) {
    const left = warnings.splice(most).length;
    warnings.push({ place: 'the file', text: `${left} more of such remarks are left out.` });
  }
  const score: Score = { ...headings(document.root), timeLine, parts, warnings };
  return good({ score, document });
}

/** Parses and checks the outline of the document, without reading any note. */
export function openMusicXml(text: string): Result<MusicXmlDocument> {
  const parsed = parseXml(text);
  if (!parsed.ok) return parsed;
  const { root } = parsed.value;
  if (root.name !== 'score-partwise' && root.name !== 'score-timewise') {
    return bad(placeInText(text, root.start), `The outermost element is <${root.name}>, which is not a MusicXML score.`, NOT_A_SCORE);
  }
  const listed = partList(child(root, 'part-list')?.children ?? []);
  const scoreParts = listed.map(({ scorePart }) => scorePart);
  if (scoreParts.length === 0)
    return bad(placeInText(text, root.start), 'The part-list names no part.', 'Export the score again; a score needs at least one part.');
  const measures = root.name === 'score-partwise' ? partwise(root) : timewise(root);
  const parts = [];
  for (const { scorePart, group } of listed) {
    const id = scorePart.attributes.id ?? '';
    const own = measures.get(id);
    if (!own || own.length === 0) {
      return bad(
        placeInText(text, scorePart.start),
        `The part-list names part "${id}", but the file has no bars for it.`,
        'The file may be cut off; export it again.',
      );
    }
    parts.push({ id, scorePart, measures: own, group });
    measures.delete(id);
  }
  const [stray] = measures.keys();
  if (stray !== undefined) return bad(null, `Part "${stray}" is missing from the part-list.`, 'Export the score again.');
  return good({ root, text, parts });
}

/** Parts with the name of the innermost group that has one: "Horns" for its "1 2" and "3 4". */
function partList(children: readonly XmlElement[]): Array<{ scorePart: XmlElement; group: string | null }> {
  const open: Array<{ number: string; name: string }> = [];
  return children.flatMap((element) => {
    const number = element.attributes.number ?? '1';
    if (element.name === 'score-part') return [{ scorePart: element, group: open.findLast(({ name }) => name !== '')?.name ?? null }];
    if (element.name !== 'part-group') return [];
    if (element.attributes.type === 'start') open.push({ number, name: titleText(childText(element, 'group-name') ?? '', LIMITS.title) });
    else {
      const at = open.findLastIndex((group) => group.number === number);
      if (at >= 0) open.splice(at, 1);
    }
    return [];
  });
}

function partwise(root: XmlElement): Map<string, XmlElement[]> {
  const result = new Map<string, XmlElement[]>();
  for (const part of root.children) {
    if (part.name === 'part')
      result.set(
        part.attributes.id ?? '',
        part.children.filter((element) => element.name === 'measure'),
      );
  }
  return result;
}

/** In a timewise file each measure holds parts: the part element stands for the measure and takes its attributes. */
function timewise(root: XmlElement): Map<string, XmlElement[]> {
  const result = new Map<string, XmlElement[]>();
  for (const measure of root.children) {
    if (measure.name !== 'measure') continue;
    for (const part of measure.children) {
      if (part.name !== 'part') continue;
      const id = part.attributes.id ?? '';
      const bars = result.get(id) ?? [];
      bars.push({ ...part, name: 'measure', attributes: measure.attributes });
      result.set(id, bars);
    }
  }
  return result;
}

/** Null where every length in the file can be understood. */
function divisionsProblem(document: MusicXmlDocument): Problem | null {
  for (const part of document.parts) {
    for (const measure of part.measures) {
      for (const element of measure.children) {
        if (element.name !== 'attributes') continue;
        const said = child(element, 'divisions')?.text.trim();
        if (said === undefined || (Number(said) > 0 && Number(said) <= MOST_DIVISIONS)) continue;
        return bad(
          `part ${part.id}, bar ${measure.attributes.number ?? '?'}`,
          `The divisions of the quarter note are "${said}".`,
          'They must be a number over 0, up to 1,000,000; export the score again.',
        ).problem;
      }
    }
  }
  return null;
}

function headings(root: XmlElement): { title: string; composer: string | null } {
  const work = childText(child(root, 'work'), 'work-title');
  const movement = childText(root, 'movement-title');
  const credit = root.children.find((element) => element.name === 'credit' && childText(element, 'credit-type') === 'title');
  const creators = (child(root, 'identification')?.children ?? []).filter((element) => element.name === 'creator');
  const composer = creators.find((element) => element.attributes.type === 'composer') ?? creators[0];
  const title = [work, movement].filter(Boolean).join(', ');
  return {
    title: titleText(title || childText(credit, 'credit-words') || '', LIMITS.title) || 'Untitled',
    composer: titleText(composer?.text ?? '', LIMITS.title) || null,
  };
}
