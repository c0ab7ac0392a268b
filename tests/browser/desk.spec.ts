import AxeBuilder from '@axe-core/playwright';
import { demoScore } from '../support/demo';
import { drop, expect, openNew, ready, saved, score, status, test, walkTo } from './steps';

const rail = 'Passages';

test('moving by passage, by bar and by finding; the address says where', async ({ page }) => {
  await page.goto('/?find=mill+race+serenade.musicxml');
  await page.getByRole('link', { name: /^Violin I 129/ }).click();
  await ready(page);
  await score(page).focus();
  await page.keyboard.press('PageDown');
  await expect(page).toHaveURL(/bars=17-32/);
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: /as you would say it/ }).fill('Z+9');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog').getByRole('alert')).toContainText('no such bar');
  await page.getByRole('combobox', { name: /as you would say it/ }).fill('C+4');
  await page.keyboard.press('Enter');
  await expect(status(page)).toContainText('Bar 53/1 · F♯6');
  await expect(page).toHaveURL(/bars=49-64&at=53\/1/);
  await page.getByRole('tab', { name: /^Findings/ }).click();
  const finding = page.getByRole('article', { name: /out-of-tune risk, bar 61/ });
  await expect(finding).toContainText(/\d+ % risk of being more than 15 cents off/);
  await finding.getByRole('button', { name: /Bar 61/ }).click();
  await expect(status(page)).toContainText('Bar 61');
  const address = page.url();
  await page.goto('/');
  await page.goto(address);
  await ready(page);
  await expect(status(page)).toContainText('Bar 61');
});

test('the check follows the player and the tempo, and both stay', async ({ page }) => {
  await openNew(page, 'staircase', 'For Whom');
  const second = page.getByRole('navigation', { name: rail }).getByRole('listitem').nth(1);
  const ceiling = async () => Number(/(\d+) \/ /.exec((await second.textContent())!)?.[1]);
  // Told after the check: the best over plans.
  await expect.poll(ceiling).toBeGreaterThan(0);
  const usual = await ceiling();
  await page.getByRole('button', { name: /^Checked for/ }).click();
  await page.getByRole('menuitemradio', { name: /Tobi/ }).click();
  await expect.poll(ceiling).toBeLessThan(usual);
  await page.getByLabel(/^Wanted tempo/).fill('60');
  await page.keyboard.press('Enter');
  await expect(second).toContainText('/ 60');
  await saved(page);
  await page.reload();
  await ready(page);
  await expect(page.getByRole('button', { name: /^Checked for Tobi/ })).toBeVisible();
  await expect(second).toContainText('/ 60');
  await page.getByRole('button', { name: 'printed 84' }).click();
  await expect(second).toContainText('/ 84');
});

test('passages: new from selected bars, renamed, set to other bars, removed, undone', async ({ page }) => {
  await openNew(page, 'low-tide', 'Passages At Will');
  const passages = page.getByRole('navigation', { name: rail });
  await expect(passages.getByRole('listitem')).toHaveCount(2);
  await walkTo(page, 4);
  for (let i = 0; i < 6; i++) await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('n');
  await expect(passages.getByRole('listitem')).toHaveCount(3);
  const made = passages.getByRole('listitem').filter({ hasText: 'Bars 2–5' });
  await made.getByRole('button', { name: /^Change passage/ }).click();
  await page.getByRole('menuitem', { name: 'Rename' }).click();
  await page.getByRole('textbox', { name: 'Name of the passage' }).fill('The turn');
  await page.keyboard.press('Enter');
  await expect(passages.getByRole('listitem').filter({ hasText: 'The turn' })).toHaveCount(1);
  await saved(page);
  await page.reload();
  await ready(page);
  await passages.getByRole('button', { name: 'Change passage The turn' }).click();
  await page.getByRole('menuitem', { name: /^Remove/ }).click();
  await expect(passages.getByRole('listitem')).toHaveCount(2);
  await page.getByRole('status').filter({ hasText: 'The turn removed' }).getByRole('button', { name: 'Undo' }).click();
  await expect(passages.getByRole('listitem').filter({ hasText: 'The turn' })).toHaveCount(1);
});

test('a picture that does not come is asked for again', async ({ page }) => {
  await openNew(page, 'low-tide', 'Late Picture');
  await page.route('**/engraving', (route) => route.abort());
  await walkTo(page, 1);
  await page.keyboard.press('4');
  await expect(page.getByRole('alert').filter({ hasText: 'does not answer' })).toBeVisible();
  await expect(page.locator('.engraving svg').first()).toBeVisible();
  await page.unroute('**/engraving');
  await ready(page);
  await expect(page.getByRole('alert').filter({ hasText: 'does not answer' })).toHaveCount(0);
  await expect(page.locator('.engraving .fing').filter({ hasText: '4' })).toHaveCount(1);
});

