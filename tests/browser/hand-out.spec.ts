/** From the coach to the music stand and back: hand out, read, turn, say, correct, tick; and that a player’s link opens nothing else. */
import AxeBuilder from '@axe-core/playwright';
import type { Browser, Page } from '@playwright/test';
import { copyOf, expect, openNew, ready, saved, test, walkTo } from './steps';

const TABLET = { width: 820, height: 1180 };

async function playerWith(browser: Browser, page: Page, name: string): Promise<Page> {
  const players = (await (await page.request.get('/players')).text()).match(
    new RegExp(`"id\\\\?":\\\\?"([0-9a-f-]{36})\\\\?",\\\\?"name\\\\?":\\\\?"${name}`),
  )!;
  const made = (await (await page.request.post(`/api/players/${players[1]}/link`, { data: { days: 30 } })).json()) as { url: string };
  const context = await browser.newContext({ storageState: { cookies: [], origins: [] }, viewport: TABLET, hasTouch: true });
  const stand = await context.newPage();
  await stand.goto(made.url);
  return stand;
}

const pageNumber = (stand: Page) => stand.getByText(/^page \d+ of \d+$/);

test('handed out, read on a tablet, answered without a network, corrected, ticked', async ({ page, browser }) => {
  const taken = await page.request.post('/api/pieces?name=handed-out.musicxml', { data: copyOf('mill-race-serenade', 'Handed Out') });
  const { pieceId, firstPartId } = (await taken.json()) as { pieceId: string; firstPartId: string };
  await page.goto(`/hand-out/${pieceId}`);
  const violin = page.getByRole('listitem').filter({ has: page.getByRole('checkbox', { name: 'Violin I', exact: true }) });
  await expect(violin).toContainText('not handed out yet');
  await violin.getByRole('group').getByRole('checkbox', { name: 'Tobi' }).check();
  await page.getByLabel('A word to the players').fill('Up to E for Thursday');
  await page.getByRole('button', { name: 'Hand out Violin I' }).click();
  await expect(page.getByText('Violin I: Hand-out 1, 1 player')).toBeVisible();
  await expect(violin).toContainText('opened by 0 of 1');
  await expect(page.getByRole('button', { name: 'Nothing to hand out' })).toBeDisabled();

  // The player, on a tablet: the part alone, in pages.
  const stand = await playerWith(browser, page, 'Tobi');
  const sent: string[] = [];
  stand.on(
    'response',
    (response) =>
      void response.text().then(
        (text) => sent.push(text),
        () => undefined,
      ),
  );
  await stand.reload();
  await expect(stand.getByRole('heading', { name: 'Tobi' })).toBeVisible();
  const entry = stand.getByRole('link', { name: /Handed Out/ });
  await expect(entry).toContainText('Up to E for Thursday');
  await expect(entry).toContainText('new');
  await entry.click();
  await expect(pageNumber(stand)).toHaveText(/^page 1 of [2-9]/);
  await expect(stand.locator('.engraving svg').first()).toBeVisible();
  await stand.keyboard.press('PageDown');
  await expect(pageNumber(stand)).toHaveText(/^page 2 of/);
  await stand.keyboard.press('ArrowLeft');
  await expect(pageNumber(stand)).toHaveText(/^page 1 of/);
  await stand.getByRole('main').tap({ position: { x: 700, y: 500 } });
  await expect(pageNumber(stand)).toHaveText(/^page 2 of/);
  await stand.getByRole('main').tap({ position: { x: 40, y: 500 } });
  await expect(pageNumber(stand)).toHaveText(/^page 1 of/);
  // Larger music is more pages.
  const pages = Number(/of (\d+)/.exec((await pageNumber(stand).textContent())!)![1]);
  for (let i = 0; i < 3; i++) await stand.getByRole('button', { name: 'Larger music' }).click();
  await expect.poll(async () => Number(/of (\d+)/.exec((await pageNumber(stand).textContent()) ?? '')?.[1] ?? 0)).toBeGreaterThan(pages);

  // Without a network the part is there all the same; what is said is kept, and sent once there is one.
  await expect
    .poll(() =>
      stand.evaluate(
        async () => (await caches.keys()).length && (await (await caches.open('omaggio-stand-1')).keys()).some(({ url }) => url.includes('/music?')),
      ),
    )
    .toBe(true);
  await stand.context().setOffline(true);
  expect(
    await stand.evaluate(() =>
      fetch('/stand/icon?never-seen').then(
        ({ ok }) => ok,
        () => false,
      ),
    ),
  ).toBe(false);
  await stand.reload();
  await expect(stand.locator('.engraving svg').first()).toBeVisible();
  await stand.keyboard.press('PageDown');
  await expect(pageNumber(stand)).toHaveText(/^page 2 of/);
  await stand.keyboard.press('PageUp');
  await stand.getByRole('button', { name: /^Bar 2:/ }).focus();
  await stand.keyboard.press('Enter');
  const dialog = stand.getByRole('dialog', { name: 'About bar 2' });
  await dialog.getByLabel('It hurts').check();
  await expect(dialog).toContainText('Stop playing it');
  await dialog.getByLabel(/^In your words/).fill('the stretch to the fourth finger');
  await dialog.getByRole('button', { name: 'Tell my coach' }).click();
  await expect(stand.getByText('hurts', { exact: true })).toBeVisible();
  await expect(stand.getByText(/not saved|not sent|does not answer/i).first()).toBeVisible();
  await page.reload();
  await expect(violin).toContainText('opened by 1 of 1');
  await expect(page.getByRole('region', { name: 'Answers' })).not.toContainText('the stretch');
  await stand.context().setOffline(false);
  await expect
    .poll(async () => {
      await page.reload();
      return page.getByRole('region', { name: 'Answers' }).textContent();
    })
    .toContain('the stretch to the fourth finger');
  await expect(page.getByRole('region', { name: 'Answers' })).toContainText('until you have spoken');
  // It stands among the findings of the Desk until it is dealt with.
  await page.goto(`/desk/${firstPartId}`);
  await ready(page);
  const told = page.getByRole('region', { name: 'From players' });
  if (!(await told.isVisible())) await page.getByRole('tab', { name: /^Findings/ }).click();
  await expect(told).toContainText('the stretch to the fourth finger');
  await told.getByRole('button', { name: 'Dealt with' }).click();
  await expect(told).toHaveCount(0);
  await page.goto(`/hand-out/${pieceId}`);
  await expect(page.getByRole('button', { name: 'Take it up again' })).toBeVisible();

  // The coach corrects; marks that are not handed out yet are nobody's but hers.
  await page.goto(`/desk/${firstPartId}`);
  await ready(page);
  await walkTo(page, 2);
  await page.keyboard.press('3');
  await saved(page);
  await stand.reload();
  await expect(pageNumber(stand)).toBeVisible();
  await expect(stand.getByRole('button', { name: /What changed/ })).toHaveCount(0);
  await page.goto(`/hand-out/${pieceId}`);
  await expect(violin).toContainText('1 bar changed: it would be Hand-out 2');
  await page.getByRole('button', { name: 'Hand out Violin I' }).click();
  await expect(page.getByText('Violin I: Hand-out 2, 1 player')).toBeVisible();

  await stand.reload();
  const changes = stand.getByRole('complementary', { name: 'Changed since Hand-out 1' });
  await expect(changes).toContainText('finger 3');
  await expect(stand.getByRole('button', { name: /^Bar \d+, changed/ })).toHaveCount(1);
  await changes.getByRole('checkbox').check();
  await changes.getByRole('button', { name: 'Show Hand-out 1' }).click();
  await expect(stand.getByRole('button', { name: /^Bar \d+, changed/ })).toHaveCount(0);
  await changes.getByRole('button', { name: 'Back to Hand-out 2' }).click();
  await expect(stand.getByRole('button', { name: 'What changed', exact: true })).toBeVisible();
  await stand.reload();
  await expect(stand.getByRole('button', { name: 'What changed', exact: true })).toBeVisible();

  // Nothing else opens by a link, and of others nothing was ever sent.
  for (const address of ['/', `/desk/${firstPartId}`, `/score/${pieceId}`, `/hand-out/${pieceId}`, '/players', '/studio']) {
    await stand.goto(address);
    await expect(stand).toHaveURL(/\/stand$/);
  }
  for (const address of [
    `/api/parts/${firstPartId}/music`,
    `/api/parts/${firstPartId}/marks`,
    `/api/pieces/${pieceId}/hand-outs`,
    `/api/parts/${firstPartId}/answers`,
  ])
    expect((await stand.request.get(address)).status()).toBe(403);
  expect(sent.length).toBeGreaterThan(5);
  for (const other of ['Marlene', 'Oskar', 'Juno', 'Ines']) expect([other, sent.some((text) => text.includes(other))]).toEqual([other, false]);
  await stand.context().close();
});

