/**
 * npm run bench:stand, with Omaggio running at OMAGGIO_URL on the demo: how long it takes from *Hand out* until the player sees the first
 * page, to turn a page, and to print a part and all parts of a piece. The demo's 129 bars, a part of 300 and one of 600 bars.
 */
import { chromium, type Page } from '@playwright/test';
import { comeIn } from '../support/come-in';
import { demoText } from '../support/demo';
import { say } from '../support/figures';
import { longPart } from '../support/long-part';

const inside = await comeIn(process.env.OMAGGIO_URL ?? 'http://127.0.0.1:3000');
const { url, cookie } = inside;
const TURNS = 40;
const ROUNDS = 5;

async function ask<T>(method: string, address: string, body?: BodyInit): Promise<T> {
  const response = await fetch(`${url}${address}`, { method, headers: { cookie }, ...(body === undefined ? {} : { body }) });
  if (!response.ok) throw new Error(`${address}: ${response.status} ${await response.text()}`);
  return (response.headers.get('content-type')?.includes('json') ? await response.json() : await response.arrayBuffer()) as T;
}

const playersPage = await (await fetch(`${url}/players`, { headers: { cookie } })).text();
const playerId = /"id\\?":\\?"([0-9a-f-]{36})\\?",\\?"name\\?":\\?"Tobi/.exec(playersPage)![1]!;
const link = (await ask<{ url: string }>('POST', `/api/players/${playerId}/link`, '{"days":null}')).url;

const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] });
const drawn = (page: Page) => page.locator('main .engraving svg').first().waitFor();

/** Each round a new hand-out: nothing of it was ever engraved. */
async function handOuts(name: string, music: (title: string) => string): Promise<void> {
  const context = await browser.newContext({ viewport: { width: 820, height: 1180 } });
  const page = await context.newPage();
  await page.goto(link);
  const [first, again, turns]: number[][] = [[], [], []];
  for (let round = 0; round < ROUNDS; round++) {
    const { firstPartId: partId } = await ask<{ firstPartId: string }>('POST', '/api/pieces?name=bench.musicxml', music(`Bench ${Date.now()}`));
    const begun = performance.now();
    await ask('POST', '/api/hand-outs', JSON.stringify({ word: '', parts: [{ partId, players: [playerId] }] }));
    await page.goto(`${url}/stand/${partId}`);
    await drawn(page);
    first!.push(performance.now() - begun);
    const reload = performance.now();
    await page.reload();
    await drawn(page);
    again!.push(performance.now() - reload);
    if (round > 0) continue;
    // From the key to the next picture that the browser draws.
    turns!.push(
      ...(await page.evaluate(async (count) => {
        const times: number[] = [];
        for (let i = 0; i < count; i++) {
          const start = performance.now();
          window.dispatchEvent(new KeyboardEvent('keydown', { key: i % 2 ? 'PageUp' : 'PageDown' }));
          await new Promise((resolve) => requestAnimationFrame(() => setTimeout(resolve)));
          times.push(performance.now() - start);
        }
        return times;
      }, TURNS)),
    );
    const paper = performance.now();
    await ask('GET', `/api/stand/parts/${partId}/paper?as=${playerId}`);
    say(`${name}: on paper`, [performance.now() - paper]);
  }
  say(`${name}: from Hand out to the first page`, first!);
  say(`${name}: opened again`, again!);
  say(`${name}: a turn`, turns!);
  await context.close();
}

try {
  await handOuts('129 bars', (title) => demoText('mill-race-serenade').replace(/<work-title>[^<]*</, `<work-title>${title}<`));
  await handOuts('300 bars', (title) => longPart(300, title));
  await handOuts('600 bars', (title) => longPart(600, title));
} finally {
  await browser.close();
}
