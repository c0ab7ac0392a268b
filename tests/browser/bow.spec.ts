import { expect, openNew, ready, saved, score, status, test, walkTo } from './steps';
import type { Page } from '@playwright/test';

const bowSide = async (page: Page) => {
  await page.getByRole('radio', { name: 'Bow', exact: true }).click();
  const ways = page.getByRole('region', { name: 'Ways to bow this note' });
  await ways.getByRole('article').first().waitFor();
  return ways;
};
const endOf = (page: Page, nth: number) => page.locator('circle[data-end]').nth(nth);
const height = async (page: Page, nth: number) => Number(await endOf(page, nth).getAttribute('cy'));

test('what else the bow could do at a note: each choice is shown while it is pointed at, and one is taken', async ({ page }) => {
  await openNew(page, 'staircase', 'Bow choices');
  await walkTo(page, 3);
  const ways = await bowSide(page);
  await expect(ways.getByRole('article').first()).toContainText('as planned');
  const reversed = ways.getByRole('article', { name: /reversed/ });
  const drawn = () => page.locator('[data-end]').first().locator('xpath=ancestor::*[local-name()="svg"]').innerHTML();
  const before = await drawn();
  await reversed.hover();
  await expect.poll(drawn).not.toBe(before);
  await reversed.getByRole('button', { name: 'Take' }).click();
  const undo = page.getByRole('button', { name: /^Undo: .*reversed/ });
  await expect(undo).toBeEnabled();
  await saved(page);
  await page.reload();
  await ready(page);
  await expect(undo).toBeEnabled();
});

test('a stroke’s end is dragged to the tip: the rest follows, it is a mark, and undo takes it back', async ({ page }) => {
  await openNew(page, 'staircase', 'Bow dragging');
  await score(page).focus();
  const before = await height(page, 2);
  // Hovering waits until nothing moves any more; only then the places hold.
  await endOf(page, 2).hover();
  const box = (await endOf(page, 2).boundingBox())!;
  const svg = endOf(page, 2).locator('xpath=ancestor::*[local-name()="svg"]');
  const track = (await svg.boundingBox())!;
  const x = box.x + box.width / 2;
  await page.mouse.move(x, box.y + box.height / 2);
  await page.mouse.down();
  /** A stroke is planned to end at this height. */
  const endsAt = async (y: number) => {
    const paths = await svg.locator('path').evaluateAll((all) => all.map((path) => path.getAttribute('d')!));
    return paths.some((path) => Math.abs(Number(path.split(' ').at(-1)) - y) < 1.2);
  };
  const wanted = before > 24 ? track.y + 12 : track.y + 38;
  await page.mouse.move(x, wanted, { steps: 8 });
  // Held until the plan has followed: letting go then is as good as letting go at once.
  await expect.poll(async () => endsAt(await height(page, 2))).toBe(true);
  await page.mouse.up();
  await expect(page.getByRole('button', { name: /^Undo/ })).toBeEnabled();
  await expect.poll(async () => Math.abs((await height(page, 2)) - (wanted - track.y))).toBeLessThan(9);
  await saved(page);
  await score(page).focus();
  await page.keyboard.press('Control+z');
  await expect.poll(() => height(page, 2)).toBeCloseTo(before, 0);
});

test('wishes: a part of the bow for the passage, a place for a note; wrong lengths are refused with a word', async ({ page }) => {
  await openNew(page, 'staircase', 'Bow wishes');
  await walkTo(page, 2);
  await bowSide(page);
  const wishes = page.getByRole('group', { name: 'Wishes' });
  await wishes.getByRole('radio', { name: /^all of/ }).check();
  await wishes.getByLabel('part of the bow').selectOption('upper half');
  await expect(page.locator('[data-wish="zone"]').first()).toBeVisible();
  await expect.poll(() => height(page, 3)).toBeGreaterThan(26);
  await wishes.getByRole('radio', { name: 'this bow' }).check();
  await wishes.getByLabel('amount').selectOption('other …');
  await wishes.getByRole('textbox', { name: 'amount' }).fill('a lot');
  await expect(wishes).toContainText('Use little, half, whole, or a length such as 12 cm.');
  await expect(wishes.getByRole('button', { name: 'Set' })).toBeDisabled();
  await wishes.getByRole('textbox', { name: 'amount' }).fill('9 cm');
  await wishes.getByRole('button', { name: 'Set' }).click();
  // It belongs to the bow: it stands at the first note of it, and is shown for every note under it.
  await expect(page.getByRole('button', { name: 'Undo: Wish: 9 cm of bow' })).toBeEnabled();
  await expect(wishes.getByRole('textbox', { name: 'amount' })).toHaveValue('9 cm');
  await score(page).focus();
  await page.keyboard.press('ArrowLeft');
  await expect(status(page)).toContainText('9 cm of bow');
  await saved(page);
});

test('bowings side by side: figures in one table, one is taken and the history says what it was compared with', async ({ page }) => {
  await openNew(page, 'the-heron', 'Bow compare');
  await score(page).focus();
  await page.keyboard.press('b');
  await page.getByRole('button', { name: 'compare' }).click();
  const dialog = page.getByRole('dialog', { name: /side by side/ });
  for (const row of ['strokes', 'greatest change of speed', 'works up to', 'hand travel in crossings'])
    await expect(dialog.getByRole('rowheader', { name: row, exact: true })).toBeVisible();
  await dialog.getByRole('button', { name: 'Take this one' }).first().click();
  await expect(dialog).toBeHidden();
  await expect(page.getByRole('button', { name: /^Undo.*compared with/ })).toBeVisible();
  await expect(score(page)).toBeFocused();
});

test('the bow moves at tempo, and stops', async ({ page }) => {
  await openNew(page, 'staircase', 'Bow moving');
  await score(page).focus();
  await page.keyboard.press('p');
  const moving = page.locator('[data-playing]');
  await expect(moving).toBeVisible();
  const dot = () => moving.locator('span').nth(1).getAttribute('style');
  const first = await dot();
  await expect.poll(dot).not.toBe(first);
  await page.getByRole('button', { name: /^Stop/ }).click();
  await expect(moving).toBeHidden();
});