test('a part of one bar, a link that was taken back, a part nobody was given', async ({ page, browser }) => {
  await openNew(page, 'staircase', 'One To Nobody');
  const part = page.url().split('/').at(-1)!;
  const stand = await playerWith(browser, page, 'Ines');
  await stand.goto(`/stand/${part}`);
  await expect(stand.getByText(/not there|no page|Nothing/i).first()).toBeVisible();
  const { id } = (await (await page.request.get('/players')).text()).match(/"id\\?":\\?"(?<id>[0-9a-f-]{36})\\?",\\?"name\\?":\\?"Ines/)!.groups as {
    id: string;
  };
  await page.request.delete(`/api/players/${id}/link`);
  await stand.goto('/stand');
  await expect(stand).toHaveURL(/\/enter/);
  await stand.context().close();
});

test('what is out, and the Stand, hold to the rules for everybody at three sizes; names without a space do not break them', async ({ page, browser }) => {
  const title = `Serenade${'ofthelongnights'.repeat(12)}`;
  const taken = await page.request.post('/api/pieces?name=long.musicxml', { data: copyOf('low-tide', title) });
  const { pieceId, firstPartId } = (await taken.json()) as { pieceId: string; firstPartId: string };
  const stand = await playerWith(browser, page, 'Juno');
  const { id } = (await (await page.request.get('/players')).text()).match(/"id\\?":\\?"(?<id>[0-9a-f-]{36})\\?",\\?"name\\?":\\?"Juno/)!.groups as {
    id: string;
  };
  const word = `${'Up to E for Thursday. '.repeat(130)}`;
  expect((await page.request.post('/api/hand-outs', { data: { word, parts: [{ partId: firstPartId, players: [id] }] } })).status()).toBe(201);
  for (const [shown, address] of [
    [page, `/hand-out/${pieceId}`],
    [stand, '/stand'],
    [stand, `/stand/${firstPartId}`],
  ] as const) {
    await shown.goto(address);
    if (address.startsWith('/stand/')) await expect(shown.locator('.engraving svg').first()).toBeVisible();
    for (const size of [{ width: 1280, height: 800 }, TABLET, { width: 390, height: 844 }]) {
      await shown.setViewportSize(size);
      if (address.startsWith('/stand/')) await expect(shown.getByText(/^page \d/)).toBeVisible();
      const wider = await shown.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);
      expect([address, size.width, wider]).toEqual([address, size.width, 0]);
      const { violations } = await new AxeBuilder({ page: shown }).withTags(['wcag2a', 'wcag2aa', 'wcag22aa']).exclude('.engraving').analyze();
      expect([address, size.width, violations.map(({ id: rule, nodes }) => `${rule}: ${nodes[0]!.html}`)]).toEqual([address, size.width, []]);
    }
  }
  await stand.context().close();
});

