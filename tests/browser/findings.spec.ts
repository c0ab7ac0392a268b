import { drop, expect, openNew, ready, saved, score, status, test, walkTo } from './steps';
import type { Page } from '@playwright/test';

const card = (page: Page) => page.locator('article[aria-current=true]');
const helps = (page: Page) => card(page).getByRole('region', { name: 'What helps' });

/** A player for whom the study is too hard, so that there is something to find. */
async function forTobi(page: Page, title: string): Promise<void> {
  await openNew(page, 'staircase', title);
  await page.getByRole('button', { name: /^Checked for/ }).click();
  await page.getByRole('menuitemradio', { name: /Tobi/ }).click();
  await expect(page.getByRole('button', { name: /^Checked for Tobi/ })).toBeVisible();
  await ready(page);
}

test('from finding to finding by key; what helps is tried while it is pointed at, and taken with Enter', async ({ page }) => {
  await forTobi(page, 'Findings by key');
  await score(page).focus();
  await page.keyboard.press('f');
  await expect(card(page)).toBeVisible();
  const first = await card(page).getAttribute('aria-label');
  await page.keyboard.press('f');
  await page.keyboard.press('f');
  await page.keyboard.press('Shift+F');
  await page.keyboard.press('Shift+F');
  await expect(card(page)).toHaveAttribute('aria-label', first!);
  await expect(helps(page).getByRole('button', { name: 'Take' }).first()).toBeVisible();
  // Whichever hand the finding is about.
  const tracks = page.locator('svg[aria-label^="Left hand"], svg[aria-label^="Bow"]');
  const drawn = () => tracks.evaluateAll((all) => all.map((svg) => svg.innerHTML).join());
  const before = await drawn();
  await score(page).focus();
  await page.keyboard.press('ArrowDown');
  await expect(helps(page).locator('[data-highlighted=true]')).toHaveCount(1);
  await expect.poll(drawn).not.toBe(before);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Undo: Bar .*: / })).toBeEnabled();
  await saved(page);
});

test('a finding is accepted with a reason, stays quiet over a reload, comes back when its tempo changes, or when it is asked for', async ({ page }) => {
  await forTobi(page, 'Accepted finding');
  await page.getByRole('tab', { name: /^Findings/ }).click();
  await page.getByLabel('Kind', { exact: true }).selectOption('shift late');
  const list = page.getByRole('article', { name: /^shift late/ });
  const count = await list.count();
  expect(count).toBeGreaterThan(0);
  await list.first().getByRole('button').first().click();
  const name = (await card(page).getAttribute('aria-label'))!;
  await card(page).getByRole('button', { name: 'Accept it as it is' }).click();
  await card(page).getByLabel('Why it may stay').fill('he has played it in time since June');
  await card(page)
    .getByRole('button', { name: /^Accept( at all| here|$)/ })
    .last()
    .click();
  await expect(list).toHaveCount(count - 1);
  await saved(page);
  await page.reload();
  await ready(page);
  await page.getByRole('tab', { name: /^Findings/ }).click();
  await page.getByText(/^\d+ accepted in this part/).click();
  await expect(page.getByText('he has played it in time since June').first()).toBeVisible();
  // What it depends on changes: it is told again.
  await page.getByLabel(/^Wanted tempo/).fill('190');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/^\d+ accepted in this part/)).toBeHidden();
  await expect(page.getByRole('article', { name })).not.toHaveCount(0);
});

test('findings are filtered by hand, kind and severity, and the list says how many are hidden', async ({ page }) => {
  await forTobi(page, 'Filtered findings');
  await page.getByRole('tab', { name: /^Findings/ }).click();
  const all = await page.getByRole('article').count();
  await page.getByLabel('Severity').selectOption('2');
  const severe = await page.getByRole('article').count();
  expect(severe).toBeLessThan(all);
  await expect(page.getByText(/^\d+ of \d+ shown\.$/)).toBeVisible();
  await page.getByLabel('Severity').selectOption('1');
  await page.getByLabel('Hand', { exact: true }).selectOption('bow');
  expect(await page.getByRole('article').count()).toBeLessThan(all);
});

test('the worst comes first when it is asked for; what is said of several places is one card that leads to each', async ({ page }) => {
  await forTobi(page, 'Worst first');
  await page.getByRole('tab', { name: /^Findings/ }).click();
  const diamonds = () => page.getByRole('article').evaluateAll((all) => all.map((each) => (/◆+/.exec(each.textContent ?? '') ?? [''])[0].length));
  const inBars = await diamonds();
  await page.getByRole('button', { name: 'Worst first' }).click();
  await expect.poll(diamonds).toEqual([...inBars].sort((a, b) => b - a));
  // The text opens a card as its place does, and says how it is known in people's words.
  const first = page.getByRole('article').first();
  await first.getByRole('button').last().click();
  await expect(first).toHaveAttribute('aria-current', 'true');
  await first.getByText('How do you know?').click();
  await expect(first.locator('dt').first()).not.toHaveText(/[a-z][A-Z]/);
  // And every sum, down to the thresholds.
  await expect(first.getByRole('list', { name: 'The calculation' }).getByRole('listitem').last()).toHaveText(/What that means: .*to watch.*will fail/);
});

