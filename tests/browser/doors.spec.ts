/** Who comes in and goes out: a coach by a key and with a pass phrase, a player by a link; what was typed by somebody who was shut out is kept. */
import { readFileSync } from 'node:fs';
import type { Browser, Page } from '@playwright/test';
import { expect, openNew, ready, saved, score, test, walkTo } from './steps';

/** A browser that was never here. */
async function stranger(browser: Browser): Promise<Page> {
  const context = await browser.newContext({ storageState: { cookies: [], origins: [] } });
  return context.newPage();
}

const told = async (page: Page): Promise<string> => {
  const address = (await page.getByRole('dialog').locator('code').textContent())!;
  await page.keyboard.press('Escape');
  return address;
};

test('a coach is let in by a key, marks, is shut out in the middle and comes in again with a pass phrase: what was typed meanwhile is saved', async ({
  page,
  browser,
}) => {
  await openNew(page, 'low-tide', 'Doors One');
  const desk = page.url();
  await page.goto('/studio');
  await page.getByRole('button', { name: 'Somebody else' }).click();
  await page.getByRole('dialog').getByLabel(/^Name/).fill('Orla');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  const card = page.getByRole('listitem').filter({ has: page.getByLabel('Name of Orla') });
  await card.getByRole('button', { name: 'Make a key' }).click();
  const key = await told(page);

  const orla = await stranger(browser);
  await orla.goto('/');
  await expect(orla.getByRole('heading', { name: /needs a key|With a key/ })).toBeVisible();
  await orla.goto(key);
  await expect(orla).toHaveURL(/:\d+\/$/);
  await orla.goto('/studio');
  await expect(orla.getByRole('link', { name: 'Players’ links' })).toBeVisible();
  await expect(orla.getByRole('link', { name: 'Everything as a file' })).toHaveCount(0);
  await expect(orla.getByRole('button', { name: 'Somebody else' })).toHaveCount(0);
  await orla.goto(desk);
  await ready(orla);
  await walkTo(orla, 1);
  await orla.keyboard.press('1');
  await saved(orla);

  // A phrase is set for her: every other browser of hers is shut out.
  await page.reload();
  await card.getByRole('button', { name: 'set a pass phrase' }).click();
  await page.getByLabel('Name to sign in with').fill('Orla');
  await page.getByLabel('New pass phrase').fill('orla orla orla');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('dialog').getByRole('alert')).toContainText('soon be guessed');
  await page.getByLabel('New pass phrase').fill('seven herons at the weir');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(card.getByRole('button', { name: 'pass phrase of orla' })).toBeVisible();
  await score(orla).focus();
  await orla.keyboard.press('ArrowRight');
  await orla.keyboard.press('3');
  await expect(orla.locator('[data-save=waiting]')).toBeVisible();
  await orla.reload();
  await expect(orla.getByText('This browser is not let in, or not any more.')).toBeVisible();
  await orla.getByLabel('Name', { exact: true }).fill('ORLA');
  await orla.getByLabel('Pass phrase').fill('seven herons at the mill');
  await orla.getByRole('button', { name: 'Sign in' }).click();
  await expect(orla.getByRole('alert').filter({ hasText: 'do not belong together' })).toBeVisible();
  await orla.getByLabel('Pass phrase').fill('seven herons at the weir');
  await orla.getByRole('button', { name: 'Sign in' }).click();
  await ready(orla);
  expect(new URL(orla.url()).pathname).toBe(new URL(desk).pathname);
  await saved(orla);

  await page.goto(desk);
  await ready(page);
  await walkTo(page, 2);
  await expect(page.locator('#status')).toContainText('finger 3');
  await page.goto('/studio?show=done');
  await expect(page.getByRole('row').filter({ hasText: 'Orla' }).filter({ hasText: 'came in with a pass phrase' })).toBeVisible();
  await orla.context().close();
});

test('a player’s link opens the Stand and nothing else; renewed, the one before opens nothing', async ({ page, browser }) => {
  await page.goto('/studio?show=links');
  await page.getByRole('button', { name: /(Make a|Renew the) link (for|of) Marlene/ }).click();
  await expect(page.getByRole('img', { name: /picture for a camera/ })).toBeVisible();
  const link = await told(page);
  const marlene = await stranger(browser);
  await marlene.goto(link);
  await expect(marlene.getByRole('heading', { name: 'Marlene' })).toBeVisible();
  await marlene.goto('/players');
  await expect(marlene).toHaveURL(/\/stand$/);
  await page.goto('/studio');
  await expect(page.getByRole('region', { name: 'Browsers' }).getByRole('listitem').filter({ hasText: 'Marlene' })).toContainText('player');
  await page.goto('/studio?show=links');
  await page.getByRole('button', { name: 'Renew the link of Marlene' }).click();
  await told(page);
  await marlene.reload();
  await expect(marlene.getByRole('heading', { name: /needs a key|With a key/ })).toBeVisible();
  await marlene.goto(link);
  await expect(marlene.getByRole('alert').filter({ hasText: 'does not open anything' })).toBeVisible();
  await page.getByRole('button', { name: 'End the link of Marlene' }).click();
  await expect(page.getByRole('button', { name: 'Make a link for Marlene' })).toBeVisible();
  await marlene.context().close();
});

test('what is taken away lies in the bin, is put back or erased; the studio is taken out as a file, which is not read in twice', async ({ page }) => {
  await openNew(page, 'low-tide', 'Doors Two');
  const row = page.getByRole('listitem').filter({ hasText: 'Doors Two' });
  async function intoTheBin() {
    await page.goto('/?find=Doors+Two');
    await page.getByRole('button', { name: 'Take Doors Two off the shelf' }).click();
    await expect(page.getByText('It lies in the bin for 30 days')).toBeVisible();
    await page.goto('/studio?show=bin');
    await expect(row).toContainText('erased in 30 days');
  }
  await intoTheBin();
  await row.getByRole('button', { name: 'Put Doors Two back' }).click();
  await expect(row).toHaveCount(0);
  await intoTheBin();
  await row.getByRole('button', { name: 'erase for good' }).click();
  await page.getByRole('button', { name: 'Erase', exact: true }).click();
  await expect(row).toHaveCount(0);
  await page.goto('/?find=Doors+Two');
  await expect(page.getByRole('heading', { name: 'Doors Two' })).toHaveCount(0);

  await page.goto('/studio?show=everything');
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Take everything out' }).click()]);
  expect(download.suggestedFilename()).toMatch(/^Quillmere Youth Strings, \d{4}-\d\d-\d\d\.omaggio\.zip$/);
  const file = { name: 'studio.zip', mimeType: 'application/zip', buffer: readFileSync(await download.path()) };
  await page.getByLabel('File of a studio').setInputFiles(file);
  await expect(page.getByRole('alert').filter({ hasText: 'The shelf has this already' })).toBeVisible();
  await page.getByLabel('File of a studio').setInputFiles({ ...file, buffer: file.buffer.subarray(0, 900) });
  await expect(page.getByRole('alert').filter({ hasText: 'cannot be unpacked' })).toBeVisible();
});