test('of a long passage the bars come as they are looked at; going to a bar brings it', async ({ page, request }) => {
  await page.goto('/?find=mill+race+serenade.musicxml');
  const part = /\/desk\/([0-9a-f-]+)/.exec((await page.getByRole('link', { name: /^Viola 129/ }).getAttribute('href'))!)![1]!;
  const put = await request.put(`/api/parts/${part}/passages`, { data: { from: null, to: [{ name: 'All of it', fromBar: 0, toBar: 128 }] } });
  expect(put.status()).toBe(200);
  await page.goto(`/desk/${part}`);
  await ready(page);
  const drawn = page.locator('.engraving svg');
  const first = await drawn.count();
  await expect(page.getByText('More bars of this passage')).toHaveCount(1);
  await page.getByText('More bars of this passage').scrollIntoViewIfNeeded();
  await expect.poll(() => drawn.count()).toBeGreaterThan(first);
  await page.goto(`/desk/${part}?at=127/1`);
  await ready(page);
  await expect(status(page)).toContainText('Bar 127');
  await expect(page.getByText('More bars of this passage')).toHaveCount(0);
});

test('clicking and shift-clicking in the score select; the tracks fold; the table says it all', async ({ page }) => {
  await openNew(page, 'evening-barge', 'By Mouse');
  const heads = page.locator('.engraving g.note .notehead');
  const clickOn = async (nth: number, options: { modifiers?: ['Shift'] } = {}) => {
    const box = (await heads.nth(nth).boundingBox())!;
    if (options.modifiers) await page.keyboard.down('Shift');
    await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
    if (options.modifiers) await page.keyboard.up('Shift');
  };
  await clickOn(2);
  await expect(status(page)).toContainText('Bar 1');
  await clickOn(5, { modifiers: ['Shift'] });
  await expect(status(page)).toContainText('4 notes');
  await expect(page.getByRole('img', { name: /^Bow:/ }).first()).toBeVisible();
  await page.getByRole('group', { name: 'Tracks' }).getByRole('button', { name: 'Bow' }).click();
  await expect(page.getByRole('img', { name: /^Bow:/ })).toHaveCount(0);
  await page.getByRole('button', { name: 'Table', exact: true }).click();
  const notes = demoScore('evening-barge').score.parts[0]!.notes.filter((note) => note.barIndex < 16);
  await expect(page.getByRole('table').getByRole('row')).toHaveCount(notes.length + 1);
  expect((await page.getByRole('table').boundingBox())!.height).toBeGreaterThan(notes.length * 15);
  expect((await page.getByRole('table').locator('..').boundingBox())!.height).toBeGreaterThan(notes.length * 15);
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys and words' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(score(page)).toBeFocused();
  await page.keyboard.press('3');
  await expect(status(page)).toContainText('finger 3');
});

for (const theme of ['light', 'dark']) {
  test(`no accessibility rule is broken, ${theme}`, async ({ page, context, baseURL }) => {
    await context.addCookies([{ name: 'theme', value: theme, url: baseURL! }]);
    await page.goto('/?find=mill+race+serenade.musicxml');
    await page.getByRole('link', { name: /^Violin I 129/ }).click();
    await ready(page);
    await walkTo(page, 1);
    await page.getByRole('region', { name: 'Ways to play this note' }).getByRole('article').first().waitFor();
    for (const tab of [/^Choices/, /^Findings/]) {
      await page.getByRole('tab', { name: tab }).click();
      expect(
        (await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa']).analyze()).violations.map(({ id, nodes }) => [
          id,
          nodes.map((node) => node.html),
        ]),
      ).toEqual([]);
    }
  });
}

test('a tablet held upright shows all of it without sideways scrolling', async ({ page }) => {
  await page.setViewportSize({ width: 820, height: 1180 });
  await openNew(page, 'staircase', 'On A Tablet');
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(820);
  await expect(page.getByRole('button', { name: 'Suggest fingering' })).toBeVisible();
});