test('the same notes marked in two ways are named, and copied by one click', async ({ page }) => {
  await page.goto('/');
  const tune = 'GABc dedc | B2 A2 G4 |';
  await drop(page, [{ name: 'twice.abc', content: `X:1\nT:Twice\nM:4/4\nL:1/8\nK:G\nV:1 name="Violin"\n${tune} c2 B2 A4 | ${tune}]\n` }]);
  await expect(page).toHaveURL(/\/desk\//);
  await ready(page);
  await score(page).focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('u');
  await page.keyboard.press('3');
  await saved(page);
  await page.getByRole('tab', { name: /^Findings/ }).click();
  const found = page.getByRole('article', { name: 'marked differently elsewhere, bar 4' });
  await expect(found).toContainText('The same notes in bar 4 and in bar 1 marked in two ways');
  await found.getByRole('button').first().click();
  await helps(page).getByText('Mark bar 4 like bar 1.').locator('xpath=ancestor::div[1]').getByRole('button', { name: 'Take' }).click();
  await expect(found).toBeHidden();
  await expect(status(page)).toContainText('finger 3');
  await expect(status(page)).toContainText('up-bow');
});

test('how far off is minded and what is aimed at change the findings, and are kept', async ({ page }) => {
  await forTobi(page, 'In tune within');
  await page.getByRole('tab', { name: /^Findings/ }).click();
  const risks = page.getByRole('article', { name: /^out-of-tune risk/ });
  const before = await risks.count();
  const cents = page.getByLabel('Cents off that are minded, 2 to 60');
  await cents.fill('ten');
  await cents.press('Enter');
  await expect(page.getByRole('group', { name: 'In tune' }).getByRole('alert')).toHaveText('2 to 60');
  await cents.fill('10');
  await cents.press('Enter');
  await expect.poll(() => risks.count()).toBeGreaterThan(before);
  await page.getByLabel('Pitch that is aimed at').selectOption('just');
  const sharp = page.getByRole('article', { name: /^out-of-tune risk/ }).filter({ hasText: /[CFG]♯|[CFG]#|[CFG] sharp/ });
  await sharp.first().getByRole('button').first().click();
  await expect(card(page).getByRole('region', { name: 'How to hear it' })).toContainText(/Aim \d+\.\d cents lower than equal temperament: pure over/);
  await saved(page);
  await page.reload();
  await ready(page);
  await page.getByRole('tab', { name: /^Findings/ }).click();
  await expect(page.getByLabel('Cents off that are minded, 2 to 60')).toHaveValue('10');
  await expect(page.getByLabel('Pitch that is aimed at')).toHaveValue('just');
});

test('bows that two sections have otherwise are named in both, and made alike from either', async ({ page }) => {
  await page.goto('/');
  const voice = (id: number, notes: string) => `V:${id} name="Violin ${id}"\n[V:${id}] ${notes} |]`;
  await drop(page, [{ name: 'pair.abc', content: `X:1\nT:Pair\nM:4/4\nL:1/4\nK:G\n${voice(1, 'GABc | dcBA | G4')}\n${voice(2, 'B,CDE | FEDC | B,4')}\n` }]);
  await expect(page).toHaveURL(/\/desk\//);
  await ready(page);
  const other = async (name: string) => {
    await page.getByRole('button', { name: /^Part: / }).click();
    await page.getByRole('menuitem', { name }).click();
    await expect(page.getByRole('button', { name: `Part: ${name}. Choose another part` })).toBeVisible();
    await ready(page);
  };
  await walkTo(page, 1);
  await page.keyboard.press('u');
  await saved(page);
  await other('Violin 2');
  await walkTo(page, 1);
  await page.keyboard.press('d');
  await saved(page);
  await page.getByRole('tab', { name: /^Findings/ }).click();
  const found = page.getByRole('article', { name: 'marked differently elsewhere, bar 1' });
  await expect(found).toContainText('Violin 1 has the rhythm of bar 1 at the same time, bowed otherwise: bow down against up.');
  await found.getByRole('button').first().click();
  await helps(page).getByText('Mark bar 1 of Violin 1 like bar 1.').locator('xpath=ancestor::div[1]').getByRole('button', { name: 'Take' }).click();
  await expect(found).toBeHidden();
  await other('Violin 1');
  await walkTo(page, 1);
  await expect(status(page)).toContainText('down-bow');
  // It is in the chain of the part where it was done, also after going away; what is undone there is undone here.
  await saved(page);
  await other('Violin 2');
  await page.getByRole('button', { name: /^Undo: Violin 1, Pair: Bowed like another part/ }).click();
  await expect(page.getByRole('button', { name: 'Undo: Down-bow' })).toBeEnabled();
  await saved(page);
  await other('Violin 1');
  await walkTo(page, 1);
  await expect(status(page)).toContainText('up-bow');
});
