/**
 * A light XML tree that remembers where in the text each element stands, so that a document can be
 * patched in place and everything else stays as it came, byte for byte. Parsing is done by `saxes`
 * (XML 1.0, well-formedness errors with line and column); no entity is ever fetched or expanded.
 */
import { SaxesParser } from 'saxes';
import { LIMITS } from '../../util/limits';
import { bad, good, type Result } from '../../util/result';
import { cleanText } from '../../util/text';

export interface XmlElement {
  name: string;
  attributes: Record<string, string>;
  children: XmlElement[];
  /** Text directly inside, concatenated. */
  text: string;
  /** Offset of "<" of the start tag. */
  start: number;
  /** Offset just after ">" of the start tag. */
  openEnd: number;
  /** Offset of "<" of the end tag; equals openEnd for an empty-element tag. */
  closeStart: number;
  /** Offset just after the element. */
  end: number;
}

export interface XmlDocument {
  root: XmlElement;
  text: string;
}

/** Plain text limit: larger files are refused before they are parsed. */
export const LARGEST_FILE_BYTES = LIMITS.fileBytes;
const DEEPEST_NESTING = 200;

/** Bytes to text: UTF-8, or UTF-16 by its byte order mark or by its first "<". */
export function decodeXmlBytes(bytes: Uint8Array): Result<string> {
  if (bytes.length === 0) return bad(null, 'The file is empty.', 'Export the part again and send that file.');
  if (bytes.length > LARGEST_FILE_BYTES) {
    return bad(
      null,
      `The file has ${(bytes.length / 1048576).toFixed(1)} MB; the limit is ${LARGEST_FILE_BYTES / 1048576} MB.`,
      'Export the parts one by one, or leave out embedded pictures.',
    );
  }
  const encoding = guessEncoding(bytes);
  try {
    return good(new TextDecoder(encoding, { fatal: true, ignoreBOM: true }).decode(bytes));
  } catch {
    return bad(null, `The file is not valid ${encoding.toUpperCase()} text.`, 'Export it as MusicXML again; if it is an older file, save it as UTF-8.');
  }
}

export function guessEncoding(bytes: Uint8Array): string {
  if ((bytes[0] === 0xfe && bytes[1] === 0xff) || (bytes[0] === 0 && bytes[1] === 0x3c)) return 'utf-16be';
  if ((bytes[0] === 0xff && bytes[1] === 0xfe) || (bytes[0] === 0x3c && bytes[1] === 0)) return 'utf-16le';
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 200));
  const declared = /^[^<]*<\?xml[^>]*encoding=["']([\w-]+)["']/.exec(head)?.[1]?.toLowerCase();
  return declared === 'iso-8859-1' || declared === 'latin1' || declared === 'windows-1252' ? 'windows-1252' : 'utf-8';
}

export function parseXml(text: string): Result<XmlDocument> {
  const parser = new SaxesParser({ position: true });
  let root: XmlElement | null = null;
  const stack: XmlElement[] = [];
  let failure: string | null = null;
  let declaresEntities = false;
  let lastElement = 0;
  parser.on('error', (error) => {
    failure ??= error.message;
    throw error;
  });
  parser.on('doctype', (doctype) => {
    if (/<!ENTITY/i.test(doctype)) {
      declaresEntities = true;
      throw new Error('entities');
    }
  });
  parser.on('opentag', (tag) => {
    const openEnd = parser.position;
    const element: XmlElement = {
      name: tag.name,
      attributes: attributesOf(tag.attributes as Record<string, string>),
      children: NO_CHILDREN,
      text: '',
      start: startOfTag(text, lastElement, openEnd, tag.name),
      openEnd,
      closeStart: openEnd,
      end: openEnd,
    };
    lastElement = openEnd;
    const parent = stack[stack.length - 1];
    if (!parent) root = element;
    else if (parent.children === NO_CHILDREN) parent.children = [element];
    else parent.children.push(element);
    stack.push(element);
    if (stack.length > DEEPEST_NESTING) throw new Error('nesting');
  });
  parser.on('closetag', (tag) => {
    const element = stack.pop()!;
    element.end = parser.position;
    element.closeStart = tag.isSelfClosing ? element.openEnd : text.lastIndexOf('<', parser.position - 1);
    lastElement = parser.position;
  });
  const addText = (value: string) => {
    const top = stack[stack.length - 1];
    // Indents between elements say nothing.
    if (top && (top.children.length === 0 || /\S/.test(value))) top.text += value;
  };
  parser.on('text', addText);
  parser.on('cdata', addText);
  try {
    parser.write(text).close();
  } catch (error) {
    const place = `line ${parser.line}, column ${parser.column}`;
    if (declaresEntities) {
      return bad(place, 'The file declares entities of its own, which is refused for safety.', 'Remove the <!ENTITY …> lines or export the file again.');
    }
    if (failure === null && error instanceof Error && error.message === 'nesting') {
      return bad(place, `Elements are nested more than ${DEEPEST_NESTING} deep.`, 'This is not a score; export it again.');
    }
    if (failure === null) throw error;
    return bad(place, `The file is not well-formed XML: ${plainReason(failure)}.`, 'It may be cut off or not MusicXML at all; export it again.');
  }
  if (!root) return bad(null, 'The file holds no XML element.', 'Choose a MusicXML file (.musicxml or .xml).');
  return good({ root, text });
}

/** Most elements have neither: they share these, which keeps a large tree small. */
const NO_CHILDREN: XmlElement[] = Object.freeze([]) as unknown as XmlElement[];
const NO_ATTRIBUTES: Record<string, string> = Object.freeze({});

function attributesOf(attributes: Record<string, string>): Record<string, string> {
  for (const _ in attributes) return attributes;
  return NO_ATTRIBUTES;
}

/** The last "<name" before a position; attribute values cannot hold "<", so it is this tag's own. */
function startOfTag(text: string, from: number, before: number, name: string): number {
  const at = text.lastIndexOf(`<${name}`, before - 1);
  return at >= from ? at : from;
}

function plainReason(message: string): string {
  return message.replace(/^\d+:\d+:\s*/, '').replace(/\.$/, '');
}

/** First child of that name. */
export function child(element: XmlElement | undefined, name: string): XmlElement | undefined {
  if (!element) return undefined;
  for (const candidate of element.children) if (candidate.name === name) return candidate;
  return undefined;
}

export function childText(element: XmlElement | undefined, name: string): string | null {
  const found = child(element, name);
  return found ? found.text.trim() : null;
}

/** Number in a child element; null when it is absent or no number. */
export function childNumber(element: XmlElement | undefined, name: string): number | null {
  const text = childText(element, name);
  if (text === null || text === '') return null;
  const value = Number(text);
  return Number.isFinite(value) ? value : null;
}

/** Text as it stands in a document: what XML forbids is left out, so that the document is well-formed whatever was stored. */
export function escapeXml(text: string): string {
  return cleanText(text).replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');
}

/** Line and column (from 1) of an offset. */
export function placeInText(text: string, offset: number): string {
  let line = 1;
  let lineStart = 0;
  for (let at = text.indexOf('\n'); at !== -1 && at < offset; at = text.indexOf('\n', at + 1)) {
    line++;
    lineStart = at + 1;
  }
  return `line ${line}, column ${offset - lineStart + 1}`;
}
