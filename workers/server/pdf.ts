/** PDF files: begun, finished, joined. */
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { PDFDocument as JoinedPdf } from 'pdf-lib';
import PDFDocument from 'pdfkit';

/** Points. */
export const PAPERS = { a4: [595.28, 841.89], letter: [612, 792] } as const;
export type PaperName = keyof typeof PAPERS;

export const POINTS_PER_MM = 72 / 25.4;
/** Height of the engraver's staff in px of its picture. */
export const STAFF_PX = 30.24;

const FONTS: Readonly<Record<string, string>> = {
  Serif: '400Regular/SourceSerif4_400Regular.ttf',
  'Serif bold': '700Bold/SourceSerif4_700Bold.ttf',
  'Serif italic': '400Regular_Italic/SourceSerif4_400Regular_Italic.ttf',
};
/** From wherever the program is run. */
const resolve = createRequire(import.meta.url);
const fontFile = (file: string): Buffer => readFileSync(resolve.resolve(`@expo-google-fonts/source-serif-4/${file}`));

/** A document without pages yet, with its fonts. */
export function openPdf(paper: PaperName, title: string): { doc: PDFKit.PDFDocument; finished(): Promise<Uint8Array> } {
  const doc = new PDFDocument({ size: [...PAPERS[paper]], margin: 0, autoFirstPage: false, info: { Title: title, Creator: 'Omaggio' } });
  const chunks: Buffer[] = [];
  const done = new Promise<void>((resolve, reject) =>
    doc
      .on('data', (chunk: Buffer) => chunks.push(chunk))
      .on('end', resolve)
      .on('error', reject),
  );
  for (const [name, file] of Object.entries(FONTS)) doc.registerFont(name, fontFile(file));
  return {
    doc,
    async finished() {
      doc.end();
      await done;
      return Buffer.concat(chunks);
    },
  };
}

/** Files one after the other in one. */
export async function joinPdfs({ title, pdfs }: { title: string; pdfs: readonly Uint8Array[] }): Promise<Uint8Array> {
  const joined = await JoinedPdf.create();
  joined.setTitle(title);
  joined.setCreator('Omaggio');
  for (const pdf of pdfs) {
    const one = await JoinedPdf.load(pdf);
    for (const page of await joined.copyPages(one, one.getPageIndices())) joined.addPage(page);
  }
  return joined.save();
}
