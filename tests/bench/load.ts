/**
 * `npm run load`: a hundred coaches and players at once for ten minutes on an Omaggio of its own (the build has to be there). Four in five
 * are coaches: each in a browser of their own, follows a part live, thinks for about five seconds, marks, and has the eight bars engraved
 * with the new mark; now and then one opens a part or looks at the Shelf. Nothing comes from a cache: every mark makes another picture.
 * The rest are players who look at their Stand. What is marked has to come to all who follow. CLIENTS and MINUTES set other numbers.
 */
import { randomUUID } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { ask } from '../../tools/run/ask';
import { comeIn } from '../support/come-in';
import { freePort, processesOf, start, stop } from '../support/omaggio';

const CLIENTS = Number(process.env.CLIENTS ?? 100);
const WITHIN_MS = 60_000;
const MINUTES = Number(process.env.MINUTES ?? 10);
const THINK_MS = 5_000;

const folder = mkdtempSync(path.join(tmpdir(), 'omaggio-load-'));
const omaggio = await start({ OMAGGIO_DATA: path.join(folder, 'data'), PORT: freePort() });
const { url, cookie: session } = omaggio;
const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

const parts = [...new Set((await (await fetch(url, { headers: { cookie: session } })).text()).match(/\/desk\/[0-9a-f-]{36}/g))].map((each) =>
  each.slice('/desk/'.length),
);
interface Place {
  part: string;
  marking: string;
}
const places: Place[] = [];
for (const part of parts) {
  const page = await (await fetch(`${url}/desk/${part}`, { headers: { cookie: session } })).text();
  places.push({ part, marking: /markingId\\?":\\?"([0-9a-f-]{36})/.exec(page)![1]! });
}

