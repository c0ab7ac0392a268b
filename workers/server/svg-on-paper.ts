/** The engraver's pictures in a PDF. What they say by a style sheet is said by attributes: on paper there is none. */
import SVGtoPDF from 'svg-to-pdfkit';
import { decompress } from 'wawoff2';

/** Names of the engraver's own fonts that a document has already. */
export type MusicFonts = Set<string>;

const unpacked = new Map<string, Buffer>();

/** The font of musical signs in words ("♩ = 112"), as it lies in the picture: compressed, which no PDF takes. */
export async function musicFont(doc: PDFKit.PDFDocument, svg: string, fonts: MusicFonts): Promise<void> {
  const [, name, base64] =
    /@font-face\s*\{\s*font-family:\s*'([^']+)';\s*src:\s*url\(data:application\/font-woff2;charset=utf-8;base64,([^)]+)\)/.exec(svg) ?? [];
  if (!name || !base64 || fonts.has(name)) return;
  let font = unpacked.get(name);
  if (!font) unpacked.set(name, (font = Buffer.from(await decompress(Buffer.from(base64, 'base64')))));
  doc.registerFont(name, font);
  fonts.add(name);
}

/** Draws a picture as wide as is said, from its upper left corner. */
export function drawSvg(doc: PDFKit.PDFDocument, svg: string, x: number, y: number, width: number): void {
  SVGtoPDF(doc, plain(svg), x, y, {
    width,
    assumePt: true,
    preserveAspectRatio: 'xMinYMin meet',
    fontCallback: (family, bold, italic) => (family.includes('serif') ? (italic ? 'Serif italic' : bold ? 'Serif bold' : 'Serif') : family),
    // Of a picture of our own engraver everything can be drawn.
    warningCallback: (warning) => console.error('on paper:', warning),
  });
}

/** @example `<path d="…"/>` of a stem becomes `<path stroke="black" d="…"/>` */
function plain(svg: string): string {
  return svg
    .replace(/<style[\s\S]*?<\/style>/g, '')
    .replace(/<(ellipse|path|polygon|polyline|rect)\b(?![^>]*\bstroke=)/g, '<$1 stroke="black"')
    .replace(/(<g [^>]*class="(?:ending|fing|reh|tempo)\b[^"]*")/g, '$1 font-weight="bold"')
    .replace(/(<g [^>]*class="(?:dir|dynam|mNum)\b[^"]*")/g, '$1 font-style="italic"');
}
