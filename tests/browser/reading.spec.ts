import { readFileSync } from 'node:fs';
import AxeBuilder from '@axe-core/playwright';
import { pitchName } from '../../core/score/pitch';
import { readMusicXml } from '../../core/formats/musicxml/read';
import { copyOf, expect, openNew, ready, saved, score, status, test, walkTo } from './steps';

const tab = (name: string) => ({ name: new RegExp(`^${name}`) });
function partOf(text: string) {
  const read = readMusicXml(text);
  if (!read.ok) throw new Error(read.problem.what);
  return read.value.score.parts[0]!;
}

test('edits against the print: engraved, listed with a reason, set aside, shown and hidden, undone, exported', async ({ page }) => {
  await openNew(page, 'staircase', 'Against The Print');
  await walkTo(page, 3);
  await page.keyboard.press('e');
  const box = page.getByRole('region', { name: 'Edit the text' });
  await box.getByLabel('Why it is changed').fill('wrong in the plates');
  const pitch = box.getByLabel('Written pitch, such as F#4');
  await pitch.fill('H9');
  await page.keyboard.press('Enter');
  await expect(box.getByRole('alert')).toHaveText('Say it as F#4 or Bb3');
  await pitch.fill('Bb4');
  await page.keyboard.press('Enter');
  await expect(status(page)).toContainText('B♭4');
  await box.getByRole('button', { name: 'accent', exact: true }).click();
  await box.getByLabel('Dynamic from here').selectOption('pp');
  await box.getByLabel('Tempo from here').fill('Lento = 999');
  await expect(box.getByRole('alert')).toContainText('quarter = 72');
  await box.getByLabel('Tempo from here').fill('Lento, quarter = 50');
  await page.keyboard.press('Enter');
  await box.getByLabel('Words over this note').fill('sotto voce');
  await page.keyboard.press('Enter');
  await ready(page);
  await expect(page.locator('.engraving').first()).toContainText('sotto voce');

  const changes = page.getByRole('region', { name: 'Changes against the print' });
  await expect(changes.getByRole('article')).toHaveCount(5);
  const first = changes.getByRole('article', { name: /^pitch at/ });
  await expect(first).toContainText('B♭4');
  await expect(first.getByLabel('Why')).toHaveValue('wrong in the plates');
  await changes
    .getByRole('article', { name: /^accent at/ })
    .getByRole('button', { name: 'set aside' })
    .click();
  await changes.getByRole('button', { name: 'show the print' }).click();
  await expect(status(page)).not.toContainText('B♭4');
  await page.getByRole('button', { name: 'Show your changes', exact: true }).click();
  await expect(status(page)).toContainText('B♭4');
  await changes
    .getByRole('article', { name: /^dynamic at/ })
    .getByRole('button', { name: 'take back' })
    .click();
  await expect(changes.getByRole('article')).toHaveCount(4);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(changes.getByRole('article')).toHaveCount(5);
  await saved(page);
  await page.reload();
  await ready(page);
  await expect(page.getByRole('region', { name: 'Changes against the print' }).getByRole('article')).toHaveCount(5);

  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Marked part' }).click()]);
  const out = partOf(readFileSync(await download.path(), 'utf8'));
  const source = partOf(copyOf('staircase', 'Against The Print'));
  expect(out.notes.map((note) => pitchName(note.written))).toEqual(source.notes.map((note, i) => (i === 2 ? 'Bb4' : pitchName(note.written))));
  expect(out.notes[2]!.articulations).toEqual(source.notes[2]!.articulations);
  const tick = source.notes[2]!.onset;
  expect(out.dynamics.filter((dynamic) => dynamic.tick === tick).map(({ text }) => text)).toEqual(['pp']);
  expect(out.words.filter((word) => word.tick === tick).map(({ text }) => text)).toEqual(expect.arrayContaining(['Lento', 'sotto voce']));
  expect(out.tempi.find((tempo) => tempo.tick === tick)!.quartersPerMinute).toBe(50);
});

