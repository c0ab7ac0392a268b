/** Draws the loose leaf that a demo passage was typed from, as a photograph: npx tsx demo/compose/sheet.ts. */
import { readFileSync } from 'node:fs';
import { chromium } from '@playwright/test';
import createVerovioModule from 'verovio/wasm';
import { VerovioToolkit } from 'verovio/esm';
import { musicXmlFromAbc } from '../../core/formats/abc/to-musicxml';

async function main(): Promise<void> {
  const folder = new URL('../loose-leaves/', import.meta.url);
  const typed = musicXmlFromAbc(readFileSync(new URL('lock-keepers-song.abc', folder), 'utf8'));
  if (!typed.ok) throw new Error(typed.problem.what);
  const verovio = new VerovioToolkit(await createVerovioModule());
  verovio.setOptions({ inputFrom: 'xml', scale: 55, pageWidth: 1500, pageHeight: 1900, header: 'auto', footer: 'none', adjustPageHeight: false });
  verovio.loadData(typed.value.musicXml);
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'] });
  const page = await browser.newPage({ viewport: { width: 1000, height: 1160 } });
  await page.setContent(`<body style="margin:0;background:#8a7358">
    <div style="position:absolute;inset:40px 60px;rotate:-1.6deg;background:radial-gradient(at 30% 20%,#fbf6e6,#e7dcc0);padding:40px;box-shadow:0 8px 40px #0008">
      ${verovio.renderToSVG(1, false)}
    </div></body>`);
  await page.screenshot({ path: new URL('lock-keepers-song.jpg', folder).pathname, type: 'jpeg', quality: 72 });
  await browser.close();
}

void main();
