import { expect, openNew, ready, saved, score, status, test, walkTo } from './steps';

test('a player is made with an instrument and a hand, changed, taken out and put back', async ({ page }) => {
  await page.goto('/players');
  await page.getByRole('button', { name: 'New player' }).click();
  const form = page.getByRole('dialog', { name: 'New player' });
  await form.getByLabel('Name').fill('Wren');
  await form.getByLabel('Instrument').selectOption('cello');
  await form.getByLabel(/^Size/).fill('9/9');
  await form.getByRole('button', { name: 'Add player' }).click();
  await expect(form.getByRole('alert')).toContainText('There is no such cello size here.');
  await form.getByLabel(/^Size/).fill('1/2');
  await form.getByLabel(/^Hand/).selectOption('small');
  await form.getByLabel('Level').selectOption('beginner');
  await form.getByRole('button', { name: 'Add player' }).click();
  const wren = page.getByRole('article', { name: 'Wren' });
  await expect(wren).toContainText('cello 1/2 · small hand · beginner');
  await wren.getByRole('button', { name: 'Change Wren' }).click();
  await page.getByRole('dialog', { name: 'Wren' }).getByLabel('Level').selectOption('intermediate');
  await page.getByRole('dialog', { name: 'Wren' }).getByRole('button', { name: 'Save' }).click();
  await expect(wren).toContainText('intermediate');
  await wren.getByRole('button', { name: 'Take Wren out' }).click();
  await expect(wren).toBeHidden();
  await page.getByRole('button', { name: 'Put back' }).click();
  await expect(wren).toBeVisible();
});