test('a rhythm is corrected by a button and as text, what is marked goes with its note, the file has it, and one step takes it back', async ({ page }) => {
  await openNew(page, 'staircase', 'Wrong Rhythm');
  await walkTo(page, 3);
  await page.keyboard.press('3');
  await page.keyboard.press('e');
  const box = page.getByRole('region', { name: 'Edit the text' });
  const bar = box.getByLabel(/^Notes of the bar as text/);
  await expect(bar).toHaveValue('A4/16 B4/16 C5/16 D5/16 E5/8 A5/8');
  await box.getByRole('button', { name: 'dotted', exact: true }).click();
  await expect(bar).toHaveValue('A4/16 B4/16 C5/16. D5/32 E5/8 A5/8');
  await expect(status(page)).toContainText('C5 · finger 3');
  await bar.fill('A4/8t B4/8t C5/8t D5/8');
  await expect(box.getByRole('alert')).toContainText('1.5 quarters of 2 quarters: 8 (0.5 quarters) too little');
  await bar.fill('A4/8t B4/8t C5/8t r/8 D5/8');
  await page.keyboard.press('Enter');
  await expect(status(page)).toContainText('C5 · finger 3');
  await box.getByLabel('Clef from here').selectOption('alto');
  await ready(page);
  const changes = page.getByRole('region', { name: 'Changes against the print' }).getByRole('article');
  await expect(changes.filter({ hasText: 'A4/8t B4/8t C5/8t r/8 D5/8' })).toContainText('A4/16 B4/16 C5/16 D5/16 E5/8 A5/8');
  await expect(changes.filter({ hasText: 'treble' })).toContainText('alto');
  await saved(page);
  await page.reload();
  await ready(page);
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Marked part' }).click()]);
  const out = partOf(readFileSync(await download.path(), 'utf8'));
  const first = out.notes.filter(({ barIndex }) => barIndex === 0);
  expect(first.map(({ written, printed }) => `${pitchName(written)} ${printed.finger ?? ''}`)).toEqual(['A4 ', 'B4 ', 'C5 3', 'D5 ']);
  expect(out.clefs.map(({ clef }) => clef.sign)).toEqual(['G', 'C']);

  // A bar of which no note is left can be written again.
  await bar.fill('r');
  await page.keyboard.press('Enter');
  await expect(bar).toHaveValue('r');
  await expect(page.getByRole('region', { name: 'Marks without a place' })).toContainText('finger 3');
  await bar.fill('A4/4 B4/4');
  await page.keyboard.press('Enter');
  await expect(changes.filter({ hasText: 'A4/4 B4/4' })).toBeVisible();
  const undo = page.getByRole('button', { name: /^Undo/ });
  await undo.click();
  await undo.click();
  await expect(page.getByRole('region', { name: 'Marks without a place' })).toHaveCount(0);

  await undo.click();
  await expect(changes).toHaveCount(1);
  await undo.click();
  await undo.click();
  await expect(changes).toHaveCount(0);
  await expect(page.getByRole('region', { name: 'Marks without a place' })).toHaveCount(0);
  await expect(bar).toHaveValue('A4/16 B4/16 C5/16 D5/16 E5/8 A5/8');
});

test('slurs and hairpins over a selection', async ({ page }) => {
  await openNew(page, 'low-tide', 'Over A Selection');
  await walkTo(page, 1);
  for (let i = 0; i < 3; i++) await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('e');
  const box = page.getByRole('region', { name: 'Edit the text' });
  await box.getByRole('button', { name: 'over the selection' }).click();
  await box.getByRole('button', { name: 'crescendo' }).click();
  await ready(page);
  await expect(page.locator('.engraving g.hairpin').first()).toBeVisible();
  await expect(page.getByRole('region', { name: 'Changes against the print' }).getByRole('article', { name: /^slur/ }).first()).toContainText(
    'slurred to the note before',
  );
  await expect(page.getByRole('region', { name: 'Changes against the print' }).getByRole('article', { name: /^hairpin/ })).toContainText('crescendo to');
});

test('traps for the reader: said with the count, a reminder put by one click', async ({ page }) => {
  await openNew(page, 'staircase', 'Traps');
  await page.getByRole('tab', tab('Reading')).click();
  const traps = page.getByRole('region', { name: 'Traps for the reader' });
  const gone = traps.getByRole('listitem').filter({ hasText: 'old sign gone' }).first();
  await expect(gone).toContainText(/ended with its bar/);
  const count = await traps.getByRole('listitem').count();
  await gone.getByRole('button', { name: /put a reminder/ }).click();
  await expect(page.getByRole('region', { name: 'Changes against the print' }).getByRole('article')).toContainText('sign in brackets');
  await expect(traps.getByRole('listitem')).toHaveCount(count - 1);
});