test('a bow inside a slur splits the slur there; j joins what is selected with one another, not to the note before', async ({ page }) => {
  await page.goto('/');
  await drop(page, [{ name: 'slurred.abc', content: 'X:1\nT:Slurred\nM:4/4\nL:1/4\nK:G\nV:1 name="Violin"\nG (ABc) | d c B A |]\n' }]);
  await expect(page).toHaveURL(/\/desk\//);
  await ready(page);
  await score(page).focus();
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight');
  await page.keyboard.press('d');
  await expect(status(page)).toContainText('down-bow, slur split here');
  await expect(page.getByRole('button', { name: /^Undo: Down-bow, the slur split there/ })).toBeEnabled();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('j');
  await expect(status(page)).toContainText('joined to the note before');
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('ArrowLeft');
  await expect(status(page)).toContainText('unmarked');
  await saved(page);
});

test('after a mark the passage is answered by itself, and then the whole part', async ({ page }) => {
  await openNew(page, 'staircase', 'Answered at once');
  const answers = (name: string) => page.evaluate((entry) => performance.getEntriesByName(`omaggio ${entry}`).length, name);
  const [near, whole] = [await answers('near'), await answers('report')];
  await score(page).focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('2');
  await expect.poll(() => answers('near')).toBe(near + 1);
  await ready(page);
  await expect.poll(() => answers('report')).toBe(whole + 1);
});

test('the keys are the score’s from the beginning; w and e put them into their field, Escape brings them back, and what is typed there marks nothing', async ({
  page,
}) => {
  await openNew(page, 'staircase', 'Where the keys are');
  await expect(score(page)).toBeFocused();
  await page.keyboard.press('ArrowRight');
  await expect(status(page)).toContainText('unmarked');
  await page.keyboard.press('w');
  await expect(page.getByLabel('Words for the player')).toBeFocused();
  await page.keyboard.type('3 down');
  await page.keyboard.press('Escape');
  await expect(score(page)).toBeFocused();
  await expect(status(page)).toContainText('unmarked');
  await page.keyboard.press('e');
  await expect(page.getByLabel(/^Written pitch/)).toBeFocused();
  await page.keyboard.press('Escape');
  await page.keyboard.press('w');
  await expect(page.getByLabel('Words for the player')).toBeFocused();
  await expect(page.getByLabel('Words for the player')).toHaveValue('3 down');
  await page.keyboard.press('Control+Enter');
  await expect(score(page)).toBeFocused();
  await expect(page.getByRole('region', { name: 'Notes for the player' })).toContainText('3 down');
});

test('the music alone for reading, marked and left by keys; a key is another one, and stays so', async ({ page }) => {
  await openNew(page, 'staircase', 'Alone And Own');
  await page.keyboard.press('v');
  await expect(page.getByRole('tab')).toHaveCount(0);
  await expect(page.getByRole('img', { name: /^Left hand/ })).toHaveCount(0);
  // The whole part, not the passage alone.
  await expect(page.locator('.engraving g.measure')).toHaveCount(32);
  await walkTo(page, 2);
  await page.keyboard.press('3');
  await expect(status(page)).toContainText('finger 3');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('tab', { name: 'Choices' })).toBeVisible();
  await ready(page);

  await page.keyboard.press('?');
  const keys = page.getByRole('dialog', { name: 'Keys and words' });
  await keys.getByRole('button', { name: /^d: down-bow/ }).click();
  await page.keyboard.press('Escape');
  await expect(keys.getByRole('button', { name: /^d: down-bow/ })).toBeVisible();
  await keys.getByRole('button', { name: /^d: down-bow/ }).click();
  await page.keyboard.press('u');
  await expect(keys.getByRole('button', { name: /^d: up-bow/ })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(keys).toHaveCount(0);
  await walkTo(page, 0);
  await page.keyboard.press('u');
  await expect(status(page)).toContainText('down-bow');
  await saved(page);
  await page.reload();
  await ready(page);
  await walkTo(page, 1);
  await page.keyboard.press('d');
  await expect(status(page)).toContainText('up-bow');
  await page.keyboard.press('?');
  await keys.getByRole('button', { name: 'The usual keys again' }).click();
  await expect(keys.getByRole('button', { name: /^d: down-bow/ })).toBeVisible();

  // Note values as they are called at home; and they stay so.
  const tempo = page.locator('input[aria-label^="Wanted tempo in"]');
  await expect(tempo).toHaveAttribute('aria-label', 'Wanted tempo in quarters per minute');
  await keys.getByLabel('Note values and steps').selectOption('crotchet, quaver, semitone');
  await page.keyboard.press('Escape');
  await expect(tempo).toHaveAttribute('aria-label', 'Wanted tempo in crotchets per minute');
  await page.reload();
  await expect(tempo).toHaveAttribute('aria-label', 'Wanted tempo in crotchets per minute');
});
