/** Nothing that was changed is lost: without network, behind a sign-in page, in several windows, when the browser is killed. */
import { chromium, type Page } from '@playwright/test';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, openNew, ready, saved, status, test, walkTo } from './steps';

const chip = (page: Page) => page.locator('[data-save]');
/** The part from its first bar, with nothing selected. */
async function reopen(page: Page): Promise<void> {
  await page.goto(page.url().split('?')[0]!);
  await ready(page);
}
const changes = '**/api/{markings,parts,players}/**/{changes,settings,passages}';

test('without an answer marks, notes, tempo, passages and accepted findings are kept, over a reload too, and sent later', async ({ page }) => {
  await openNew(page, 'staircase', 'No Answer');
  await page.route(changes, (route) => route.abort());
  await walkTo(page, 1);
  await page.keyboard.press('4');
  await expect(chip(page)).toHaveAttribute('data-save', 'waiting');
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('n');
  const passages = page.getByRole('list', { name: 'Passages' });
  const before = await passages.getByRole('listitem').count();
  await page.getByLabel(/^Wanted tempo/).fill('77');
  await page.keyboard.press('Enter');
  await page.getByRole('tab', { name: /^Findings/ }).click();
  await page.getByRole('tabpanel').getByRole('button', { name: /^Bar/ }).first().click();
  await page
    .getByRole('button', { name: /^Accept/ })
    .first()
    .click();
  await page.getByPlaceholder('she plays it in time').fill('she can');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/changes are kept in this browser/)).toBeVisible();
  await page.reload();
  await ready(page);
  await expect(chip(page)).toHaveAttribute('data-save', 'waiting');
  await expect(page.getByLabel(/^Wanted tempo/)).toHaveValue('77');
  await expect(passages.getByRole('listitem')).toHaveCount(before);
  await page.unroute(changes);
  // Who waits can ask for it at once; where it has been sent by itself meanwhile there is nothing to ask.
  const now = page.getByRole('button', { name: 'Try now' });
  await expect(async () => {
    if (await now.isVisible()) await now.click({ timeout: 1_000 });
    expect(await chip(page).getAttribute('data-save')).toBe('saved');
  }).toPass();
  await page.evaluate(() => indexedDB.deleteDatabase('omaggio-unsent'));
  await reopen(page);
  await expect(page.getByLabel(/^Wanted tempo/)).toHaveValue('77');
  await expect(passages.getByRole('listitem')).toHaveCount(before);
  await page.getByRole('tab', { name: /^Findings/ }).click();
  await page.getByText('1 accepted in this part').click();
  await expect(page.getByText('she can')).toBeVisible();
  await walkTo(page, 1);
  await expect(status(page)).toContainText('finger 4');
});

test('a page of HTML with 200 stores nothing and says so', async ({ page }) => {
  await openNew(page, 'low-tide', 'Hotel');
  await page.route('**/changes', (route) => route.fulfill({ status: 200, contentType: 'text/html', body: '<!doctype html><title>Welcome</title>' }));
  await walkTo(page, 1);
  await page.keyboard.press('4');
  await expect(page.getByText(/sign-in page of a network/)).toBeVisible();
  await expect(chip(page)).toHaveAttribute('data-save', 'waiting');
  await page.unroute('**/changes');
  await saved(page);
});

test('what is refused for good is set aside, can be copied and dropped, and holds up nothing', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await openNew(page, 'low-tide', 'Refused');
  // A page of an older version, say, that makes marks which this server does not know.
  await page.route('**/changes', async (route) => {
    const sets = route.request().postDataJSON() as Array<{ reason: string; changes: Array<{ to: { value: string } | null }> }>;
    for (const set of sets) if (set.reason.includes('4')) set.changes[0]!.to!.value = '9';
    await route.continue({ postData: JSON.stringify(sets) });
  });
  await walkTo(page, 1);
  await page.keyboard.press('4');
  const aside = page.getByRole('region', { name: 'What could not be stored' });
  await expect(aside).toContainText('is no finger');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('1');
  await expect(chip(page)).toHaveAttribute('data-save', 'refused');
  await reopen(page);
  await walkTo(page, 2);
  await expect(status(page)).toContainText('finger 1');
  await aside.getByRole('button', { name: 'Copy' }).click();
  await expect(aside.getByRole('button', { name: 'Copied' })).toBeVisible();
  expect(await page.evaluate(() => navigator.clipboard.readText())).toMatch(/finger: 4/);
  await aside.getByRole('button', { name: 'Drop' }).click();
  await saved(page);
});

