import AxeBuilder from '@axe-core/playwright';
import { readFileSync } from 'node:fs';
import { readMusicXml } from '../../core/formats/musicxml/read';
import { realScores } from '../support/real-scores';
import { expect, openNew, ready, saved, score, status, test, walkTo } from './steps';
import type { Page } from '@playwright/test';

test('a teacher’s first hour: brings a real score in, marks 16 bars, corrects a misprint, checks for a small hand, prints, takes out, types a passage', async ({
  page,
}) => {
  // A real score of 22 parts, from the development package; under a name of its own.
  const [, bytes] = realScores(/^ActorPreludeSample\.xml$/)[0]!;
  await page.goto('/');
  await page.getByLabel('Score file').setInputFiles({ name: 'first-hour.xml', mimeType: 'application/xml', buffer: Buffer.from(bytes) });
  await expect(page).toHaveURL(/\/desk\//);
  await page.getByRole('button', { name: /^Part: / }).click();
  await page.getByRole('menuitem', { name: 'Violin I', exact: true }).click();
  await ready(page);

  // Sixteen bars, by suggestion and by own marks.
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: /as you would say it/ }).fill('1-16');
  await page.keyboard.press('Enter');
  await page.keyboard.press('n');
  await ready(page);
  for (const [key, region] of [
    ['g', 'Suggested fingerings'],
    ['b', 'Suggested bowings'],
  ] as const) {
    await score(page).focus();
    await page.keyboard.press(key);
    await expect(page.getByRole('region', { name: region }).getByRole('article').first()).toBeVisible();
    await page.keyboard.press('Enter');
    await expect(page.getByRole('region', { name: region })).toHaveCount(0);
  }
  await walkTo(page, 1);
  await page.keyboard.press('2');
  await expect(status(page)).toContainText('finger 2');
  await saved(page);

  // A misprint.
  await page.keyboard.press('e');
  const box = page.getByRole('region', { name: 'Edit the text' });
  await box.getByLabel('Why it is changed').fill('the score has it so');
  await box.getByRole('button', { name: 'accent', exact: true }).click();
  await expect(page.getByRole('region', { name: 'Changes against the print' }).getByRole('article')).toHaveCount(1);

  // For a small hand, and to the sheet and back.
  await page.getByRole('button', { name: /^Checked for/ }).click();
  await page.getByRole('menuitemradio', { name: /Tobi/ }).click();
  await ready(page);
  await page.getByRole('tab', { name: /^Findings/ }).click();
  await page.getByRole('link', { name: 'Check sheet for the lesson' }).click();
  await expect(page.getByRole('region', { name: 'Tempo' })).toBeVisible();
  await page.getByRole('banner').getByRole('link', { name: 'Violin I' }).click();
  await ready(page);

  // Out: the part of one's own with every mark in it.
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Marked part' }).click()]);
  const marked = readMusicXml(readFileSync(await download.path(), 'utf8'));
  const notes = marked.ok ? marked.value.score.parts.find(({ name }) => name === 'Violin I')!.notes : [];
  expect(notes.some(({ printed, articulations }) => printed.finger === '2' && articulations.includes('accent'))).toBe(true);
  expect(notes.filter(({ printed }) => printed.finger !== null).length).toBeGreaterThan(2);

  // And a passage from paper.
  await page.goto('/');
  await page.getByRole('button', { name: 'Type a passage' }).click();
  const dialog = page.getByRole('dialog', { name: 'Type a passage' });
  await dialog.getByLabel('The passage in ABC notation').fill('X:1\nT:First Hour Typed\nM:3/4\nL:1/4\nK:G\nV:1 name="Violin"\nGBd|g2d|B3|\n');
  await dialog.getByRole('button', { name: 'Put it on the shelf' }).click();
  await expect(page).toHaveURL(/\/desk\//);
  await ready(page);
  await walkTo(page, 2);
  await page.keyboard.press('3');
  await expect(status(page)).toContainText('finger 3');
});

/** Every dialog of the Desk by what opens it. */
const DIALOGS: ReadonlyArray<readonly [name: string, open: (page: Page) => Promise<void>]> = [
  ['keys', (page) => page.keyboard.press('?')],
  ['find', (page) => page.keyboard.press('Control+k')],
  ['hand', (page) => page.getByRole('button', { name: /^Fingered the/ }).click()],
];

for (const [name, width, height] of [
  ['a desk', 1280, 800],
  ['a tablet', 820, 1180],
  ['a phone', 390, 844],
] as const) {
  test(`no accessibility rule is broken on ${name}, nor in a dialog there; nothing is wider than the screen`, async ({ page }) => {
    await page.setViewportSize({ width, height });
    await openNew(page, 'staircase', `Rules On ${name}`);
    await walkTo(page, 1);
    await page.getByRole('region', { name: 'Ways to play this note' }).getByRole('article').first().waitFor();
    const clean = async (where: string) => {
      const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa']).analyze();
      expect(violations.map(({ id, nodes }) => [where, id, nodes.map((node) => node.html)])).toEqual([]);
      expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width);
    };
    await page.getByText('Pencil in').click();
    await clean('the Desk');
    for (const [dialog, open] of DIALOGS) {
      await score(page).focus();
      await open(page);
      await expect(page.getByRole('dialog')).toBeVisible();
      await clean(dialog);
      await page.keyboard.press('Escape');
    }
  });
}

test('names of eighty characters without a space break no page', async ({ page }) => {
  const long = (letter: string) => letter.repeat(80);
  const file = readFileSync('demo/scores/staircase.musicxml', 'utf8')
    .replace(/<work-title>[^<]*</, `<work-title>${long('W')}<`)
    .replace(/<part-name>[^<]*</, `<part-name>Violin${long('m')}<`);
  const taken = await page.request.post('/api/pieces?name=long.musicxml', { data: file });
  const { firstPartId } = (await taken.json()) as { firstPartId: string };
  for (const [width, height] of [
    [1280, 800],
    [820, 1180],
    [390, 844],
  ] as const) {
    await page.setViewportSize({ width, height });
    for (const address of [`/desk/${firstPartId}`, `/desk/${firstPartId}/check`, '/?find=long.musicxml', `/players?part=${firstPartId}`]) {
      await page.goto(address);
      await page.waitForLoadState('networkidle');
      const wide = await page.evaluate(() => document.documentElement.scrollWidth);
      expect([address, width, wide]).toEqual([address, width, Math.min(wide, width)]);
    }
  }
});
