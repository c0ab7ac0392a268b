/**
 * npm run bench:drop, with Omaggio running at OMAGGIO_URL: from dropping a file that it does not know to the engraved first passage,
 * and from there to the findings, as a browser sees it. Medians of five, after one that does not count.
 */
import { loadavg } from 'node:os';
import { chromium } from '@playwright/test';
import { browserCookie, comeIn } from '../support/come-in';
import { longPart } from '../support/long-part';
import { realScores } from '../support/real-scores';

const [, large] = realScores(/^ActorPreludeSample\.xml$/)[0]!;
const FILES: ReadonlyArray<[what: string, make: (title: string) => Buffer]> = [
  ['one part, 200 bars', (title) => Buffer.from(longPart(200, title))],
  // Another comment makes it a file that is not on the shelf yet.
  ['22 parts, 41 bars', (title) => Buffer.concat([large, Buffer.from(`<!-- ${title} -->`)])],
];

async function main(): Promise<void> {
  const inside = await comeIn(process.env.OMAGGIO_URL ?? 'http://127.0.0.1:3000');
  const { url } = inside;
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update'],
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.context().addCookies([browserCookie(inside)]);
  const median = (times: number[]) => times.sort((a, b) => a - b)[Math.floor(times.length / 2)]!;
  console.log(`busy: ${loadavg()[0]!.toFixed(1)} processes on average in the last minute`);
  for (const [what, make] of FILES) {
    const toEngraving: number[] = [];
    const toFindings: number[] = [];
    for (let run = 0; run < 6; run++) {
      await page.goto(url);
      await page.waitForLoadState('networkidle');
      const title = `Measured ${Date.now()}`;
      const start = Date.now();
      await page.getByLabel('Score file').setInputFiles({ name: `${title}.musicxml`, mimeType: 'application/xml', buffer: make(title) });
      await page.locator('.engraving svg').first().waitFor();
      const engraved = Date.now();
      await page.locator('[data-report=true]').waitFor();
      const checked = Date.now();
      if (run > 0) {
        toEngraving.push(engraved - start);
        toFindings.push(checked - engraved);
      }
      await page.goto(url);
      await page
        .getByRole('button', { name: /^Take .* off the shelf$/ })
        .first()
        .click();
    }
    console.log(`${what}: drop to engraved first passage ${median(toEngraving)} ms, to findings ${median(toFindings)} ms more`);
  }
  await browser.close();
}

void main();
