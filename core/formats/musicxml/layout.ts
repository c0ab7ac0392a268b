/** Where a new element goes in the text, with the line breaks and indents that the file has. */
import type { XmlElement } from '../raw/xml';
import type { TextEdit } from './edits';

/** Inserts before the end tag; an empty-element tag is opened for it. */
export function insertion(text: string, element: XmlElement, block: string, closing: string): TextEdit[] {
  if (element.closeStart === element.openEnd && text[element.openEnd - 2] === '/') {
    return [{ start: element.openEnd - 2, end: element.openEnd, text: `>${block}${closing}</${element.name}>` }];
  }
  const at = trimmedEnd(text, element);
  return [{ start: at, end: at, text: block }];
}

/** Offset of the end of an element's content, without the white space before its end tag. */
export function trimmedEnd(text: string, element: XmlElement): number {
  let at = element.closeStart;
  while (at > element.openEnd && /\s/.test(text[at - 1]!)) at--;
  return at;
}

/** An element together with the white space in front of it. */
export function withSpace(text: string, element: XmlElement): { start: number; end: number } {
  let start = element.start;
  while (start > 0 && /[ \t\r\n]/.test(text[start - 1]!)) start--;
  return { start, end: element.end };
}

/** Line breaks and indents as the file has them; none where it has none. Depth 0 is the element's own. */
export function layoutOf(text: string, element: XmlElement): { line: (depth: number) => string } {
  const before = /(\r?\n)([ \t]*)$/.exec(text.slice(Math.max(0, element.start - 200), element.start));
  const first = element.children[0];
  const inner = first ? /(\r?\n)([ \t]*)$/.exec(text.slice(element.openEnd, first.start)) : null;
  if (!before || !inner) return { line: () => '' };
  const unit = inner[2]!.startsWith(before[2]!) ? inner[2]!.slice(before[2]!.length) : '  ';
  return { line: (depth) => before[1]! + before[2]! + unit.repeat(depth) };
}
