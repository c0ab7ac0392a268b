import AxeBuilder from '@axe-core/playwright';
import { demoText } from '../support/demo';
import { copyOf, drop, expect, test } from './steps';

test('the demo is there, with what is marked', async ({ page }) => {
  await page.goto('/');
  for (const title of ['Mill Race Serenade', 'Staircase', 'Evening Barge', 'The Heron', 'Low Tide'])
    await expect(page.getByRole('heading', { name: title, exact: true })).toBeVisible();
  await expect(page.getByRole('link', { name: /Violin I 129 bars violin \d+ marks/ })).toBeVisible();
});

test('bad files are named with place and remedy, good ones beside them are taken in, and nothing is lost', async ({ page }) => {
  await page.goto('/');
  const before = await page.getByRole('article').count();
  await drop(page, [
    { name: 'letter.musicxml', content: 'Dear Sir' },
    { name: 'cut-off.musicxml', content: demoText('staircase').slice(0, 9000) },
    { name: 'drums.musicxml', content: demoText('low-tide').replace(/<pitch>[\s\S]*?<\/pitch>/g, '<unpitched/>') },
    { name: 'bomb.musicxml', content: '<!DOCTYPE x [<!ENTITY a "aaaa">]><score-partwise>&a;</score-partwise>' },
    { name: 'good.musicxml', content: copyOf('low-tide', 'The Good One') },
  ]);
  const alerts = page.getByRole('main').getByRole('alert');
  await expect(alerts).toHaveCount(4);
  await expect(alerts.nth(0)).toContainText('letter.musicxml, line 1, column');
  await expect(alerts.nth(1)).toContainText(/cut-off\.musicxml, line \d+.*may be cut off/);
  await expect(alerts.nth(2)).toContainText('Percussion parts');
  await expect(alerts.nth(3)).toContainText('refused for safety');
  await expect(page.getByRole('heading', { name: 'The Good One' })).toBeVisible();
  await expect(page.getByRole('article')).toHaveCount(before + 1);
  await alerts.first().getByRole('button', { name: 'Close this message' }).click();
  await expect(alerts).toHaveCount(3);
});

test('the same file again opens no second piece; a piece taken off can be put back', async ({ page }) => {
  await page.goto('/');
  const content = copyOf('evening-barge', 'Off And On');
  await page.getByLabel('Score file').setInputFiles({ name: 'off-and-on.musicxml', mimeType: 'application/xml', buffer: Buffer.from(content) });
  await expect(page).toHaveURL(/\/desk\//);
  await page.goto('/');
  await drop(page, [{ name: 'off-and-on.musicxml', content }]);
  await expect(page.getByText('Off And On lies on the shelf already')).toBeVisible();
  await page.getByRole('button', { name: 'Take Off And On off the shelf' }).click();
  await expect(page.getByRole('heading', { name: 'Off And On' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Put it back' }).click();
  await expect(page.getByRole('heading', { name: 'Off And On' })).toBeVisible();
  await page.getByRole('button', { name: 'Take Off And On off the shelf' }).click();
  await expect(page.getByRole('heading', { name: 'Off And On' })).toHaveCount(0);
  await drop(page, [{ name: 'off-and-on.musicxml', content }]);
  await expect(page.getByText('Off And On was here before')).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Off And On' })).toBeVisible();
});

test('a part that is not there says so and leads back', async ({ page }) => {
  await page.goto('/desk/00000000-0000-4000-8000-000000000000');
  await expect(page.getByRole('heading', { name: 'There is nothing here' })).toBeVisible();
  await page.getByRole('link', { name: 'To the shelf' }).click();
  await expect(page.getByRole('heading', { name: 'Staircase' })).toBeVisible();
});

for (const theme of ['light', 'dark']) {
  test(`no accessibility rule is broken, ${theme}`, async ({ page, context, baseURL }) => {
    await context.addCookies([{ name: 'theme', value: theme, url: baseURL! }]);
    await page.goto('/');
    await expect(page.getByRole('heading', { name: 'Staircase' })).toBeVisible();
    expect(
      (await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa']).analyze()).violations.map(({ id, nodes }) => [
        id,
        nodes.map((node) => node.html),
      ]),
    ).toEqual([]);
  });
}