test('pencil: written without a network, there again, taken along to the next hand-out, seen by the coach only when it is shown; half turns', async ({
  page,
  browser,
}) => {
  const taken = await page.request.post('/api/pieces?name=pencilled.musicxml', { data: copyOf('mill-race-serenade', 'Pencilled') });
  const { pieceId, firstPartId: part } = (await taken.json()) as { pieceId: string; firstPartId: string };
  const idOf = async (name: string) =>
    (await (await page.request.get('/players')).text()).match(new RegExp(`"id\\\\?":\\\\?"([0-9a-f-]{36})\\\\?",\\\\?"name\\\\?":\\\\?"${name}`))![1]!;
  const oskar = await idOf('Oskar');
  const handOut = async () =>
    expect((await page.request.post('/api/hand-outs', { data: { word: '', parts: [{ partId: part, players: [oskar] }] } })).status()).toBe(201);
  await handOut();
  const stand = await playerWith(browser, page, 'Oskar');
  await stand.goto(`/stand/${part}`);
  await expect(stand.locator('.engraving svg').first()).toBeVisible();
  await expect
    .poll(() => stand.evaluate(async () => (await (await caches.open('omaggio-stand-1')).keys()).some(({ url }) => url.includes('/music?'))))
    .toBe(true);
  await stand.context().setOffline(true);
  await stand.getByRole('button', { name: /^Pencil/ }).click();
  const box = stand.getByRole('region', { name: 'Pencil' });
  // A tap near a note takes it.
  const head = (await stand.locator('.engraving g.note').nth(3).locator('use').first().boundingBox())!;
  await stand.touchscreen.tap(head.x + 7, head.y + 7);
  await box.getByRole('button', { name: 'Finger 3' }).tap();
  await expect(box.getByRole('button', { name: 'Finger 3' })).toHaveAttribute('aria-pressed', 'true');
  await box.getByRole('button', { name: 'Circle' }).tap();
  await box.getByLabel('Words').fill('breathe');
  await stand.keyboard.press('Enter');
  // On by keys; said twice it is rubbed out.
  await box.getByRole('button', { name: 'Circle' }).focus();
  await stand.keyboard.press('ArrowRight');
  await stand.keyboard.press('u');
  await stand.keyboard.press('2');
  await stand.keyboard.press('2');
  await expect(box.getByRole('button', { name: 'Up-bow' })).toHaveAttribute('aria-pressed', 'true');
  await expect(box.getByRole('button', { name: 'Finger 2' })).toHaveAttribute('aria-pressed', 'false');
  const written = stand.locator('svg.text-pencil text');
  await expect(written).toHaveText(['3', 'breathe']);
  await stand.reload();
  await expect(written).toHaveText(['3', 'breathe']);
  await stand.context().setOffline(false);
  const known = async () => {
    await stand.reload();
    return (await (await stand.request.get(`/stand/${part}`)).text()).includes('breathe');
  };
  await expect.poll(known).toBe(true);

  // Nobody else sees it until it is shown.
  const asSeen = async () => (await (await page.request.get(`/stand/${part}?as=${oskar}`)).text()).includes('breathe');
  expect(await asSeen()).toBe(false);
  await stand.getByRole('button', { name: /^Pencil/ }).click();
  await box.getByLabel('my coach may look at it').check();
  await expect.poll(asSeen).toBe(true);

  // A correction by the coach: the pencil is on the new one.
  await page.goto(`/desk/${part}`);
  await ready(page);
  await walkTo(page, 2);
  await page.keyboard.press('4');
  await saved(page);
  await handOut();
  await stand.reload();
  await expect(stand.getByText('Hand-out 2').first()).toBeVisible();
  await expect(written).toHaveText(['3', 'breathe']);
  await stand.getByRole('button', { name: 'Close' }).click();
  await stand.getByRole('button', { name: /^Pencil/ }).click();
  await expect(box).not.toContainText('no note any more');
  await box.getByRole('button', { name: 'Put it down' }).click();

  // Half a page at a time: the upper half is the next page, the lower one stays until the second tap.
  await stand.getByRole('button', { name: 'How it is laid out' }).click();
  await stand.getByLabel('turn half a page at a time').check();
  await stand.getByLabel('shift lines with their guide notes').check();
  await expect(stand.locator('[data-shift]').first()).toBeVisible();
  await stand.getByRole('complementary').getByRole('button', { name: 'Close' }).click();
  const coming = stand.getByLabel('upper half of the next page');
  await stand.keyboard.press('PageDown');
  await expect(coming).toBeVisible();
  await expect(pageNumber(stand)).toHaveText(/^page 1 of/);
  await stand.keyboard.press('PageUp');
  await expect(coming).toHaveCount(0);
  await stand.keyboard.press('PageDown');
  await stand.keyboard.press('PageDown');
  await expect(pageNumber(stand)).toHaveText(/^page 2 of/);
  await expect(coming).toHaveCount(0);

  // All that is out on paper, as work of its own.
  await page.goto(`/hand-out/${pieceId}`);
  await page.getByRole('button', { name: 'All that is out, on paper' }).click();
  const link = page.getByRole('link', { name: 'Take the PDF' });
  await expect(link).toBeVisible();
  const [file] = await Promise.all([page.waitForEvent('download'), link.click()]);
  expect(file.suggestedFilename()).toBe('Pencilled, parts.pdf');
  await stand.context().close();
});
