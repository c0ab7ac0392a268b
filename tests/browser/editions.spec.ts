import { readFileSync } from 'node:fs';
import AxeBuilder from '@axe-core/playwright';
import { Midi } from '../support/midi-package';
import { pitchName } from '../../core/score/pitch';
import { notesOf, secondEdition } from '../support/second-edition';
import { copyOf, expect, openNew, ready, saved, status, test, walkTo } from './steps';
import type { Page } from '@playwright/test';

async function about(page: Page): Promise<void> {
  await page.getByRole('button', { name: /Choose another part/ }).click();
  await page.getByRole('menuitem', { name: /About this part/ }).click();
}
async function compare(page: Page, text: string, name = 'second.musicxml'): Promise<void> {
  await about(page);
  await page.getByLabel('Another edition').setInputFiles({ name, mimeType: 'application/xml', buffer: Buffer.from(text) });
}

test('two editions: differences in a list and in the score, taken over or left; the new file keeps every mark', async ({ page }) => {
  await openNew(page, 'staircase', 'Two Editions');
  const desk = page.url().split('?')[0]!;
  await walkTo(page, 20);
  await page.keyboard.press('3');
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: /as you would say it/ }).fill('9/1');
  await page.keyboard.press('Enter');
  await page.keyboard.press('4');
  await saved(page);

  await compare(page, copyOf('evening-barge', 'Other Music'));
  await expect(page.getByRole('dialog').getByRole('alert')).toContainText('it is other music');
  await page.keyboard.press('Escape');
  await compare(page, secondEdition('staircase', 'Two Editions', '9'));
  await expect(page).toHaveURL(/\/edition\//);
  const list = page.getByRole('complementary', { name: 'Differences' });
  await expect(list.getByRole('article', { name: 'pitch at 1/2' })).toContainText('F4');
  await expect(list.getByRole('article', { name: 'bar at 9' })).toContainText('comes only with the whole file');
  await expect(page.getByRole('region', { name: 'The other edition' }).locator('svg').first()).toBeVisible();
  await list
    .getByRole('article', { name: /^articulation at/ })
    .getByRole('button', { name: 'leave' })
    .click();
  await expect(list.getByRole('article', { name: /^articulation at/ })).toHaveCount(0);
  await list.getByRole('article', { name: 'pitch at 1/2' }).getByRole('button', { name: 'take over' }).click();
  await expect(list.getByRole('article', { name: 'pitch at 1/2' })).toHaveCount(0);
  await page.reload();
  await expect(list.getByRole('button', { name: /Show 1 left as they are/ })).toBeVisible();
  const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa']).analyze();
  expect(violations.map(({ id, nodes }) => [id, nodes.map((node) => node.html)])).toEqual([]);

  await page.goto(`${desk}?tab=reading`);
  await ready(page);
  await expect(page.getByRole('region', { name: 'Changes against the print' }).getByRole('article', { name: 'pitch at 1/2' })).toContainText('F4');
  await page.goBack();
  await page.getByRole('button', { name: 'Use the other file from now on' }).click();
  const question = page.getByRole('alertdialog');
  await expect(question).toContainText('Undo does not take this back');
  await question.getByRole('button', { name: 'Use it' }).click();
  await expect(page).toHaveURL(/\/desk\/[^/]*tab=reading/);
  await ready(page);
  const lost = page.getByRole('region', { name: 'Marks without a place' });
  await expect(lost.getByRole('listitem')).toContainText('finger 4 stood at 9/1 E5');
  await expect(page.getByRole('button', { name: 'Nothing to undo' })).toBeDisabled();
  await walkTo(page, 20);
  await expect(status(page)).toContainText('finger 3');
  await lost.getByRole('button', { name: 'take away' }).click();
  await expect(lost).toHaveCount(0);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await page.getByRole('button', { name: /^Redo/ }).waitFor();
  await lost.getByRole('button', { name: 'put at the selected note' }).click();
  await expect(lost).toHaveCount(0);
  await expect(status(page)).toContainText('finger');
  await saved(page);
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Marked part' }).click()]);
  expect(download.suggestedFilename()).toBe('second (Violin, marked).musicxml');
  const out = notesOf(readFileSync(await download.path(), 'utf8'));
  expect(out.map((note) => pitchName(note.written))).toEqual(notesOf(secondEdition('staircase', 'Two Editions', '9')).map((note) => pitchName(note.written)));
});

