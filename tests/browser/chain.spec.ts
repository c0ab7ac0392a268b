import { copyOf, drop, expect, openNew, ready, saved, score, status, test, walkTo } from './steps';

test('marks, passages and tempo are one chain: the last is taken back first, and everything comes again', async ({ page }) => {
  await openNew(page, 'low-tide', 'One Chain');
  const passages = page.getByRole('navigation', { name: 'Passages' }).getByRole('listitem');
  const tempo = page.getByLabel(/^Wanted tempo/);
  const next = (what: string) => expect(page.getByRole('button', { name: `Undo: ${what}` })).toBeEnabled();
  const before = await passages.count();
  const printed = await tempo.inputValue();
  await walkTo(page, 1);
  await page.keyboard.press('4');
  await next('Finger 4');
  for (let i = 0; i < 5; i++) await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('n');
  await expect(passages).toHaveCount(before + 1);
  await tempo.fill('77');
  await tempo.press('Enter');
  await next('tempo 77');
  await score(page).focus();
  await page.keyboard.press('Control+z');
  await expect(tempo).toHaveValue(printed);
  await expect(page.getByRole('button', { name: /^Undo: New passage/ })).toBeEnabled();
  await page.keyboard.press('Control+z');
  await expect(passages).toHaveCount(before);
  await next('Finger 4');
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: 'Nothing to undo' })).toBeDisabled();
  for (const _ of [1, 2, 3]) await page.keyboard.press('Control+Shift+z');
  await expect(passages).toHaveCount(before + 1);
  await expect(tempo).toHaveValue('77');
  await walkTo(page, 1);
  await saved(page);
  await page.reload();
  await ready(page);
  await expect(passages).toHaveCount(before + 1);
  await expect(tempo).toHaveValue('77');
  // The chain outlives the visit.
  await next('tempo 77');
  await score(page).focus();
  await page.keyboard.press('Control+z');
  await expect(tempo).toHaveValue(printed);
  await page.keyboard.press('Control+z');
  await expect(passages).toHaveCount(before);
  await next('Finger 4');
});

test('a mark without a place is not left out of the file unsaid', async ({ page, request }) => {
  const taken = await (await request.post('/api/pieces?name=withheld.musicxml', { data: copyOf('low-tide', 'Withheld') })).json();
  await page.goto(`/desk/${taken.firstPartId}`);
  await ready(page);
  // As another file of the part leaves it.
  const sent = page.waitForRequest(/\/changes$/);
  await walkTo(page, 1);
  await page.keyboard.press('4');
  const url = (await sent).url();
  await saved(page);
  const lost = { target: 'lost [12/1 A4] n-99-1-0-A4-0', kind: 'finger', from: null, to: { value: '2', origin: 'coach' } };
  const set = { id: crypto.randomUUID(), at: new Date().toISOString(), reason: 'Lost', version: 2, undoes: null, changes: [lost] };
  expect((await request.post(url, { data: [set] })).status()).toBe(200);
  await page.getByRole('link', { name: 'Marked part' }).click();
  const dialog = page.getByRole('dialog', { name: 'One mark has no place in this file' });
  await expect(dialog.getByRole('listitem')).toHaveText(/12\/1 A4.*Finger 2/);
  const [download] = await Promise.all([page.waitForEvent('download'), dialog.getByRole('button', { name: 'Send the file without it' }).click()]);
  expect(download.suggestedFilename()).toMatch(/^withheld \(.*marked\)\.musicxml$/);
});

test('a voice is shown for the violin until the coach says otherwise; an octave is one choice away; a collection is chosen from', async ({ page }) => {
  await page.goto('/');
  await drop(page, [
    { name: 'song.musicxml', content: copyOf('staircase', 'A Song').replaceAll('Violin', 'Voice').replaceAll('strings.violin', 'voice.soprano') },
  ]);
  await expect(page).toHaveURL(/\/desk\//);
  await ready(page);
  const on = page.getByRole('group', { name: 'Played on' });
  await expect(on).toContainText('Voice is no part for a bowed instrument');
  await expect(on.getByLabel('Instrument')).toHaveValue('violin');
  await walkTo(page, 1);
  const said = async () => (await status(page).textContent())!.match(/· ([A-G][♯♭]?)(\d)/)!;
  const [, step, octave] = await said();
  await on.getByLabel('Sounding').selectOption('1');
  await ready(page);
  await expect(status(page)).toContainText(`${step}${Number(octave) + 1}`);
  await expect(on).toBeHidden();
  await page.getByRole('button', { name: /^Undo: instrument, octave/ }).click();
  await expect(on).toBeVisible();
  await expect(status(page)).toContainText(`${step}${octave}`);

  await page.goto('/');
  const tune = (number: number, title: string) => `X:${number}\nT:${title}\nM:4/4\nL:1/4\nK:G\nGABc|d4|\n\n`;
  await page
    .getByLabel('Score file')
    .setInputFiles({ name: 'book.abc', mimeType: 'text/plain', buffer: Buffer.from(tune(1, 'The Ferry') + tune(2, 'The Weir')) });
  const book = page.getByRole('dialog', { name: 'book.abc holds 2 tunes' });
  await expect(book.getByRole('button', { name: 'Choose at least one' })).toBeDisabled();
  await book.getByLabel('2The Weir').check();
  await book.getByRole('button', { name: 'Take in this tune' }).click();
  await expect(page).toHaveURL(/\/desk\//);
  await expect(page.getByRole('banner')).toContainText('The Weir');
});
