import { drop, expect, openNew, ready, saved, score, status, test, walkTo } from './steps';

const TUNE = 'GABc dedc | B2 A2 G4 |';

test('what is pencilled is engraved: retake, hook, position, a finger that stays, words; it is there after a reload', async ({ page }) => {
  await openNew(page, 'low-tide', 'Pencilled');
  const drawn = page.locator('.engraving').first();
  await walkTo(page, 2);
  await page.keyboard.press('r');
  await walkTo(page, 1);
  await page.getByText('Pencil in').click();
  await page.getByRole('button', { name: 'stay', exact: true }).click();
  await page.getByLabel('Words over the note').fill('elbow');
  await page.keyboard.press('Enter');
  await expect(drawn.locator('.fing').filter({ hasText: 'elbow' })).toHaveCount(1);
  await expect(drawn.locator('.breath, .artic').first()).toBeVisible();
  await expect(status(page)).toContainText('“elbow”');
  await page.getByRole('combobox', { name: 'Position', exact: true }).selectOption('III');
  await expect(drawn.locator('.fing').filter({ hasText: 'III pos.' })).toHaveCount(1);
  await saved(page);
  await page.reload();
  await ready(page);
  await expect(drawn.locator('.fing').filter({ hasText: 'III pos.' })).toHaveCount(1);
  await score(page).focus();
  await page.keyboard.press('Control+z');
  await expect(drawn.locator('.fing').filter({ hasText: 'III pos.' })).toHaveCount(0);
});

test('a mark is on the music at once, before the engraver has answered; his picture takes its place', async ({ page }) => {
  await openNew(page, 'staircase', 'At Once');
  await walkTo(page, 4);
  let answer: () => void = () => undefined;
  const waits = new Promise<void>((resolve) => (answer = resolve));
  await page.route('**/engraving', async (route) => {
    await waits;
    await route.continue();
  });
  await page.keyboard.press('3');
  await page.keyboard.press('d');
  const fresh = page.locator('.engraving [data-note]');
  await expect(fresh).toHaveCount(2);
  await expect(fresh.last()).toHaveText('3');
  await expect(score(page)).toHaveAttribute('data-engraved', 'false');
  const head = (await page.locator('.engraving g.note').nth(3).boundingBox())!;
  for (const box of [(await fresh.first().boundingBox())!, (await fresh.last().boundingBox())!]) {
    expect(Math.abs(box.x + box.width / 2 - head.x - head.width / 2)).toBeLessThan(8);
    expect(box.y + box.height).toBeLessThan(head.y + 2);
  }
  answer();
  await expect(fresh).toHaveCount(0);
  await expect(page.locator('.engraving .fing').filter({ hasText: '3' }).first()).toBeVisible();
});

test('an eased bar: seconds and findings follow; a section at its own tempo', async ({ page }) => {
  await openNew(page, 'low-tide', 'As It Is Meant');
  await walkTo(page, 3);
  await page.getByText('Pencil in').click();
  await page.getByRole('button', { name: 'ease', exact: true }).click();
  await expect(page.locator('.engraving .fing').filter({ hasText: 'easing' })).toHaveCount(1);
  await page.getByRole('combobox', { name: 'From here on' }).selectOption('at 80 %');
  await expect(page.locator('.engraving .fing').filter({ hasText: 'at 80 %' })).toHaveCount(1);
  await expect(page.locator('.engraving .fing').filter({ hasText: 'easing' })).toHaveCount(0);
  await expect(status(page)).toContainText('tempo at 80 %');
});

