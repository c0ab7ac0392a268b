/** What a teacher does, as functions; and a guard that no outside host is asked for anything. */
import { expect, test as base, type Page } from '@playwright/test';
import { demoText } from '../support/demo';

export const test = base.extend<{ ownHostOnly: void }>({
  ownHostOnly: [
    async ({ page, baseURL }, use) => {
      const strangers: string[] = [];
      page.on('request', (request) => {
        const url = new URL(request.url());
        if (url.protocol.startsWith('http') && url.host !== new URL(baseURL!).host) strangers.push(request.url());
      });
      await use();
      expect(strangers, 'requests to other hosts').toEqual([]);
    },
    { auto: true },
  ],
});
export { expect };

/** A demo score under another title, so that it is a new file. */
export const copyOf = (name: string, title: string): string => demoText(name).replace(/<work-title>[^<]*</, `<work-title>${title}<`);

/** Drops files on the page as from the desktop. */
export async function drop(page: Page, files: ReadonlyArray<{ name: string; content: string }>): Promise<void> {
  const transfer = await page.evaluateHandle((list) => {
    const data = new DataTransfer();
    for (const { name, content } of list) data.items.add(new File([content], name, { type: 'application/xml' }));
    return data;
  }, files);
  await page.locator('main').dispatchEvent('dragover', { dataTransfer: transfer });
  await page.locator('main').dispatchEvent('drop', { dataTransfer: transfer });
}

export const score = (page: Page) => page.getByRole('group', { name: /^Score/ });
export const status = (page: Page) => page.locator('#status');

/** The passage is engraved with all marks, and checked. */
export async function ready(page: Page): Promise<void> {
  await expect(score(page)).toHaveAttribute('data-engraved', 'true');
  await expect(score(page)).toHaveAttribute('data-whole', 'true');
}

export const saved = (page: Page) => expect(page.locator('[data-save]')).toHaveAttribute('data-save', 'saved');

/** Takes a new file in, past the shelf, and waits for its Desk. */
export async function openNew(page: Page, name: string, title: string): Promise<void> {
  const file = `${title.toLowerCase().replaceAll(' ', '-')}.musicxml`;
  const taken = await page.request.post(`/api/pieces?name=${encodeURIComponent(file)}`, { data: copyOf(name, title) });
  const { firstPartId } = (await taken.json()) as { firstPartId: string };
  await page.goto(`/desk/${firstPartId}`);
  await ready(page);
}

/** Walks to the nth note of the passage, counted from 1. */
export async function walkTo(page: Page, nth: number): Promise<void> {
  await score(page).focus();
  for (let i = 0; i < nth; i++) await page.keyboard.press('ArrowRight');
}