test('notes for the player: by note, bar and passage, in the score, in the address, as a list and as words', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await openNew(page, 'staircase', 'Words For The Player');
  await walkTo(page, 5);
  await page.keyboard.press('w');
  const form = page.getByRole('form', { name: 'New note' });
  const add = async (about: string | null, kind: string, text: string) => {
    if (about !== null) await form.getByLabel('About').fill(about);
    await form.getByLabel('What it is').selectOption({ label: kind });
    await form.getByLabel('Words for the player').fill(text);
    await form.getByRole('button', { name: 'Add note' }).click();
  };
  await add('bar 99', 'words', 'nowhere');
  await expect(form.getByRole('alert')).toContainText('no bar 99');
  await add('2', 'listen for', 'the bass line');
  await add('last note of 3', 'the phrase goes to here', 'here it arrives');
  await add('1-4', 'character', 'dry and quick');
  const notes = page.getByRole('region', { name: 'Notes for the player' });
  await expect(notes.getByRole('article')).toHaveCount(3);
  await expect(page).toHaveURL(/tab=notes/);
  const sign = page.getByRole('button', { name: 'listen at 2: the bass line' });
  await expect(sign).toBeVisible();
  await sign.click();
  await expect(status(page)).toContainText('Bar 2/1');
  await notes.getByRole('article', { name: 'Note at 2' }).getByRole('button', { name: 'change' }).click();
  await page.getByLabel('Words at 2').fill('the bass line, then the violas');
  await page.keyboard.press('Control+Enter');
  await page.getByText('As a list, out and in').click();
  await page.getByRole('button', { name: 'Copy all 3 notes' }).click();
  expect(await page.evaluate(() => navigator.clipboard.readText())).toContain('2 listen: the bass line, then the violas');
  await page.getByLabel(/Paste a list/).fill('4/1: lighter\n77: too far');
  await page.getByRole('button', { name: 'Add these notes' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'line 2' })).toContainText('no bar 77');
  await page.getByLabel(/Paste a list/).fill('4/1: lighter');
  await page.getByRole('button', { name: 'Add these notes' }).click();
  await expect(notes.getByRole('article')).toHaveCount(4);
  // What is half changed is there again after a reload.
  await notes.getByRole('article', { name: 'Note at 4/1' }).getByRole('button', { name: 'change' }).click();
  await page.getByLabel('Words at 4/1').fill('lighter, and');
  await saved(page);
  await page.reload();
  await ready(page);
  const half = page.getByLabel('Words at 4/1');
  await expect(half).toHaveValue('lighter, and');
  await half.focus();
  await page.keyboard.press('Escape');
  await expect(half).toBeHidden();
  await expect(page.getByRole('region', { name: 'Notes for the player' }).getByRole('article')).toHaveCount(4);
  await page.getByRole('button', { name: 'Other files to take out' }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('menuitem', { name: 'Marked part, notes as words over the staff' }).click(),
  ]);
  const words = partOf(readFileSync(await download.path(), 'utf8')).words.map(({ text }) => text);
  expect(words).toEqual(expect.arrayContaining(['listen: the bass line, then the violas', 'character: dry and quick', 'lighter']));
});

test('what the others do at a note; the cue before the next entry by one key', async ({ page }) => {
  await openNew(page, 'mill-race-serenade', 'Among Others');
  const address = page.url().split('?')[0]!;
  await page.goto(`${address}?bars=33`);
  await ready(page);
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('a');
  const around = page.getByRole('region', { name: 'Around the note' });
  await expect(around).toContainText('You hold the chord. The tune is in Viola.');
  await expect(around).toContainText('G major: ');
  await expect(around).toContainText(/third of G; pure over G it is 14 cents lower|fifth of G/);
  await expect(around.getByText('Tune to')).toBeVisible();
  const entry = page.getByRole('article', { name: 'Entry at Bar 53/1' });
  await expect(entry).toContainText('4 bars of rest');
  await page.locator('#score').focus();
  await page.keyboard.press('i');
  await expect(page.getByRole('button', { name: /^Undo: Bar 53\/1: cue of/ })).toBeVisible();
  await expect(entry).toContainText('A cue is printed.');
  await page.locator('#score').focus();
  await page.keyboard.press('i');
  await expect(entry).not.toContainText('A cue is printed.');
  // One tempo for the piece, until a part departs from it.
  const tempo = page.getByRole('region', { name: 'Tempo of the piece' });
  await expect(tempo).toContainText('All at 112 quarters a minute.');
  await page.getByLabel(/^Wanted tempo in/).fill('80');
  await page.getByLabel(/^Wanted tempo in/).press('Enter');
  await expect(tempo).toContainText('this part departs from it: 80.');
  await tempo.getByRole('button', { name: 'take theirs' }).click();
  await expect(tempo).toContainText('All at 112');
  await saved(page);
});

test('addresses as people say them', async ({ page }) => {
  await page.goto('/?find=mill+race+serenade.musicxml');
  await page.getByRole('link', { name: /^Violin I 129/ }).click();
  await ready(page);
  const desk = page.url().split('?')[0]!;
  for (const [said, shown] of [
    ['at=upbeat to 1', 'Bar 0/3'],
    ['at=last note of 54', 'Bar 54/3'],
    ['at=C%2B4', 'Bar 53/1'],
  ] as const) {
    await page.goto(`${desk}?${said}`);
    await ready(page);
    await expect(status(page)).toContainText(shown);
  }
  await page.goto(`${desk}?at=999/1`);
  await expect(page.getByRole('alert').filter({ hasText: 'no bar 999' })).toBeVisible();
  await score(page).focus();
  await page.keyboard.press('Control+k');
  await page.getByRole('combobox', { name: /as you would say it/ }).fill('last note of 54');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/at=54\/3/);
});

for (const [name, address] of [
  ['Notes', 'tab=notes'],
  ['Reading', 'tab=reading&at=54/3'],
]) {
  test(`no accessibility rule is broken in ${name}`, async ({ page }) => {
    await page.goto('/?find=mill+race+serenade.musicxml');
    await page.getByRole('link', { name: /^Violin I 129/ }).click();
    await ready(page);
    await page.goto(`${page.url().split('?')[0]}?${address}`);
    await ready(page);
    const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa']).analyze();
    expect(violations.map(({ id, nodes }) => [id, nodes.map((node) => node.html)])).toEqual([]);
  });
}
