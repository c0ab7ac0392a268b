/**
 * npm run bench:desk, with Omaggio running at OMAGGIO_URL: a part of 300 bars on the Desk. How long the findings take, what helps
 * against one of them, and the check after each mark while marks are typed at speed. Times are from asking the worker to its answer.
 */
import { chromium, type Page } from '@playwright/test';
import { browserCookie, comeIn } from '../support/come-in';
import { say } from '../support/figures';
import { longPart } from '../support/long-part';

const inside = await comeIn(process.env.OMAGGIO_URL ?? 'http://127.0.0.1:3000');
const { url } = inside;
const MARKS = 120;
const FINDINGS = 12;
const WHOLE = 20;

/** From each key to its sign in the page: measured where it happens. */
const watchMarks = (page: Page): Promise<void> =>
  page.evaluate(() => {
    let pressed: number | null = null;
    window.addEventListener('keydown', ({ key }) => (pressed = /^[1-4du]$/.test(key) ? performance.now() : pressed), { capture: true });
    new MutationObserver((changes) => {
      const drawn = changes.some(({ target }) => (target as Element).hasAttribute('data-fresh'));
      if (pressed === null || !drawn) return;
      performance.measure('omaggio mark', { start: pressed });
      pressed = null;
    }).observe(document.querySelector('#score')!, { subtree: true, childList: true, attributes: true, attributeFilter: ['data-fresh'] });
  });

const measured = (page: Page, name: string): Promise<number[]> =>
  page.evaluate((entry) => performance.getEntriesByName(`omaggio ${entry}`).map(({ duration }) => duration), name);
const settled = async (page: Page, name: string, count: number) => {
  for (let i = 0; i < 600 && (await measured(page, name)).length < count; i++) await page.waitForTimeout(50);
};

const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
try {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.context().addCookies([browserCookie(inside)]);
  await page.goto(url);
  const title = `Bench ${Date.now()}`;
  const transfer = await page.evaluateHandle(
    (text) => {
      const data = new DataTransfer();
      data.items.add(new File([text], 'bench.musicxml', { type: 'application/xml' }));
      return data;
    },
    longPart(300, title),
  );
  await page.locator('main').dispatchEvent('dragover', { dataTransfer: transfer });
  await page.locator('main').dispatchEvent('drop', { dataTransfer: transfer });
  await page.waitForURL(/\/desk\//);
  const score = page.getByRole('group', { name: /^Score/ });
  await page.waitForFunction(() => document.querySelector('[data-whole=true]'));
  say('findings of the passage, first time', (await measured(page, 'near')).slice(0, 1));
  say('findings of 300 bars, first time', (await measured(page, 'report')).slice(0, 1));

  await watchMarks(page);
  await score.focus();
  for (const [what, keys] of [
    ['after a finger', ['1', '2', '3', '4']],
    ['after a bow', ['d', 'u']],
  ] as const) {
    const before = (await measured(page, 'near')).length;
    for (let i = 0; i < MARKS / 2; i++) {
      await page.keyboard.press('ArrowRight');
      await page.keyboard.press('ArrowRight');
      await page.keyboard.press(keys[i % keys.length]!);
      await page.waitForTimeout(120);
    }
    await page.waitForTimeout(1500);
    say(`mark on the music ${what}`, (await measured(page, 'mark')).slice(-MARKS / 2));
    say(`passage ${what}`, (await measured(page, 'near')).slice(before));
    const whole = (await measured(page, 'report')).length;
    for (let i = 0; i < WHOLE; i++) {
      await page.keyboard.press('ArrowRight');
      await page.keyboard.press(keys[i % keys.length]!);
      await settled(page, 'report', whole + i + 1);
    }
    say(`whole part ${what}`, (await measured(page, 'report')).slice(whole));
  }
  await page.getByRole('tab', { name: /^Findings/ }).click();
  await score.focus();
  for (let i = 1; i <= FINDINGS; i++) {
    await page.keyboard.press('f');
    await settled(page, 'remedies', i);
  }
  say('what helps against one finding', await measured(page, 'remedies'));
} finally {
  await browser.close();
}
