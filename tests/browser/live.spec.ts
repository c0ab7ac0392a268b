/** Two people at one part: each sees what the other marks as it is stored, and that the other is there. */
import { expect, openNew, ready, saved, score, status, test, walkTo } from './steps';

test('a mark made in one browser is on the other’s music at once; who is there is said; a piece taken off the shelf is said', async ({ page, browser }) => {
  await openNew(page, 'low-tide', 'Live One');
  const desk = page.url();
  await page.goto('/studio');
  const corin = page.getByRole('listitem').filter({ has: page.getByLabel('Name of Corin') });
  await corin.getByRole('button', { name: 'Make a key' }).click();
  const key = (await page.getByRole('dialog').locator('code').textContent())!;
  const context = await browser.newContext({ storageState: { cookies: [], origins: [] } });
  const other = await context.newPage();
  await other.goto(key);
  await Promise.all([page.goto(desk), other.goto(desk)]);
  await Promise.all([ready(page), ready(other)]);
  await expect(page.getByText('also here: Corin')).toBeVisible();
  await expect(other.getByText('also here: Henrike')).toBeVisible();

  await walkTo(other, 2);
  await expect(status(other)).not.toContainText('finger 3');
  await walkTo(page, 2);
  await page.keyboard.press('3');
  await saved(page);
  await expect(status(other)).toContainText('finger 3');
  await expect(other.locator('[data-save]')).toHaveAttribute('data-save', 'saved');
  // On top of it the other goes on; it is no clash, and undo takes back one's own alone.
  await score(other).focus();
  await other.keyboard.press('2');
  await saved(other);
  await expect(status(page)).toContainText('finger 2');
  await expect(page.getByRole('button', { name: /^Undo: / })).toBeVisible();
  await other.getByRole('button', { name: /^Undo: / }).click();
  await expect(status(page)).toContainText('finger 3');
  await expect(other.getByRole('button', { name: 'Nothing to undo' })).toBeVisible();

  // Away and back: what was done meanwhile is there without loading anew.
  await context.setOffline(true);
  await score(page).focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('1');
  await saved(page);
  await context.setOffline(false);
  await score(other).focus();
  await other.keyboard.press('ArrowRight');
  await expect(status(other)).toContainText('finger 1');

  const piece = /"pieceId\\?":\\?"([0-9a-f-]{36})/.exec(await (await page.request.get(desk)).text())![1]!;
  await page.request.patch(`/api/pieces/${piece}`, { data: { onShelf: false } });
  await expect(other.getByText('This piece was taken off the shelf.')).toBeVisible();
  await context.close();
  await expect(page.getByText('also here: Corin')).toHaveCount(0);
});
