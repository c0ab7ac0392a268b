/** A section coach: finds what differs, has it carried, sees it, takes it back on the other part's Desk. */
import AxeBuilder from '@axe-core/playwright';
import { copyOf, drop, expect, openNew, ready, saved, test } from './steps';
import type { Page } from '@playwright/test';

const lanes = (page: Page) => page.getByRole('group', { name: /^Parts side by side/ });
const side = (page: Page) => page.getByRole('complementary', { name: 'Who plays together' });
/** Groups that are listed, whatever stands in their cards. */
const groupsOf = (page: Page) => side(page).locator(':scope > ul > li');
const bowed = (page: Page) => expect(side(page).getByRole('status')).toContainText(/tempo|together/);

test('opposite bows are found, carried, seen, and taken back in the other part', async ({ page }) => {
  await openNew(page, 'mill-race-serenade', 'Side By Side');
  await page.getByRole('button', { name: /Choose another part/ }).click();
  await page.getByRole('menuitem', { name: 'All parts side by side' }).click();
  await expect(page).toHaveTitle(/^Side by side, Side By Side/);
  await bowed(page);
  await expect(lanes(page).getByRole('region')).toHaveCount(5);
  await side(page)
    .getByRole('button', { name: /^opposite bows/ })
    .click();
  const groups = groupsOf(page);
  const before = await groups.count();
  expect(before).toBeGreaterThan(5);

  await lanes(page).focus();
  await page.keyboard.press('ArrowRight');
  const card = side(page).getByRole('article');
  await expect(card).toContainText('opposite bows');
  const who = await card.getByRole('link').allInnerTexts();
  expect(who.length).toBeGreaterThan(1);
  await card.getByRole('button', { name: 'Carry bows' }).click();
  const undo = page.getByRole('button', { name: /^Undo: .*Bows as/ });
  await expect(undo).toBeVisible();
  await bowed(page);
  await expect(groups).not.toHaveCount(before);
  await saved(page);

  // It is a step of the other part's own history, and is taken back there.
  await side(page).getByRole('button', { name: /^all/ }).click();
  await page.getByRole('region', { name: who[1]!.trim(), exact: true }).getByRole('link').click();
  await ready(page);
  const there = page.getByRole('button', { name: /^Undo: .*Bows as/ });
  await there.click();
  await saved(page);
  await page.goBack();
  await bowed(page);
  await side(page)
    .getByRole('button', { name: /^opposite bows/ })
    .click();
  await expect(groups).toHaveCount(before);
});

test('a group is bowed together: what it costs whom is said before it is taken, and then all bow alike', async ({ page }) => {
  await openNew(page, 'mill-race-serenade', 'Bowed As One');
  const html = await (await page.request.get(page.url())).text();
  await page.goto(`/score/${html.match(/pieceId\\?":\\?"([0-9a-f-]{36})/)![1]!}`);
  await bowed(page);
  await side(page)
    .getByRole('button', { name: /^opposite bows/ })
    .click();
  const before = await groupsOf(page).count();
  await lanes(page).focus();
  await page.keyboard.press('ArrowRight');
  const card = side(page).getByRole('article');
  const name = (await card.getAttribute('aria-label'))!.split(',')[0]!;
  await page.keyboard.press('b');
  const proposal = card.getByRole('group', { name: 'Bowed together' });
  await expect(proposal).toContainText('what suits all of them best');
  await expect(proposal.getByRole('listitem').first()).toContainText(/gains|loses|hardly|comfortably/);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Undo: .*Bowed together as/ })).toBeVisible();
  await bowed(page);
  await expect(groupsOf(page)).not.toHaveCount(before);
  await side(page).getByRole('button', { name: /^all/ }).click();
  await expect(side(page).getByRole('article')).toHaveAttribute('aria-label', new RegExp(`^${name}, (together|same rhythm, other print)`));
  await page.keyboard.press('Control+z');
  await side(page)
    .getByRole('button', { name: /^opposite bows/ })
    .click();
  await bowed(page);
  await expect(groupsOf(page)).toHaveCount(before);
});

test('slurs that differ are said, carried and undone by keys; larger and smaller; other parts are folded', async ({ page }) => {
  await openNew(page, 'mill-race-serenade', 'Slurs Side By Side');
  await page.goto(
    `/score/${(await (await page.request.get('/')).text())
      .match(/\/score\/[0-9a-f-]{36}/)![0]
      .split('/')
      .pop()!}`,
  );
  await bowed(page);
  const slurs = groupsOf(page);
  await lanes(page).focus();
  const card = side(page).getByRole('article');
  for (let i = 0; i < 40 && !(await card.getByText(/slurs|separate/).count()); i++) await page.keyboard.press('ArrowRight');
  await expect(card).toContainText(/separate|slurs/);
  const text = await card.innerText();
  await page.keyboard.press('c');
  await expect(card).not.toContainText('Carry slurs');
  await page.keyboard.press('Control+z');
  await expect(card).toContainText('Carry slurs');
  expect((await card.innerText()).split('\n')[0]).toBe(text.split('\n')[0]);
  expect(await slurs.count()).toBeGreaterThan(3);
  const width = () => lanes(page).evaluate((box) => box.scrollWidth);
  const wide = await width();
  await page.getByRole('button', { name: 'Fewer bars, larger' }).click();
  await expect.poll(width).toBeGreaterThan(wide * 1.8);
  await page.getByRole('button', { name: 'More bars in view' }).click();
  await expect.poll(width).toBe(wide);
});

test('a single part says what is needed', async ({ page }) => {
  await page.goto('/');
  await drop(page, [{ name: 'alone.musicxml', content: copyOf('staircase', 'Alone') }]);
  await page.waitForURL(/\/desk\//);
  await ready(page);
  const part = page.url().match(/desk\/([0-9a-f-]+)/)![1]!;
  const html = await (await page.request.get(`/desk/${part}`)).text();
  const piece = html.match(/pieceId\\?":\\?"([0-9a-f-]{36})/)![1]!;
  await page.goto(`/score/${piece}`);
  await expect(page.getByText('is the only string part of this piece')).toBeVisible();
  await page.goto('/score/nothing');
  await expect(page.getByRole('heading')).toContainText(/not|nothing/i);
});

for (const [name, size] of [
  ['wide', { width: 1280, height: 800 }],
  ['narrow', { width: 390, height: 844 }],
] as const)
  test(`no accessibility rule is broken side by side, ${name}`, async ({ page }) => {
    await page.setViewportSize(size);
    await openNew(page, 'mill-race-serenade', `Read ${name}`);
    const html = await (await page.request.get(page.url())).text();
    await page.goto(`/score/${html.match(/pieceId\\?":\\?"([0-9a-f-]{36})/)![1]!}`);
    await bowed(page);
    await lanes(page).focus();
    await page.keyboard.press('ArrowRight');
    await expect(side(page).getByRole('article')).toBeVisible();
    for (const theme of ['light', 'dark']) {
      await page.evaluate((value) => (document.documentElement.dataset.theme = value), theme);
      const { violations } = await new AxeBuilder({ page }).analyze();
      expect(violations.map(({ id, nodes }) => `${id}: ${nodes.map(({ html: text }) => text.slice(0, 120)).join(' | ')}`)).toEqual([]);
    }
  });
