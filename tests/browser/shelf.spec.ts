import AxeBuilder from '@axe-core/playwright';
import { demoText } from '../support/demo';
import { copyOf, drop, expect, openNew, ready, saved, test, walkTo } from './steps';

test('the demo is there, with what is marked', async ({ page }) => {
  for (const title of ['Mill Race Serenade', 'Staircase', 'Evening Barge', 'The Heron', 'Low Tide']) {
    await page.goto(`/?find=${title}`);
    await expect(page.getByRole('heading', { name: title, exact: true })).toBeVisible();
  }
  await page.goto('/?find=mill+race');
  await expect(page.getByRole('link', { name: /Violin I 129 bars violin \d+ marks/ })).toBeVisible();
});

test('bad files are named with place and remedy, good ones beside them are taken in, and nothing is lost', async ({ page }) => {
  await page.goto('/');
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
  await alerts.first().getByRole('button', { name: 'Close this message' }).click();
  await expect(alerts).toHaveCount(3);
  for (const [file, pieces] of [
    ['good', 1],
    ['letter', 0],
    ['cut-off', 0],
    ['drums', 0],
    ['bomb', 0],
  ] as const) {
    await page.goto(`/?find=${file}.musicxml`);
    await expect(page.getByRole('search')).toBeVisible();
    await expect(page.getByRole('main').getByRole('article')).toHaveCount(pieces);
  }
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
  await expect(page.getByRole('search')).toBeVisible();
});

test('a shelf of many pieces comes a page at a time and is searched by title, composer, part and file', async ({ page, request }) => {
  for (let i = 0; i < 26; i++) {
    const taken = await request.post(`/api/pieces?name=etude-${i}.musicxml`, { data: copyOf('low-tide', `Étude no. ${i}, 100 % legato`) });
    expect(taken.status()).toBe(201);
  }
  await page.goto('/?find=étude+%25+100');
  await expect(page.getByRole('search').getByRole('status')).toHaveText('26 pieces found');
  await expect(page.getByRole('article')).toHaveCount(24);
  await page.getByRole('link', { name: 'Earlier pieces' }).click();
  await expect(page).toHaveURL(/page=2/);
  await expect(page.getByRole('article')).toHaveCount(2);
  await expect(page.getByRole('heading', { name: 'Étude no. 0, 100 % legato' })).toBeVisible();
  const search = page.getByRole('textbox', { name: /^Find a piece/ });
  await search.fill('ÉTUDE-7.mus double');
  await expect(page.getByRole('article')).toHaveCount(1);
  await expect(page.getByRole('heading', { name: 'Étude no. 7, 100 % legato' })).toBeVisible();
  await search.fill('étude viola');
  await expect(page.getByText('No piece has all these words')).toBeVisible();
  await page.getByRole('button', { name: 'Show all pieces' }).click();
  await expect(page.getByRole('article')).toHaveCount(24);
  // In the order in which people count, and as this browser had it last.
  await search.fill('étude');
  await page.getByLabel('Sorted').selectOption('by title');
  const titles = page.getByRole('article').getByRole('heading');
  await expect(titles.nth(9)).toHaveText('Étude no. 9, 100 % legato');
  await expect(titles.nth(10)).toHaveText('Étude no. 10, 100 % legato');
  await page.getByRole('link', { name: 'More pieces' }).click();
  await expect(titles.first()).toHaveText('Étude no. 24, 100 % legato');
  await page.goto('/?find=staircase.musicxml');
  await page.getByLabel('Grouped').selectOption('by instrument');
  await expect(page.getByRole('region', { name: 'For violin' }).getByRole('heading', { name: 'Staircase', exact: true })).toBeVisible();
  await page.getByRole('link', { name: 'Players' }).click();
  await page.goto('/');
  await expect(page.getByLabel('Sorted')).toHaveValue('title');
  await expect(page.getByLabel('Grouped')).toHaveValue('instrument');
  // An underscore or a percent sign is itself.
  await page.goto('/?find=_');
  await expect(page.getByText('No piece has all these words')).toBeVisible();
});

for (const theme of ['light', 'dark']) {
  test(`no accessibility rule is broken, ${theme}`, async ({ page, context, baseURL }) => {
    await context.addCookies([{ name: 'theme', value: theme, url: baseURL! }]);
    await page.goto('/?find=staircase.musicxml');
    await expect(page.getByRole('heading', { name: 'Staircase', exact: true })).toBeVisible();
    expect(
      (await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa']).analyze()).violations.map(({ id, nodes }) => [
        id,
        nodes.map((node) => node.html),
      ]),
    ).toEqual([]);
  });
}

test('a piece and its parts are renamed; what is found by the new name is not found by the old', async ({ page, request }) => {
  await request.post('/api/pieces?name=nameless.musicxml', { data: copyOf('low-tide', 'Nameless') });
  await page.goto('/?find=nameless');
  await page.getByRole('button', { name: 'Rename Nameless' }).click();
  const dialog = page.getByRole('dialog', { name: 'Names' });
  await dialog.getByLabel('Title').fill('');
  await expect(dialog.getByRole('button', { name: 'Every name needs a letter' })).toBeDisabled();
  await dialog.getByLabel('Title').fill('Ebb and Flow');
  await dialog.getByLabel(/^Part 1/).fill('Bass, desk 1');
  await dialog.getByRole('button', { name: 'Keep these names' }).click();
  await expect(dialog).toBeHidden();
  await page.goto('/?find=ebb+desk');
  await page.getByRole('link', { name: /^Bass, desk 1/ }).click();
  await ready(page);
  await expect(page.getByRole('banner')).toContainText('Ebb and Flow');
});

test('every part is checked as work of its own; each says what its check came to, and that it is out of date once it is marked', async ({ page }) => {
  await openNew(page, 'staircase', 'Looked Over');
  const desk = page.url();
  await page.goto('/?find=Looked+Over');
  const part = page
    .getByRole('article')
    .filter({ hasText: 'Looked Over' })
    .getByRole('link', { name: /^Violin/ });
  await page.getByRole('button', { name: 'Check all parts' }).click();
  await expect(page.getByText(/Checking every part: \d+ of \d+ done/)).toBeVisible();
  // The latest piece comes first; what other tests have laid on the shelf need not be waited for, but what they lay there meanwhile.
  await expect(part).toContainText(/\d+ (will fail|at risk|to watch)/, { timeout: 200_000 });
  // Where it is through already there is nothing to stop.
  await page
    .getByRole('button', { name: 'Stop' })
    .click({ timeout: 10_000 })
    .catch(() => undefined);
  await expect(page.getByText(/Checking every part/)).toHaveCount(0);
  await expect(part).not.toContainText('before the latest changes');
  await page.goto(desk);
  await ready(page);
  await walkTo(page, 1);
  await page.keyboard.press('4');
  await saved(page);
  await page.goto('/?find=Looked+Over');
  await expect(part).toContainText('(before the latest changes)');
});
