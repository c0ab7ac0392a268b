/** A PDF read by a package that did not make it. */
import { execFileSync } from 'node:child_process';

const READ = `
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
const bytes = []; for await (const chunk of process.stdin) bytes.push(chunk);
const doc = await getDocument({ data: new Uint8Array(Buffer.concat(bytes)), verbosity: 0 }).promise;
const pages = [];
for (let n = 1; n <= doc.numPages; n++) {
  const page = await doc.getPage(n);
  const [, , width, height] = page.view;
  const { items } = await page.getTextContent();
  const { fnArray } = await page.getOperatorList();
  pages.push({ width, height, items: items.filter((item) => item.str.trim()).map(({ str, transform }) => ({ text: str, x: transform[4], y: height - transform[5] })), operations: fnArray.length });
}
const { info } = await doc.getMetadata();
process.stdout.write(JSON.stringify({ title: info.Title, pages }));
`;

export interface ReadPdf {
  title: string;
  pages: Array<{ width: number; height: number; items: Array<{ text: string; x: number; y: number }>; operations: number }>;
}

export const readPdf = (bytes: Uint8Array): ReadPdf =>
  JSON.parse(execFileSync(process.execPath, ['--input-type=module', '-e', READ], { input: bytes, encoding: 'utf8', maxBuffer: 64e6 })) as ReadPdf;

export const textOf = ({ items }: ReadPdf['pages'][number]): string => items.map(({ text }) => text).join(' ');