/** What one browser is let in by: a key for a coach, a link for a player. */
const owner = { cookie: session, 'content-type': 'application/json' };
const told = async (address: string, value: object): Promise<string> => {
  const { text } = await ask(`${url}${address}`, { within: WITHIN_MS, method: 'POST', headers: owner, body: JSON.stringify(value) });
  return (JSON.parse(text) as { url: string }).url;
};
const studioPage = await (await fetch(`${url}/studio`, { headers: owner })).text();
const corin = /"id\\?":\\?"([0-9a-f-]{36})\\?",\\?"name\\?":\\?"Corin/.exec(studioPage)![1]!;
const playersPage = await (await fetch(`${url}/players`, { headers: owner })).text();
const playerIds = [
  ...new Set([...playersPage.matchAll(/"id\\?":\\?"([0-9a-f-]{36})\\?",\\?"name\\?":\\?"(?:Ines|Tobi|Marlene|Oskar|Pia|Juno)/g)].map(([, id]) => id!)),
];
const links = await Promise.all(playerIds.map((id) => told(`/api/players/${id}/link`, { days: null })));

/** Follows a part as an open page does. */
async function follow(part: string, cookie: string, ended: AbortSignal): Promise<void> {
  const response = await fetch(`${url}/api/parts/${part}/live?since=0.0&page=${randomUUID()}`, { headers: { cookie }, signal: ended });
  let text = '';
  for await (const chunk of response.body as unknown as AsyncIterable<Uint8Array>) {
    text += Buffer.from(chunk).toString();
    const events = text.split('\n\n');
    text = events.pop()!;
    for (const [, at] of events.join('\n').matchAll(/"reason":"Words at (\d+)"/g))
      if (Number(at) > began) times['mark come to a follower']!.push(Date.now() - Number(at));
  }
}

const began = Date.now();
const times: Record<string, number[]> = {
  'mark stored': [],
  'eight bars engraved': [],
  'Desk opened': [],
  'Shelf opened': [],
  'Stand opened': [],
  'mark come to a follower': [],
};
const failures: string[] = [];
async function timed(what: string, work: () => ReturnType<typeof ask>): Promise<void> {
  const begun = performance.now();
  try {
    const response = await work();
    if (!response.ok) failures.push(`${what}: ${response.status}`);
  } catch (error) {
    failures.push(`${what}: ${(error as Error).message}`);
  }
  times[what]!.push(performance.now() - begun);
}

const until = Date.now() + MINUTES * 60_000;
async function coach(number: number): Promise<void> {
  const { part, marking } = places[number % places.length]!;
  const { cookie: own } = await comeIn(await told(`/api/studio/people/${corin}/key`, {}));
  const cookie = `${own}; client=coach-number-${number}`;
  const ended = new AbortController();
  const following = follow(part, cookie, ended.signal).catch((error: Error) => error.name === 'AbortError' || failures.push(`live: ${error.message}`));
  const send = (address: string, value: unknown) =>
    ask(`${url}${address}`, {
      within: WITHIN_MS,
      method: 'POST',
      headers: { cookie, 'content-type': 'application/json' },
      body: JSON.stringify(value),
    });
  await wait(Math.random() * THINK_MS);
  await timed('Desk opened', () => ask(`${url}/desk/${part}`, { within: WITHIN_MS, headers: { cookie } }));
  for (let n = 0; Date.now() < until; n++) {
    await wait(THINK_MS * (0.4 + 1.2 * Math.random()));
    const bar = Math.floor(Math.random() * 16);
    const mark = { value: `${number} ${n}`, origin: 'coach' };
    const target = `at-${bar}-${number * 1000 + n}`;
    const set = {
      id: randomUUID(),
      at: new Date().toISOString(),
      reason: `Words at ${Date.now()}`,
      undoes: null,
      version: 2,
      changes: [{ target, kind: 'text', from: null, to: mark }],
    };
    await timed('mark stored', () => send(`/api/markings/${marking}/changes`, [set]));
    const fromBar = Math.floor(Math.random() * 16);
    await timed('eight bars engraved', () =>
      send(`/api/parts/${part}/engraving`, {
        fromBar,
        toBar: fromBar + 7,
        widthPx: 720,
        marking: { [`at-${fromBar}-0|text`]: { value: `${number} ${n}`, origin: 'coach' } },
      }),
    );
    if (n % 8 === 7) await timed('Desk opened', () => ask(`${url}/desk/${part}`, { within: WITHIN_MS, headers: { cookie } }));
    if (n % 12 === 11) await timed('Shelf opened', () => ask(url, { within: WITHIN_MS, headers: { cookie } }));
  }
  await wait(1_000);
  ended.abort();
  await following;
}

async function player(number: number): Promise<void> {
  await wait(Math.random() * THINK_MS);
  const { cookie } = await comeIn(links[number % links.length]!);
  while (Date.now() < until) {
    await timed('Stand opened', () => ask(`${url}/stand`, { within: WITHIN_MS, headers: { cookie } }));
    await wait(THINK_MS * (0.4 + 1.2 * Math.random()));
  }
}

const megabytes = (): number => {
  const pid = processesOf(omaggio).server[0]!;
  return Math.round(Number(/^VmRSS:\s*(\d+)/m.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]) / 1024);
};
const memory: string[] = [`at first ${megabytes()} MB`];
let afterOneMinute = 0;
const watch = setInterval(() => memory.push(`${megabytes()}`), 30_000);
setTimeout(() => (afterOneMinute = megabytes()), 60_000);
await Promise.all(Array.from({ length: CLIENTS }, (_, i) => (i % 5 === 4 ? player(i) : coach(i))));
clearInterval(watch);
const atTheEnd = megabytes();

console.log(`${CLIENTS} coaches and players, ${MINUTES} minutes, a mark and a picture about every ${THINK_MS / 1000} s each`);
for (const [what, list] of Object.entries(times)) {
  list.sort((a, b) => a - b);
  const at = (share: number) => `${Math.round(list[Math.floor((list.length - 1) * share)] ?? 0)} ms`;
  console.log(`${what}: ${list.length} times, median ${at(0.5)}, p95 ${at(0.95)}, p99 ${at(0.99)}, longest ${at(1)}`);
}
console.log(
  `memory of the server: ${memory.join(', ')}; after one minute ${afterOneMinute} MB, at the end ${atTheEnd} MB (${Math.round((atTheEnd / afterOneMinute) * 100)} %)`,
);
console.log(`failures: ${failures.length} ${[...new Set(failures)].slice(0, 5).join('; ')}`);
await stop(omaggio, 'SIGTERM');
rmSync(folder, { recursive: true, force: true });
process.exit(failures.length ? 1 : 0);
