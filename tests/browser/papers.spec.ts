import { chromium, type Page } from '@playwright/test';
import { expect, ready, saved, test, walkTo } from './steps';

/** A PDF of two pages, as a browser prints it. */
async function twoPages(): Promise<Buffer> {
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
  const page = await browser.newPage();
  await page.setContent(
    '<h1>Ferry Landing</h1><svg width="600" height="80"><path d="M0 10h600M0 20h600M0 30h600M0 40h600M0 50h600" stroke="black"/></svg><h1 style="break-before: page">Second page</h1>',
  );
  const pdf = await page.pdf({ format: 'A4' });
  await browser.close();
  return pdf;
}
async function typeOn(page: Page) {
  await page.getByRole('button', { name: /^Part: / }).click();
  await page.getByRole('menuitem', { name: 'About this part' }).click();
  await page.getByRole('button', { name: 'Edit the text' }).click();
}

const TUNE = 'X:1\nT:Ferry Landing\nM:4/4\nL:1/4\nK:D\nV:1 name="Violin"\nDFAd|f2d2|\n';

test('a sheet that is dropped lies beside the passage while it is typed, stays with it, and is there when it is typed on', async ({ page }) => {
  await page.goto('/');
  const pdf = { name: 'ferry.pdf', mimeType: 'application/pdf', buffer: await twoPages() };
  await page.getByLabel('Score file').setInputFiles(pdf);
  const dialog = page.getByRole('dialog', { name: 'Type a passage' });
  const sheet = dialog.getByRole('region', { name: 'Sheet: ferry.pdf' });
  await expect(sheet).toContainText('page 1 of 2');
  // Drawn: not every pixel of it is white.
  const inked = () =>
    sheet.locator('canvas').evaluate((canvas: HTMLCanvasElement) =>
      canvas
        .getContext('2d')!
        .getImageData(0, 0, canvas.width, canvas.height)
        .data.some((value, i) => i % 4 === 0 && value < 100),
    );
  await expect.poll(inked).toBe(true);
  await sheet.getByRole('button', { name: 'Next page' }).click();
  await expect(sheet).toContainText('page 2 of 2');
  const scale = () => sheet.locator('.react-transform-component').evaluate((element) => new DOMMatrix(getComputedStyle(element).transform).a);
  const before = await scale();
  await sheet.getByRole('button', { name: 'Nearer' }).click();
  await expect.poll(scale).toBeGreaterThan(before * 1.2);
  await dialog.getByLabel('The passage in ABC notation').fill(TUNE);
  await expect(dialog.getByRole('button', { name: 'Put it on the shelf' })).toBeEnabled();

  // What cannot be taken in is said, and nothing is lost.
  await page.route('**/api/pieces?*', (route) => route.abort(), { times: 1 });
  await dialog.getByRole('button', { name: 'Put it on the shelf' }).click();
  await expect(dialog.getByRole('alert')).toContainText('Omaggio does not answer');
  await page.reload();
  await page.getByRole('button', { name: 'Type a passage' }).click();
  await expect(dialog.getByLabel('The passage in ABC notation')).toHaveValue(TUNE);
  await expect(sheet).toContainText('page 2 of 2');
  await dialog.getByRole('button', { name: 'Put it on the shelf' }).click();
  await expect(page).toHaveURL(/\/desk\//);
  await ready(page);
  await walkTo(page, 2);
  await page.keyboard.press('2');
  await saved(page);

  await typeOn(page);
  await expect(sheet).toContainText('page 2 of 2');
  const png = { name: 'photo.png', mimeType: 'image/png', buffer: await page.screenshot() };
  await dialog
    .getByLabel('Photograph or PDF to type from')
    .setInputFiles([
      png,
      { name: 'broken.pdf', mimeType: 'application/pdf', buffer: Buffer.from('%PDF-1.7 nothing more') },
      { name: 'phone.heic', mimeType: 'image/heic', buffer: Buffer.from('\0\0\0\x18ftypheic\0\0\0\0', 'latin1') },
    ]);
  await expect(dialog.getByRole('alert').filter({ hasText: 'phone.heic: This photograph is in a format (HEIC)' })).toBeVisible();
  // To and fro in a hurry: one is still being closed while the next is opened.
  for (const name of ['ferry.pdf', 'broken.pdf', 'ferry.pdf']) await dialog.getByRole('tab', { name }).click();
  await expect(sheet).toContainText('page 2 of 2');
  await dialog.getByRole('tab', { name: 'broken.pdf' }).click();
  await expect(dialog.getByRole('region', { name: 'Sheet: broken.pdf' }).getByRole('alert')).toContainText('cannot be shown: the file is damaged');
  await dialog.getByRole('button', { name: 'Take broken.pdf away' }).click();
  await dialog.getByRole('tab', { name: 'photo.png' }).click();
  const photo = dialog.getByRole('img', { name: 'The sheet photo.png' });
  await expect.poll(() => photo.evaluate((image: HTMLImageElement) => image.naturalWidth)).toBeGreaterThan(500);
  await dialog.getByLabel('The passage in ABC notation').fill(TUNE.replace('f2d2', 'f2e2'));
  await dialog.getByRole('button', { name: 'Use this text; marks stay' }).click();
  await ready(page);
  await walkTo(page, 2);
  await expect(page.locator('#status')).toContainText('finger 2');
  await typeOn(page);
  await expect(dialog.getByRole('tab')).toHaveText(['ferry.pdf', 'photo.png']);
});