test('a typed passage: engraved while it is typed, errors by line and column, kept, marked, taken out as MusicXML', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('button', { name: 'Type a passage' }).click();
  const dialog = page.getByRole('dialog', { name: 'Type a passage' });
  const field = dialog.getByLabel('The passage in ABC notation');
  await field.fill('X:1\nT:Typed Here\nM:4/4\nL:1/8\nK:D\nV:1 name="Violin"\n!p! v(A>B) c2 ? d4 | e2 f2 !3!g4 |\n');
  await expect(dialog.getByRole('img').first()).toHaveAttribute('aria-label', /Violin: 2 bars, 7 notes/);
  await expect(dialog.locator('.engraving g.note')).toHaveCount(7);
  await dialog.getByRole('button', { name: 'line 7, column 15' }).click();
  await expect(field).toBeFocused();
  await page.keyboard.press('Delete');
  await expect(dialog.getByRole('button', { name: /column/ })).toHaveCount(0);
  await field.fill('X:1\nK:D\n');
  await expect(dialog.getByRole('alert')).toContainText('There are no notes');
  await expect(dialog.getByRole('button', { name: 'Put it on the shelf' })).toBeDisabled();
  await field.fill('X:1\nT:Typed Here\nM:4/4\nL:1/8\nK:D\nV:1 name="Violin"\n!p! v(A>B) c2 d4 | e2 f2 !3!g4 |\n');
  await expect(dialog.locator('.engraving g.note')).toHaveCount(7);
  await dialog.getByRole('button', { name: 'Close, keep what is typed' }).click();
  await page.reload();
  await page.getByRole('button', { name: 'Type a passage' }).click();
  await expect(field).toHaveValue(/Typed Here/);
  await dialog.getByRole('combobox', { name: 'For' }).selectOption('Viola');
  await expect(field).toHaveValue(/name="Viola" clef=alto/);
  await dialog.getByRole('button', { name: 'Put it on the shelf' }).click();
  await expect(page).toHaveURL(/\/desk\//);
  await ready(page);
  await walkTo(page, 2);
  await page.keyboard.press('1');
  await saved(page);
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Marked part' }).click()]);
  expect(download.suggestedFilename()).toBe('Typed Here (Viola, marked).musicxml');
  const notes = notesOf(readFileSync(await download.path(), 'utf8'));
  expect(notes.map((note) => pitchName(note.written)).join(' ')).toBe('A4 B4 C#5 D5 E5 F#5 G5');
  expect(notes.map((note) => note.printed.finger ?? note.printed.bow)).toEqual(['down', '1', null, null, null, null, '3']);
  // Typed on: a bar before, another last note; the finger stays with its note.
  await about(page);
  await page.getByRole('button', { name: 'Edit the text' }).click();
  await expect(field).toHaveValue(/name="Viola" clef=alto/);
  await field.fill((await field.inputValue()).replace('!p!', 'd4 c4 | !p!').replace('g4', 'f4'));
  await expect(dialog.locator('.engraving g.note')).toHaveCount(9);
  await dialog.getByRole('button', { name: 'Use this text; marks stay' }).click();
  await expect(dialog).toBeHidden();
  // The passage has the new bar too, and the finger has gone on with its note.
  await expect(page.getByRole('navigation', { name: 'Passages' })).toContainText('1–3');
  await ready(page);
  await walkTo(page, 4);
  await expect(status(page)).toContainText('finger 1');
});

test('compressed files come in and go out; the marks alone go out and come back; MIDI can be heard', async ({ page }) => {
  await openNew(page, 'low-tide', 'In And Out');
  const take = async (name: string) => {
    await page.getByRole('button', { name: 'Other files to take out' }).click();
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('menuitem', { name }).click()]);
    return { name: download.suggestedFilename(), bytes: readFileSync(await download.path()) };
  };
  await walkTo(page, 3);
  await page.keyboard.press('2');
  await saved(page);
  const marks = await take('The marks alone (JSON)');
  expect(JSON.parse(marks.bytes.toString())).toMatchObject({ format: 'omaggio-marks', marks: [{ kind: 'finger', value: '2' }] });
  const midi = await take('MIDI, to listen elsewhere');
  expect(new Midi(midi.bytes).tracks[0]!.notes.length).toBeGreaterThan(20);
  const compressed = await take('Marked part, compressed (.mxl)');
  expect(compressed.name).toMatch(/\.mxl$/);

  await page.getByRole('button', { name: 'Undo: Finger 2' }).click();
  await expect(status(page)).toContainText('unmarked');
  await about(page);
  await page.getByLabel('Marks file').setInputFiles({ name: 'marks.json', mimeType: 'application/json', buffer: Buffer.from('{"marks":[{"at":"1"}]}') });
  await expect(page.getByRole('dialog').getByRole('alert')).toContainText('marks.json, marks file');
  await page.getByLabel('Marks file').setInputFiles({ name: 'marks.json', mimeType: 'application/json', buffer: marks.bytes });
  await expect(page.getByRole('dialog').getByRole('status')).toHaveText('1 marks read.');
  await page.keyboard.press('Escape');
  await expect(status(page)).toContainText('finger 2');
  await saved(page);

  await page.goto('/');
  await page.getByLabel('Score file').setInputFiles({ name: 'tide.mxl', mimeType: 'application/vnd.recordare.musicxml', buffer: compressed.bytes });
  await expect(page).toHaveURL(/\/desk\//);
  await ready(page);
  await walkTo(page, 3);
  await expect(status(page)).toContainText('finger 2');
});

test('what the coach says about a part changes how it is read', async ({ page }) => {
  await openNew(page, 'low-tide', 'About The Part');
  await walkTo(page, 1);
  const before = (await status(page).textContent())!.match(/· ([A-G][♯♭]?)(\d)/)!;
  await about(page);
  const dialog = page.getByRole('dialog', { name: /^About/ });
  await expect(dialog).toContainText('Played in this order:');
  await dialog.getByLabel('It sounds').selectOption({ index: 1 });
  await page.keyboard.press('Escape');
  await ready(page);
  await expect(status(page)).toContainText(`${before[1]}${Number(before[2]) + 1}`);
  await page.reload();
  await ready(page);
  await expect(status(page)).toContainText(`${before[1]}${Number(before[2]) + 1}`);
});

test('the lines of a divided part are planned one by one', async ({ page }) => {
  await page.goto('/?find=mill+race+serenade.musicxml');
  await page.getByRole('link', { name: /^Violin I 129/ }).click();
  await ready(page);
  const line = page.getByLabel('Line of the divided part that is planned');
  await expect(line).toHaveValue('0');
  await line.selectOption('1');
  await ready(page);
  await page.reload();
  await ready(page);
  await expect(line).toHaveValue('1');
  await line.selectOption('0');
});