test('how a part fits each player: a cell for every passage, and what to change for whom', async ({ page }) => {
  await openNew(page, 'staircase', 'Fit of a study');
  await page.getByRole('button', { name: /^Checked for/ }).click();
  await page.getByRole('menuitem', { name: /how this part fits them/ }).click();
  const table = page.getByRole('table');
  const tobi = table.getByRole('row', { name: /Tobi/ });
  await expect(tobi.getByRole('cell').first()).toHaveText(/^(any|\d+)/, { timeout: 30_000 });
  const ceiling = async (name: RegExp) => Number(/\d+/.exec(await table.getByRole('row', { name }).getByRole('cell').first().innerText())?.[0] ?? 999);
  await expect(table.getByRole('row', { name: /Ines/ }).getByRole('cell').first()).toHaveText(/^(any|\d+)/, { timeout: 30_000 });
  expect(await ceiling(/Tobi/)).toBeLessThanOrEqual(await ceiling(/Ines/));
  await expect(table.getByRole('row', { name: /Pia/ })).toHaveCount(0);
  const forTobi = page.getByRole('article', { name: 'For Tobi' });
  await forTobi.getByRole('button', { name: 'Look for changes' }).click();
  await expect(forTobi).toContainText(/\d+ spots \(.*\)\. With these changes (no spots|\d+ spots?)/, { timeout: 60_000 });
  await expect(forTobi.getByRole('listitem').first()).toContainText(/^Bar \d+/);
  // Kept for him alone: the Desk has it for him, and not for the others.
  await forTobi.getByRole('button', { name: 'Keep as Tobi’s own marks' }).click();
  await expect(forTobi).toContainText(/has \d+ own marks?/);
  await expect(forTobi.getByRole('status')).toContainText('everybody else plays as before');
  await table.getByRole('link').first().click();
  await ready(page);
  await page.getByRole('button', { name: /^Checked for/ }).click();
  await page.getByRole('menuitemradio', { name: /Tobi/ }).click();
  await expect(page.getByRole('button', { name: /^Checked for Tobi.*own mark/ })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Marked part for Tobi' })).toBeVisible();
  await page.getByRole('button', { name: /^Checked for/ }).click();
  await page.getByRole('menuitemradio', { name: /Ines/ }).click();
  await expect(page.getByRole('button', { name: /^Checked for Ines/ })).not.toContainText('own mark');
});

test('a section is seated desk by desk: its own line, who decides, who leaves out what; it stays so, and a seat is taken back from the Desk', async ({
  page,
}) => {
  await openNew(page, 'staircase', 'Seated study');
  await page.getByRole('button', { name: /^Checked for/ }).click();
  await page.getByRole('menuitem', { name: /how this part fits them/ }).click();
  const table = page.getByRole('table');
  await expect(table.getByRole('row', { name: /^Tobi/ }).getByRole('cell').first()).toHaveText(/^(any|\d+)/);
  const seating = page.getByRole('region', { name: 'Seating' });
  await seating.getByLabel('Seat a player').selectOption('Ines');
  await seating.getByLabel('Seat a player').selectOption('Tobi');
  await expect(seating.getByRole('listitem')).toHaveText([/Ines desk 1, outside/, /Tobi desk 1, inside/]);
  // The section goes as quickly as whoever is slowest.
  const whole = (name: RegExp) => table.getByRole('row', { name }).getByRole('cell').first();
  await expect(whole(/^The section/)).toContainText('Tobi decides');
  expect(/\d+/.exec(await whole(/^The section/).innerText())![0]).toBe(/\d+/.exec(await whole(/^Tobi/).innerText())![0]);
  const leaving = page.getByRole('region', { name: /^Who leaves out what/ }).getByRole('listitem');
  await expect(leaving.filter({ hasText: 'Tobi (desk 1, inside)' })).toContainText(/: .*\(up to \d+\)/);
  await seating.getByRole('button', { name: 'Tobi one seat to the front' }).click();
  await expect(seating.getByRole('listitem')).toHaveText([/Tobi desk 1, outside/, /Ines desk 1, inside/]);
  await expect(table.getByRole('row').nth(2)).toContainText('Tobi');
  await saved(page);
  await page.reload();
  await expect(seating.getByRole('listitem')).toHaveText([/Tobi desk 1, outside/, /Ines desk 1, inside/]);
  const fit = page.url();
  await table.getByRole('link').first().click();
  await ready(page);
  await page.getByRole('button', { name: /^Undo: who sits where/ }).click();
  await expect(page.getByRole('button', { name: /^Redo: .*who sits where/ })).toBeVisible();
  await saved(page);
  await page.goto(fit);
  await expect(seating.getByRole('listitem')).toHaveText([/Ines desk 1, outside/, /Tobi desk 1, inside/]);
});

test('a finger for one player alone: the others keep theirs, undo and reload know it, and everybody can be given it', async ({ page }) => {
  await openNew(page, 'staircase', 'Own marks');
  const choose = async (name: RegExp) => {
    await page.getByRole('button', { name: /^Checked for/ }).click();
    await page.getByRole('menuitemradio', { name }).click();
  };
  await walkTo(page, 3);
  await page.keyboard.press('2');
  await saved(page);
  await choose(/Tobi/);
  await page.getByRole('button', { name: /^Checked for Tobi/ }).click();
  await page.getByRole('menuitemcheckbox', { name: 'Fingers and bows for Tobi alone' }).click();
  await score(page).focus();
  await page.keyboard.press('3');
  await expect(page.getByRole('button', { name: /^Checked for Tobi.*1 own mark, marks go to this player alone/ })).toBeVisible();
  await expect(status(page)).toContainText('finger 3');
  await saved(page);
  await page.reload();
  await ready(page);
  await expect(status(page)).toContainText('finger 3');
  await choose(/Ines/);
  await expect(status(page)).toContainText('finger 2');
  await choose(/Tobi/);
  await expect(status(page)).toContainText('finger 3');
  // What differs already stays his, also when nothing is said; undo takes back the last step, whoever it was for.
  await page.getByRole('button', { name: /^Undo: Tobi: / }).click();
  await expect(status(page)).toContainText('finger 2');
  await page.getByRole('button', { name: /^Redo: Tobi: / }).click();
  await expect(status(page)).toContainText('finger 3');
  await page.getByRole('button', { name: /^Checked for Tobi/ }).click();
  await page.getByRole('menuitem', { name: 'Give the 1 own mark to everybody' }).click();
  await saved(page);
  await choose(/Ines/);
  await expect(status(page)).toContainText('finger 3');
});

test('the check sheet: the tempo, spots in bar order with their bars drawn, and what to try', async ({ page }) => {
  await openNew(page, 'staircase', 'Sheet of a study');
  await page.getByRole('navigation', { name: 'Passages' }).getByRole('listitem').nth(1).getByRole('button').first().click();
  await walkTo(page, 3);
  await page.keyboard.press('w');
  await page.getByLabel('Words for the player').fill('sing it first');
  await page.getByRole('button', { name: 'Add note' }).click();
  await saved(page);
  const place = /(bars=[^&]+&at=[^&]+)/.exec(page.url())![1]!;
  await page.getByRole('tab', { name: /^Findings/ }).click();
  await page.getByRole('link', { name: 'Check sheet for the lesson' }).click();
  await expect(page.getByRole('region', { name: 'Tempo' })).toContainText(/quarter = 84 .*Bar \d+ decides/, { timeout: 30_000 });
  const spots = page.getByRole('list', { name: 'Spots' }).getByRole('listitem');
  const bars = (await spots.allInnerTexts()).map((text) => Number(/Bar (\d+)\//.exec(text)![1]));
  expect(bars).toEqual([...bars].sort((a, b) => a - b));
  expect(bars.length).toBeGreaterThan(3);
  await expect(spots.first().getByRole('img', { name: /as marked/ })).toBeVisible();
  await expect(page.getByText('Try:').first()).toBeVisible({ timeout: 60_000 });
  await expect(page.getByRole('region', { name: 'For the player' })).toContainText(/: sing it first/);
  // On paper: eleven points, and no button.
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('button', { name: 'Print' })).toBeHidden();
  const px = await spots.first().evaluate((each) => parseFloat(getComputedStyle(each).fontSize));
  expect((px * 72) / 96).toBeGreaterThanOrEqual(11);
  // And back to where one came from.
  await page.emulateMedia({ media: 'screen' });
  await page.getByRole('banner').getByRole('link', { name: 'Violin' }).click();
  await expect(page).toHaveURL((url) => url.href.includes(place) && url.href.includes('tab=findings'));
});
