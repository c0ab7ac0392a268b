/** A section coach: finds what differs, has it carried, sees it, takes it back on the other part's Desk. */
import AxeBuilder from '@axe-core/playwright';
import { copyOf, drop, expect, openNew, ready, saved, test } from './steps';
import type { Page } from '@playwright/test';

const lanes = (page: Page) => page.getByRole('group', { name: /^Parts side by side/ });
const side = (page: Page) => page.getByRole('complementary', { name: 'About the score' });
/** Groups that are listed, whatever stands in their cards. */
const groupsOf = (page: Page) => side(page).getByRole('tabpanel').locator(':scope > ul > li');
/** The score of a new piece. */
async function openScore(page: Page, name: string, title: string): Promise<string> {
  await openNew(page, name, title);
  const html = await (await page.request.get(page.url())).text();
  const address = `/score/${html.match(/pieceId\\?":\\?"([0-9a-f-]{36})/)![1]!}`;
  await page.goto(address);
  await bowed(page);
  return address;
}
const bowed = (page: Page) => expect(side(page).getByRole('status')).toContainText(/All together|No common tempo|At any tempo/);

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

test('who has the tune, chords; an entry gets its cue, printed in the part and taken back there', async ({ page }) => {
  const address = await openScore(page, 'mill-race-serenade', 'Cues And Tunes');
  await lanes(page).evaluate((box) => box.scrollTo({ left: 33 * 3 * 16 }));
  await expect(page.getByRole('region', { name: 'Viola', exact: true }).getByTitle(/^tune, bars 33–48/)).toBeVisible();
  await expect(page.getByRole('region', { name: 'Violin I', exact: true }).getByTitle(/^held, bars 33–48/)).toBeVisible();
  await expect(lanes(page).getByTitle('B dominant seventh', { exact: true }).first()).toHaveText('B7');
  await side(page).getByRole('tab', { name: 'Entries' }).click();
  const entry = side(page).getByRole('article', { name: 'Violin I at 53/1' });
  await expect(entry).toContainText('4 bars of rest');
  await entry
    .getByRole('button', { name: /^Print the cue of/ })
    .first()
    .click();
  await expect(entry).toContainText('printed in the part');
  await saved(page);
  await entry.getByRole('link', { name: 'printed in the part' }).click();
  await ready(page);
  // Engraved where the player reads, and in the file as small notes.
  await expect(
    page
      .locator('#score svg')
      .filter({ hasText: /Violin II|Viola/ })
      .first(),
  ).toBeVisible();
  const part = page.url().match(/desk\/([0-9a-f-]+)/)![1]!;
  const marked = `/api/pieces/${address.split('/').pop()!}/marked?part=${part}`;
  const file = await (await page.request.get(marked)).text();
  expect(file).toContain('<cue/>');
  await page.getByRole('button', { name: /^Undo: .*cue of/ }).click();
  await saved(page);
  expect(await (await page.request.get(marked)).text()).not.toContain('<cue/>');
});

test('the tempo of the piece: who decides it where; another one for all in one step; a group is left apart for a reason; all of it on the rehearsal page', async ({
  page,
}) => {
  const address = await openScore(page, 'mill-race-serenade', 'Tempo And Reasons');
  await side(page).getByRole('tab', { name: 'Tempo' }).click();
  const stretches = side(page).getByRole('list', { name: 'Tempo by stretch' }).getByRole('listitem');
  await expect(stretches).toHaveCount(8);
  await expect(stretches.filter({ hasText: 'C · 49–64' })).toContainText('does not work');
  await expect(side(page).getByRole('region', { name: 'In the way' })).toContainText(/Violin I, 5\d/);
  const wanted = side(page).getByLabel('Wanted tempo of the piece in quarters per minute');
  await expect(wanted).toHaveValue('112');
  await wanted.fill('70');
  await wanted.press('Enter');
  await bowed(page);
  await expect(stretches.filter({ hasText: 'C · 49–64' })).toContainText('works');
  await saved(page);
  await page.getByRole('button', { name: /^Undo: Tempo of all parts 70/ }).click();
  await bowed(page);
  await expect(wanted).toHaveValue('112');

  // With those who sit in the section it may be another one.
  await side(page).getByRole('link', { name: 'under Players' }).click();
  const seat = page.getByRole('region', { name: 'Seating' }).getByLabel('Seat a player');
  await seat.selectOption('Ines');
  await seat.selectOption('Tobi');
  // The part is divided in places: who has which line.
  await page.getByRole('button', { name: /^Divide at the desk: outside the upper line/ }).click();
  await expect(page.getByLabel('Line of Ines')).toHaveValue('0');
  await expect(page.getByLabel('Line of Tobi')).toHaveValue('1');
  await saved(page);
  await page.reload();
  await expect(page.getByLabel('Line of Tobi')).toHaveValue('1');
  await page.goto(address);
  await bowed(page);
  await side(page).getByRole('tab', { name: 'Tempo' }).click();
  await side(page).getByRole('button', { name: 'With the 2 who sit here' }).click();
  const seated = side(page).getByRole('region', { name: 'With those who sit here' });
  await expect(seated).toContainText(/up to \d+ \(Tobi, Violin I\)/);
  await expect(seated.getByRole('listitem')).toHaveCount(8);

  await side(page).getByRole('tab', { name: 'Together' }).click();
  const differing = side(page).getByRole('button', { name: /^differing/ });
  const before = Number((await differing.innerText()).match(/\d+/)![0]);
  await lanes(page).focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('l');
  const why = side(page).getByLabel('Leave it as it is, because');
  await expect(why).toBeFocused();
  await why.fill('The cellos phrase over it.');
  await why.press('Enter');
  await expect(differing).toHaveText(`differing ${before - 1}`);
  await expect(side(page).getByRole('button', { name: /^left apart/ })).toHaveText('left apart 1');
  await saved(page);

  await page.getByRole('link', { name: 'Rehearsal page' }).click();
  await expect(page.getByRole('region', { name: 'Spots in bar order' })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Tempo' })).toContainText('112 does not work in C');
  await expect(page.getByRole('region', { name: 'Still bowed or printed apart' })).toContainText('apart on purpose, The cellos phrase over it.');
  await expect(page.getByRole('region', { name: 'Entries' })).toContainText('53/1 Violin I, 4 bars of rest');
  for (const format of ['A4', 'Letter']) expect((await page.pdf({ format })).toString('latin1').match(/\/Type \/Page\b/g)).toHaveLength(1);
  await page.getByLabel('Whom the page is for').selectOption('Viola');
  await expect(page.getByRole('heading', { name: 'Tempo And Reasons, Viola' })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Entries' })).toContainText('Nobody rests for a whole bar.');

  // Looked at again, it differs again.
  await page.goto(address);
  await bowed(page);
  await side(page)
    .getByRole('button', { name: /^left apart/ })
    .click();
  await groupsOf(page).first().getByRole('button').click();
  await side(page).getByRole('button', { name: 'look at it again' }).click();
  await side(page)
    .getByRole('button', { name: /^differing/ })
    .click();
  await expect(differing).toHaveText(`differing ${before}`);
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
    await side(page).getByRole('tab', { name: 'Tempo' }).click();
    for (const theme of ['light', 'dark']) {
      await page.evaluate((value) => (document.documentElement.dataset.theme = value), theme);
      const { violations } = await new AxeBuilder({ page }).analyze();
      expect(violations.map(({ id, nodes }) => `${id}: ${nodes.map(({ html: text }) => text.slice(0, 120)).join(' | ')}`)).toEqual([]);
    }
  });