test('marks are copied to where the music comes back, and what had to stay different is said', async ({ page }) => {
  await page.goto('/');
  const content = `X:1\nT:Comes Back\nM:4/4\nL:1/8\nK:G\nV:1 name="Violin"\n${TUNE} c2 B2 A4 | ${TUNE} E2 F2 G4 | ${TUNE}]\n`;
  await drop(page, [{ name: 'comes-back.abc', content }]);
  await expect(page).toHaveURL(/\/desk\//);
  await ready(page);
  await walkTo(page, 1);
  await page.keyboard.press('3');
  await page.keyboard.press('d');
  for (let i = 0; i < 10; i++) await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('n');
  const rail = page.getByRole('navigation', { name: 'Passages' });
  await rail.getByRole('button', { name: 'Change passage Bars 1–2' }).click();
  await page.getByRole('menuitem', { name: /^Copy its marks/ }).click();
  const note = page.getByRole('status').filter({ hasText: 'copied to bars 4–5, 7–8' });
  await expect(note).toBeVisible();
  await expect(page.getByRole('button', { name: /^Undo: Marks of Bars 1–2 copied/ })).toBeEnabled();
  await rail.getByRole('button', { name: 'Change passage Bars 1–2' }).click();
  await page.getByRole('menuitem', { name: /^Copy its marks/ }).click();
  await expect(page.getByRole('status').filter({ hasText: 'marked alike already' })).toBeVisible();
});

test('found by name: a player, a passage, bars to select; the map goes to a bar; the strings alone', async ({ page }) => {
  await openNew(page, 'staircase', 'Found');
  const find = async (text: string) => {
    await page.keyboard.press('Control+k');
    await page.getByRole('combobox', { name: /as you would say it/ }).fill(text);
  };
  await score(page).focus();
  await find('tobi');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Checked for Tobi/ })).toBeVisible();
  await find('3-4');
  await page.keyboard.press('Enter');
  await expect(status(page)).toContainText('bars 3–4');
  await find('nothing like it');
  await expect(page.getByRole('dialog').getByRole('alert')).toContainText('Nothing here is called');
  await page.keyboard.press('Escape');
  const map = page.getByRole('img', { name: /^Map of the part/ });
  const box = (await map.boundingBox())!;
  await map.click({ position: { x: box.width * 0.96, y: 15 } });
  await expect(status(page)).toContainText(/^Bar 3[0-2]/);
  await page.keyboard.press('o');
  await expect(status(page)).toContainText('On the open strings');
  await expect(page.locator('svg[aria-label^="Strings"]').first()).toBeVisible();
  await page.keyboard.press('o');
  await expect(status(page)).not.toContainText('On the open strings');
});

test('by buttons, and a range drawn with the mouse', async ({ page }) => {
  await openNew(page, 'staircase', 'By Buttons');
  await page.getByRole('button', { name: 'Buttons' }).click();
  const heads = page.locator('.engraving g.note');
  const at = async (nth: number) => {
    const box = (await heads.nth(nth).locator('.notehead').first().boundingBox())!;
    return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  };
  const [from, to] = [await at(1), await at(4)];
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 6 });
  await page.mouse.up();
  await expect(status(page)).toContainText(/^4 notes/);
  await page.mouse.click(from.x, from.y);
  await expect(status(page)).not.toContainText('4 notes');
  const marks = page.getByRole('region', { name: 'Marks' });
  await marks.getByRole('button', { name: 'Finger 3' }).click();
  await expect(marks.getByRole('button', { name: 'Finger 3' })).toHaveAttribute('aria-pressed', 'true');
  await marks.getByRole('button', { name: 'hook' }).click();
  await expect(status(page)).toContainText('hook');
  await marks.getByRole('button', { name: 'none' }).click();
  await expect(status(page)).toContainText('unmarked');
});

test.describe('by touch', () => {
  test.use({ hasTouch: true, viewport: { width: 820, height: 1180 } });
  test('a note is tapped and marked; a finger that is held and drawn selects; choices and buttons are in view', async ({ page }) => {
    await openNew(page, 'staircase', 'By Touch');
    const head = page.locator('.engraving g.note .notehead');
    const box = (await head.nth(1).boundingBox())!;
    await page.touchscreen.tap(box.x + 4, box.y + 4);
    await expect(status(page)).toContainText('Bar 1');
    const marks = page.getByRole('region', { name: 'Marks' });
    await marks.getByRole('button', { name: 'Finger 2' }).tap();
    await expect(status(page)).toContainText('finger 2');
    // The picture with the finger in it has come: places are measured in it.
    await ready(page);
    const inView = async (height: number | undefined) => expect(height).toBeLessThan(1180);
    await inView((await marks.boundingBox())?.y);
    await inView((await page.getByRole('region', { name: 'Ways to play this note' }).getByRole('article').first().boundingBox())?.y);
    const session = await page.context().newCDPSession(page);
    const [held, other] = [(await head.nth(2).boundingBox())!, (await head.nth(5).boundingBox())!];
    const tapped = await status(page).innerText();
    const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', x: number, y: number) =>
      session.send('Input.dispatchTouchEvent', { type, touchPoints: type === 'touchEnd' ? [] : [{ x, y }] });
    await touch('touchStart', held.x + 4, held.y + 4);
    // It selects as soon as the note under it is chosen, however long that takes.
    await expect(status(page)).not.toHaveText(tapped);
    await touch('touchMove', other.x + 4, other.y + 4);
    await touch('touchEnd', 0, 0);
    await expect(status(page)).toContainText(/^4 notes/);
  });
});
