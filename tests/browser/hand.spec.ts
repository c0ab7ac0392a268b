import { expect, openNew, ready, saved, score, test, walkTo } from './steps';
import type { Page } from '@playwright/test';

const settings = (page: Page) => page.getByRole('button', { name: /^Fingered the/ });
const dialog = (page: Page) => page.getByRole('dialog', { name: /^Fingering: how/ });
const suggested = (page: Page) => page.getByRole('region', { name: 'Suggested fingerings' });

/** The plan of the passage as people who cannot see the tracks read it: a string and finger for each note. */
async function fingersOf(page: Page): Promise<string> {
  const table = page.getByRole('table').first();
  return (await table.getByRole('row').allInnerTexts()).join('|');
}

test('how the part is fingered: a preset, a school and a weight change the plan at once, and stay', async ({ page }) => {
  await openNew(page, 'staircase', 'Hand preferences');
  await page.getByRole('button', { name: 'Table', exact: true }).click();
  const usual = await fingersOf(page);
  await settings(page).click();
  await dialog(page).getByLabel('Played').selectOption('singing');
  await expect(dialog(page)).toContainText('For a line that sings');
  await dialog(page).getByLabel('Open string or fourth finger').selectOption('stopped');
  await dialog(page).getByText('Avoid more, avoid less').click();
  await dialog(page).getByRole('slider', { name: 'Shifts', exact: true }).fill('3');
  await dialog(page).getByRole('button', { name: 'Close' }).click();
  await expect.poll(() => fingersOf(page)).not.toBe(usual);
  await expect(settings(page)).toContainText('singing way, 1 weights of your own');
  await saved(page);
  await page.reload();
  await ready(page);
  await expect(settings(page)).toContainText('singing way');
  await settings(page).click();
  await dialog(page).getByText('Avoid more, avoid less').click();
  await dialog(page).getByRole('button', { name: 'Shifts: back to usual' }).click();
  await expect(dialog(page).getByText('1 set here')).toBeHidden();
});

test('a player’s hand is measured; figures that cannot be are refused, and the good ones stay', async ({ page }) => {
  await openNew(page, 'staircase', 'Measured hand');
  await page.getByRole('button', { name: /^Checked for/ }).click();
  await page.getByRole('menuitemradio', { name: /Tobi/ }).click();
  await settings(page).click();
  const hand = dialog(page).getByRole('region', { name: 'The hand' });
  await expect(hand).toContainText('No pain, ever');
  await hand.getByLabel(/^Hand/).selectOption('measured');
  await hand.getByLabel('With ease').fill('68');
  await hand.getByLabel('At most, still without pain').fill('60');
  await expect(hand.getByRole('alert')).toContainText('greatest');
  await hand.getByLabel('At most, still without pain').fill('80');
  await expect(hand.getByRole('alert')).toBeHidden();
  await expect(hand).toContainText('reaches a fourth in first position');
  await dialog(page).getByRole('button', { name: 'Close' }).click();
  await expect(settings(page)).toContainText('measured hand');
  await saved(page);
  await page.reload();
  await ready(page);
  await settings(page).click();
  await expect(hand.getByLabel('With ease')).toHaveValue('68');
  await hand.getByLabel(/^Hand/).selectOption('small');
  await expect(hand.getByLabel('With ease')).toBeHidden();
});