test('another window of the same browser follows at once; what is made in both without network arrives in order', async ({ page, context }) => {
  await openNew(page, 'low-tide', 'Two Windows');
  const other = await context.newPage();
  await other.goto(page.url());
  await ready(other);
  await context.setOffline(true);
  await walkTo(page, 1);
  await page.keyboard.press('1');
  await walkTo(other, 1);
  await expect(status(other)).toContainText('finger 1');
  await other.keyboard.press('4');
  await expect(status(page)).toContainText('finger 4');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('2');
  await expect(chip(other)).toHaveAttribute('data-save', 'waiting');
  await context.setOffline(false);
  await Promise.all([saved(page), saved(other)]);
  await reopen(page);
  await walkTo(page, 1);
  await expect(status(page)).toContainText('finger 4');
});

test('another browser has changed the same marks: mine or theirs, mark by mark, and the rest stays', async ({ page, browser }) => {
  await openNew(page, 'low-tide', 'Two Browsers');
  const elsewhere = await (await browser.newContext()).newPage();
  // Cut off, it does not see what is done here: neither by a stream nor by asking.
  await elsewhere.context().route(/\/live\?/, (route) => route.abort());
  await elsewhere.goto(page.url());
  await ready(elsewhere);
  await elsewhere.context().setOffline(true);
  await walkTo(page, 1);
  for (const key of ['1', 'ArrowRight', '2']) await page.keyboard.press(key);
  await saved(page);
  await walkTo(elsewhere, 1);
  for (const key of ['4', 'ArrowRight', '4', 'ArrowRight', '4']) await elsewhere.keyboard.press(key);
  await elsewhere.context().setOffline(false);
  const clash = elsewhere.getByRole('alert', { name: 'Changed elsewhere too' });
  await expect(clash.getByRole('group')).toHaveCount(2);
  await expect(clash.getByRole('group').first()).toContainText(/mine: Finger 4.*theirs: Finger 1/);
  await clash
    .getByRole('group')
    .first()
    .getByRole('radio', { name: /theirs/ })
    .check();
  await clash.getByRole('button', { name: 'Store these' }).click();
  await saved(elsewhere);
  for (const [nth, finger] of [
    [1, 1],
    [2, 4],
    [3, 4],
  ] as const) {
    await reopen(page);
    await walkTo(page, nth);
    await expect(status(page)).toContainText(`finger ${finger}`);
  }
  await elsewhere.context().close();
});

test('what was said to be kept outlives a browser that is killed', async ({ page, launchOptions, baseURL }) => {
  await openNew(page, 'low-tide', 'Killed');
  const url = page.url();
  const profile = mkdtempSync(path.join(tmpdir(), 'omaggio-profile-'));
  const open = async () => {
    const context = await chromium.launchPersistentContext(profile, { ...launchOptions, baseURL: baseURL!, viewport: { width: 1280, height: 800 } });
    await context.addCookies(await page.context().cookies());
    return context;
  };
  const first = await open();
  const doomed = first.pages()[0]!;
  await doomed.goto(url);
  await ready(doomed);
  await first.setOffline(true);
  await walkTo(doomed, 1);
  for (const key of ['1', 'ArrowRight', '2', 'ArrowRight', '4']) await doomed.keyboard.press(key);
  await expect(chip(doomed)).toHaveAttribute('data-save', 'waiting');
  const session = await first.newCDPSession(doomed);
  // The whole browser at once, without a chance to put anything in order.
  await session.send('Browser.crash' as 'Browser.close').catch(() => undefined);
  await first.close().catch(() => undefined);
  const second = await open();
  const again = second.pages()[0]!;
  await again.goto(url);
  await ready(again);
  await saved(again);
  await second.close();
  rmSync(profile, { recursive: true, force: true });
  await reopen(page);
  await walkTo(page, 3);
  await expect(status(page)).toContainText('finger 4');
});
