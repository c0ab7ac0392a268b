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
await open('Mill Race Serenade', 'Violin I', '49-64');
await score.focus();
for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight');
await page.getByRole('tab', { name: /Findings/ }).click();
await page.screenshot({ path: '/tmp/w/4.png' });
await open('Staircase', 'Violin', '17-32');
await score.focus();
await page.keyboard.press('ArrowRight');
await page.getByRole('radio', { name: 'Bow', exact: true }).click();
const wishes = page.getByRole('group', { name: 'Wishes' });
await wishes.getByRole('radio', { name: /^all of/ }).check();
await wishes.getByLabel('part of the bow').selectOption('lower half');
await page.waitForTimeout(1500);
await page.keyboard.press('Escape');
await score.focus();
await page.keyboard.press('p');
await page.waitForTimeout(2500);
await page.screenshot({ path: '/tmp/w/5.png' });
await page.setViewportSize({ width: 820, height: 1180 });
await page.waitForTimeout(1500);
await page.screenshot({ path: '/tmp/w/6.png' });
await browser.close();
