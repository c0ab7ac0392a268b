/**
 * npm run screenshots, with Omaggio running at OMAGGIO_URL on a fresh demo: the pictures of docs/screenshots; with names, only those.
 */
import { chromium, type Page } from '@playwright/test';
import { browserCookie, comeIn } from './support/come-in';
import { secondEdition } from './support/second-edition';

const inside = await comeIn(process.env.OMAGGIO_URL ?? 'http://127.0.0.1:3000');
const { url } = inside;

interface Shot {
  name: string;
  /** Piece and part on the shelf; none for the shelf itself. */
  part?: [piece: string, part: string];
  bars?: string;
  theme?: 'dark';
  size?: { width: number; height: number };
  act?: (page: Page) => Promise<void>;
}

const focus = (page: Page) => page.getByRole('group', { name: /^Score/ }).focus();
const press = async (page: Page, key: string, times = 1) => {
  for (let i = 0; i < times; i++) await page.keyboard.press(key);
};

const SHOTS: readonly Shot[] = [
  {
    name: 'shelf',
    act: async (page) => {
      await page.getByRole('button', { name: 'Check all parts' }).click();
      await page.getByText(/Checking every part/).waitFor();
      await page.getByText(/Checking every part/).waitFor({ state: 'detached', timeout: 120_000 });
      await page
        .getByText(/to watch|at risk/)
        .first()
        .waitFor();
      await page.mouse.click(640, 100);
    },
  },
  {
    name: 'studio',
    act: async (page) => {
      for (const player of ['Ines', 'Marlene']) {
        await page.goto(new URL('/studio?show=links', page.url()).href);
        await page.getByRole('button', { name: `Make a link for ${player}` }).click();
        const link = (await page.getByRole('dialog').locator('code').textContent())!;
        const own = await page.context().browser()!.newContext();
        await (await own.newPage()).goto(link);
        await own.close();
      }
      await page.goto(new URL('/studio', page.url()).href);
    },
  },
  {
    name: 'crossread',
    act: async (page) => {
      await page.locator('a[href^="/score/"]').first().click();
      await page
        .getByRole('complementary')
        .getByText(/together up to|together from|No common/)
        .waitFor();
      await page.getByRole('group', { name: /^Parts side by side/ }).focus();
      await press(page, 'ArrowRight', 7);
      await page.getByRole('button', { name: 'Notes of Violin I', exact: true }).click();
      await press(page, 'b');
      await page.getByRole('group', { name: 'Bowed together' }).waitFor();
    },
  },
  {
    name: 'rehearsal-page',
    act: async (page) => {
      const score = await page.locator('a[href^="/score/"]').first().getAttribute('href');
      await page.goto(new URL(`${score}/rehearsal`, page.url()).href);
      await page.getByRole('region', { name: 'Entries' }).waitFor();
    },
  },
  {
    name: 'desk-choices',
    part: ['Mill Race Serenade', 'Violin I'],
    bars: '49-64',
    act: async (page) => {
      await focus(page);
      await press(page, 'ArrowRight', 5);
      await page.getByRole('region', { name: 'Ways to play this note' }).getByRole('article').first().waitFor();
    },
  },
  { name: 'desk-findings', part: ['Staircase', 'Violin'], bars: '17-32', act: async (page) => page.getByRole('tab', { name: /^Findings/ }).click() },
  {
    name: 'desk-fingering',
    part: ['The Heron', 'Cello'],
    bars: '17-32',
    act: async (page) => {
      await focus(page);
      await press(page, 'g');
      await page.getByRole('region', { name: 'Suggested fingerings' }).waitFor();
    },
  },
  {
    name: 'desk-bow',
    part: ['Staircase', 'Violin'],
    bars: '17-32',
    act: async (page) => {
      await focus(page);
      await press(page, 'ArrowRight', 3);
      await page.getByRole('radio', { name: 'Bow', exact: true }).click();
      await page.getByRole('region', { name: 'Ways to bow this note' }).getByRole('article').first().waitFor();
    },
  },
  {
    name: 'compare-bowings',
    part: ['The Heron', 'Cello'],
    bars: '17-32',
    act: async (page) => {
      await focus(page);
      await press(page, 'b');
      await page.getByRole('button', { name: 'compare' }).click();
      await page.getByRole('dialog').waitFor();
    },
  },
  {
    name: 'fingering-how',
    part: ['The Heron', 'Cello'],
    bars: '17-32',
    act: async (page) => {
      await page.getByRole('button', { name: /^Checked for/ }).click();
      await page.getByRole('menuitemradio', { name: /Pia/ }).click();
      await page.getByRole('button', { name: /^Fingered the/ }).click();
      await page.getByRole('dialog').getByLabel(/^Hand/).selectOption('measured');
      await page.getByRole('dialog').getByText('Avoid more, avoid less').click();
    },
  },
  {
    name: 'desk-reading',
    part: ['Mill Race Serenade', 'Violin I'],
    bars: '49-64&at=59/2&tab=reading',
    act: async (page) => {
      await page.getByRole('region', { name: 'Traps for the reader' }).getByRole('listitem').first().waitFor();
      await page.getByRole('heading', { name: 'Traps for the reader' }).evaluate((heading) => heading.scrollIntoView());
    },
  },
  { name: 'desk-notes', part: ['Mill Race Serenade', 'Violin I'], bars: '49-64&at=53/1&tab=notes' },
  {
    name: 'two-editions',
    part: ['Staircase', 'Violin'],
    act: async (page) => {
      await page.getByRole('button', { name: /Choose another part/ }).click();
      await page.getByRole('menuitem', { name: /About this part/ }).click();
      const buffer = Buffer.from(secondEdition('staircase', 'Staircase', '9'));
      await page.getByLabel('Another edition').setInputFiles({ name: 'staircase, revised.musicxml', mimeType: 'application/xml', buffer });
      await page.getByRole('region', { name: 'The other edition' }).locator('svg').first().waitFor();
    },
  },
  {
    name: 'typed-passage',
    part: ["The Lock-keeper's Song", 'Voice'],
    act: async (page) => {
      await page.getByRole('button', { name: /^Part: / }).click();
      await page.getByRole('menuitem', { name: 'About this part' }).click();
      await page.getByRole('button', { name: 'Edit the text' }).click();
      await page.getByRole('button', { name: 'Nearer' }).click();
      await page.waitForTimeout(600);
      // To the upper left corner of the leaf.
      await page.mouse.move(300, 450);
      await page.mouse.down();
      await page.mouse.move(560, 640, { steps: 8 });
      await page.mouse.up();
    },
  },
  {
    name: 'check-sheet',
    part: ['Staircase', 'Violin'],
    size: { width: 900, height: 1000 },
    act: async (page) => {
      await page.getByRole('tab', { name: /^Findings/ }).click();
      await page.getByRole('link', { name: 'Check sheet for the lesson' }).click();
      await page.getByText('Try:').first().waitFor();
    },
  },
  {
    name: 'players-fit',
    part: ['Staircase', 'Violin'],
    act: async (page) => {
      await page.getByRole('button', { name: /^Checked for/ }).click();
      await page.getByRole('menuitem', { name: /how this part fits them/ }).click();
      await page.getByRole('article', { name: 'For Tobi' }).getByRole('button').click();
      await page.getByText(/With these changes/).waitFor();
      await page.getByRole('button', { name: 'Keep as Tobi’s own marks' }).scrollIntoViewIfNeeded();
    },
  },
  {
    name: 'hand-outs',
    act: async (page) => {
      const address = await page.locator('a[href^="/hand-out/"]').first().getAttribute('href');
      const part = await page.getByRole('link', { name: /^Violin I 129/ }).getAttribute('href');
      // Something was marked since.
      await page.goto(new URL(`${part}?bars=49-64`, page.url()).href);
      await page.locator('[data-report=true]').waitFor();
      await focus(page);
      await press(page, 'ArrowRight', 12);
      await press(page, 'u');
      await press(page, 'ArrowRight', 3);
      await press(page, '2');
      await page.locator('[data-save=saved]').waitFor();
      await page.goto(new URL(address!, page.url()).href);
      await page
        .getByText(/bars? changed/)
        .first()
        .waitFor();
    },
  },
  {
    name: 'stand',
    size: { width: 820, height: 1000 },
    act: async (page) => {
      await page.goto(new URL((await page.locator('a[href^="/hand-out/"]').first().getAttribute('href'))!, page.url()).href);
      await page.goto(new URL((await page.getByRole('link', { name: 'Violin I on the stand of Ines' }).getAttribute('href'))!, page.url()).href);
      await page.locator('.engraving svg').first().waitFor();
      await press(page, 'PageDown');
    },
  },
  { name: 'desk-tablet', part: ['Evening Barge', 'Viola'], size: { width: 820, height: 1180 } },
];

async function main(): Promise<void> {
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update'],
  });
  const only = process.argv.slice(2);
  for (const { name, part, bars, theme, size, act } of SHOTS.filter(({ name }) => only.length === 0 || only.includes(name))) {
    const context = await browser.newContext({ viewport: size ?? { width: 1280, height: 800 } });
    if (theme) await context.addCookies([{ name: 'theme', value: theme, url }]);
    await context.addCookies([browserCookie(inside)]);
    const page = await context.newPage();
    await page.goto(url);
    if (part) {
      const href = await page
        .getByRole('article', { name: part[0] })
        .getByRole('link', { name: new RegExp(`^${part[1]} \\d`) })
        .getAttribute('href');
      await page.goto(`${url}${href}${bars ? `?bars=${bars}` : ''}`);
      await page.locator('[data-report=true][data-engraved=true]').waitFor();
    }
    await page.waitForTimeout(500);
    await act?.(page);
    await page.waitForTimeout(500);
    await page.screenshot({ path: `docs/screenshots/${name}.png` });
    await context.close();
  }
  await browser.close();
}

void main();