test('fingerings side by side: only differences inked, figures below, one taken; the plan then does it', async ({ page }) => {
  await openNew(page, 'staircase', 'Fingerings compared');
  await page.getByRole('button', { name: 'Suggest fingering' }).click();
  await suggested(page).getByRole('article').first().waitFor();
  await suggested(page).getByRole('button', { name: 'compare' }).click();
  const compare = page.getByRole('dialog', { name: /^Fingerings of/ });
  await expect(compare.getByRole('row', { name: /^hardest shift/ })).toBeVisible();
  await expect(compare.getByRole('img').first()).toHaveAttribute('aria-label', /notes fingered differently|fingered differently/);
  const shifts = await compare
    .getByRole('row', { name: /^shifts/ })
    .getByRole('cell')
    .nth(1)
    .innerText();
  await compare.getByRole('button', { name: 'Take this one' }).first().click();
  await expect(page.getByRole('button', { name: /^Undo: Suggested fingering.*compared with/ })).toBeEnabled();
  await saved(page);
  // What was taken is planned again: the best way with these marks has as many shifts.
  await page.getByRole('button', { name: 'Suggest fingering' }).click();
  await suggested(page).getByRole('button', { name: 'compare' }).click();
  await expect(compare.getByText('as marked')).not.toHaveCount(0);
  expect(Number(shifts)).toBeGreaterThanOrEqual(0);
});

test('at a note the fingerboard shows the hand in mm and words; what is worth knowing leads to its note', async ({ page }) => {
  await openNew(page, 'staircase', 'Fingerboard');
  await walkTo(page, 3);
  const board = page.getByRole('img', { name: /^Fingerboard, true to scale/ });
  await expect(board).toHaveAttribute('aria-label', /\d on \w at \d+ mm/);
  await expect(page.getByText(/the bars are ±10 cents, here \d+\.\d mm/)).toBeVisible();
  const known = page.getByRole('region', { name: 'Worth knowing' });
  await known.waitFor();
  const first = known.getByRole('listitem').first();
  const bar = /bar (\d+)/.exec(await first.innerText())![1]!;
  await first.getByRole('button').first().click();
  await expect(page.locator('#status')).toContainText(`Bar ${bar}/`);
});

test('how many fingers a suggestion writes', async ({ page }) => {
  await openNew(page, 'staircase', 'Density of fingers');
  const marks = async () => {
    await page.getByRole('button', { name: 'Suggest fingering' }).click();
    const best = suggested(page).getByRole('article').first();
    await best.waitFor();
    const text = await best.innerText();
    await suggested(page).getByRole('button', { name: 'close' }).click();
    return Number(/marks to write\s*(\d+)/.exec(text)![1]);
  };
  const usual = await marks();
  await settings(page).click();
  await dialog(page).getByLabel('Fingers that a suggestion writes').selectOption('every note');
  await dialog(page).getByRole('button', { name: 'Close' }).click();
  expect(await marks()).toBeGreaterThan(usual);
});

test('the passage is played: counted in, the place moves through both tracks, and it can be stopped', async ({ page }) => {
  const problems: string[] = [];
  page.on('pageerror', (error) => problems.push(error.message));
  await openNew(page, 'staircase', 'Played aloud');
  await page.getByRole('button', { name: /^How it is played/ }).click();
  await page.getByRole('menuitemcheckbox', { name: 'Click on the beats' }).click();
  await page.getByRole('menuitemcheckbox', { name: 'Count a bar in' }).click();
  await page.getByRole('menuitemradio', { name: 'At 50 % of it' }).click();
  await page.keyboard.press('Escape');
  await score(page).focus();
  await page.keyboard.press('p');
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  // The bar that is counted in comes first.
  await expect(page.locator('[data-fingers-down]')).toHaveCount(0);
  await expect(page.locator('[data-fingers-down]').first()).toBeAttached({ timeout: 10_000 });
  await expect(page.locator('[data-playing]').first()).toBeAttached();
  await page.keyboard.press('p');
  await expect(page.locator('[data-playing]')).toHaveCount(0);
  await expect(page.getByRole('button', { name: /^Play/ })).toBeVisible();
  // In a hurry: begun and stopped again and again, nothing goes wrong behind the scenes.
  for (let i = 0; i < 6; i++) await page.keyboard.press('p');
  await page.waitForTimeout(800);
  await expect(page.locator('[data-playing]')).toHaveCount(0);
  expect(problems).toEqual([]);
  await saved(page);
  await page.reload();
  await ready(page);
  await expect(page.getByRole('button', { name: /^How it is played/ })).toContainText('sound, click, count-in, 50 %');
});
