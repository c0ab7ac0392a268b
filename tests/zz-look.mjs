import { chromium } from '@playwright/test';
const url = 'http://127.0.0.1:3111';
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'] });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
page.on('pageerror', (e) => console.log('ERR', e.message));
page.on('console', (m) => m.type() === 'error' && console.log('CON', m.text()));
const open = async (piece, part, bars) => {
  await page.goto(url);
  const href = await page
    .getByRole('article', { name: piece })
    .getByRole('link', { name: new RegExp('^' + part + ' \\d') })
    .first()
    .getAttribute('href');
  await page.goto(url + href + (bars ? '?bars=' + bars : ''));
  await page.waitForFunction(() => document.querySelector('[data-report="true"][data-engraved="true"]'));
};
const score = page.getByRole('group', { name: /^Score/ });
await open('Mill Race Serenade', 'Viola', '33-48');
await score.focus();
for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowRight');
await page.keyboard.press('d');
await page.waitForTimeout(1200);
const tab = page.getByRole('tabpanel');
await tab.evaluate((e) => e.scrollTo(0, 2000));
await page.screenshot({ path: '/tmp/w/1.png' });
await open('Mill Race Serenade', 'Violin II', '113-128');
await page.getByRole('tab', { name: /Findings/ }).click();
await page.screenshot({ path: '/tmp/w/2.png' });
await page.setViewportSize({ width: 1920, height: 1080 });
await page.waitForTimeout(1500);
await page.screenshot({ path: '/tmp/w/3.png' });
await browser.close();
