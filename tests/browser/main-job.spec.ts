import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { readMusicXml } from '../../core/formats/musicxml/read';
import { copyOf, expect, openNew, ready, saved, score, status, test, walkTo } from './steps';

const printed = (text: string) => {
  const read = readMusicXml(text);
  if (!read.ok) throw new Error(read.problem.what);
  return read.value.score.parts[0]!.notes.map((note) => note.printed);
};
const withoutMarks = (text: string) =>
  text
    .replace(/\s*<(fingering|string|other-technical)>[^<]*<\/\1>/g, '')
    .replace(/\s*<(down-bow|up-bow)\/>/g, '')
    .replace(/\s*<technical>\s*<\/technical>/g, '')
    .replace(/\s*<notations>\s*<\/notations>/g, '');

test('from file to file: drop, suggestion, own marks by keyboard, undo, reload, download', async ({ page }, info) => {
  await openNew(page, 'staircase', 'From File To File');
  await score(page).focus();

  await page.getByRole('button', { name: 'Suggest fingering' }).click();
  const suggestions = page.getByRole('region', { name: 'Suggested fingerings' });
  await expect(suggestions.getByRole('article')).toHaveCount(5);
  await suggestions.getByRole('button', { name: 'Take' }).first().click();
  await expect(page.getByRole('button', { name: 'Undo: Suggested fingering, bars 1–16' })).toBeEnabled();

  await walkTo(page, 2);
  await page.keyboard.press('2');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('3');
  // The first note of the next slur: inside one a bow would split it.
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('u');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('4');
  await expect(status(page)).toContainText('finger 4');
  await page.keyboard.press('Control+z');
  await expect(status(page)).not.toContainText('finger 4');
  await saved(page);

  await page.reload();
  await ready(page);
  await expect(page.getByRole('button', { name: 'Undo: Up-bow' })).toBeEnabled();
  await expect(page.getByRole('button', { name: 'Redo: Finger 4' })).toBeEnabled();

  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Marked part' }).click()]);
  expect(download.suggestedFilename()).toBe('from-file-to-file (Violin, marked).musicxml');
  const marked = readFileSync(await download.path(), 'utf8');
  const source = copyOf('staircase', 'From File To File');
  expect(withoutMarks(marked)).toBe(withoutMarks(source));
  const notes = printed(marked);
  expect([notes[1]!.finger, notes[2]!.finger, notes[4]!.bow]).toEqual(['2', '3', 'up']);
  expect(notes[0]!.finger).toBe('0');

  const files = [info.outputPath('source.musicxml'), info.outputPath('marked.musicxml')];
  writeFileSync(files[0]!, source);
  writeFileSync(files[1]!, marked);
  const complaints = JSON.parse(execFileSync('node', ['tests/support/validate-xsd.mjs', ...files], { encoding: 'utf8' })) as Record<string, string[]>;
  expect(complaints[files[1]!]).toEqual(complaints[files[0]!]);
});

test('a suggestion taken is one undo; the two others can be taken instead; a bowing splits and marks', async ({ page }) => {
  await openNew(page, 'evening-barge', 'One Undo');
  await score(page).focus();
  await page.keyboard.press('b');
  const bowings = page.getByRole('region', { name: 'Suggested bowings' });
  await expect(bowings.getByRole('article').first()).toContainText('Best on the whole');
  await page.keyboard.press('ArrowDown');
  await expect(bowings.getByRole('article').nth(1)).toHaveAttribute('data-highlighted', 'true');
  await page.keyboard.press('Enter');
  await expect(bowings).toHaveCount(0);
  await ready(page);
  await expect(page.locator('.engraving .dir, .engraving .artic').first()).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: 'Nothing to undo' })).toBeDisabled();
  await page.keyboard.press('Control+Shift+z');
  await expect(page.getByRole('button', { name: /^Undo: Suggested bowing/ })).toBeEnabled();
});

test('every way to play a note, each with its reasons; taking one marks finger and string', async ({ page }) => {
  await openNew(page, 'staircase', 'Every Way');
  await walkTo(page, 6);
  const ways = page.getByRole('region', { name: 'Ways to play this note' });
  await expect(ways.getByRole('article').first()).toBeVisible();
  expect(await ways.getByRole('article').count()).toBeGreaterThan(3);
  await expect(ways.getByRole('article').nth(2)).toContainText('Costs more');
  const second = await ways.getByRole('article').nth(1).getAttribute('aria-label');
  await ways.getByRole('article').nth(1).getByRole('button', { name: 'Take' }).click();
  await expect(status(page)).toContainText(`finger ${second!.startsWith('Open') ? '0' : second![0]}, string`);
});

test('what the key marks is engraved: fingers, numerals, bows', async ({ page }) => {
  await openNew(page, 'low-tide', 'Engraved Marks');
  await walkTo(page, 1);
  await page.keyboard.press('1');
  await page.keyboard.press('Shift+Digit3');
  await page.keyboard.press('d');
  await ready(page);
  await expect(page.locator('.engraving .fing').filter({ hasText: '1' })).toHaveCount(1);
  await expect(page.locator('.engraving .fing').filter({ hasText: 'III' })).toHaveCount(1);
  await expect(status(page)).toContainText('finger 1, string 3, down-bow');
  await page.keyboard.press('Delete');
  await expect(status(page)).toContainText('unmarked');
  await expect(page.locator('.engraving .fing')).toHaveCount(0);
});
