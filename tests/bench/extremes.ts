/**
 * `npm run extremes`: drops absurd scores on a running Omaggio (OMAGGIO_URL, with a key) and has each engraved, while somebody else works. Each
 * must be answered, by a picture or by words, in under ten seconds, and the other's work must go on.
 */
import { comeIn } from '../support/come-in';
import { extremeScores } from '../support/extremes';

const address = process.env.OMAGGIO_URL;
if (!address) throw new Error('OMAGGIO_URL is not set: it says where Omaggio runs, with a key');
const { url, cookie } = await comeIn(address);
const LIMIT_MS = 10_000;

const as = (client: string) => ({ cookie: `${cookie}; client=${client}` });
async function timed(work: () => Promise<Response>): Promise<{ ms: number; response: Response; text: string }> {
  const begun = performance.now();
  const response = await work();
  const text = await response.text();
  return { ms: performance.now() - begun, response, text };
}
const engrave = (partId: string, client: string, toBar: number, mark = '') =>
  timed(() =>
    fetch(`${url}/api/parts/${partId}/engraving`, {
      method: 'POST',
      headers: as(client),
      body: JSON.stringify({ fromBar: 0, toBar, widthPx: 700 + Math.floor(Math.random() * 400), marking: mark ? { x: 1 } : {} }),
    }),
  );

const shelf = await (await fetch(url, { headers: { cookie } })).text();
const demoPart = /\/desk\/([0-9a-f-]{36})/.exec(shelf)![1]!;
let done = false;
const others: number[] = [];
const other = (async () => {
  while (!done) {
    const { ms, response } = await engrave(demoPart, 'somebody-else', 7);
    if (!response.ok) throw new Error(`somebody else's work failed with ${response.status}`);
    others.push(ms);
    await new Promise((resolve) => setTimeout(resolve, 150));
  }
})();

const slow: string[] = [];
const broken: string[] = [];
const kinds = { engraved: 0, 'refused in words': 0, 'not drawn, in words': 0 };
let longest = 0;
for (const { name, text } of extremeScores()) {
  const taken = await timed(() =>
    fetch(`${url}/api/pieces?name=${encodeURIComponent(`${name}.musicxml`)}`, { method: 'POST', body: text, headers: as('attacker-1') }),
  );
  let ms = taken.ms;
  if (taken.response.status >= 500) broken.push(`${name}: taking in answered ${taken.response.status}`);
  else if (!taken.response.ok) kinds['refused in words']++;
  else {
    const { firstPartId, pieceId } = JSON.parse(taken.text) as { firstPartId: string; pieceId: string };
    const drawn = await engrave(firstPartId, 'attacker-1', 1);
    ms = Math.max(ms, drawn.ms);
    if (drawn.response.ok) kinds.engraved++;
    else if (drawn.response.status === 422) kinds['not drawn, in words']++;
    else broken.push(`${name}: engraving answered ${drawn.response.status} ${drawn.text.slice(0, 200)}`);
    const page = await timed(() => fetch(`${url}/desk/${firstPartId}`, { headers: as('attacker-1') }));
    ms = Math.max(ms, page.ms);
    if (!page.response.ok) broken.push(`${name}: the Desk answered ${page.response.status}`);
    for (const what of ['midi', 'marks']) {
      const out = await timed(() => fetch(`${url}/api/parts/${firstPartId}/${what}`, { headers: as('attacker-1') }));
      ms = Math.max(ms, out.ms);
      if (out.response.status >= 500) broken.push(`${name}: ${what} answered ${out.response.status}`);
    }
    await fetch(`${url}/api/pieces/${pieceId}`, { method: 'PATCH', headers: { cookie }, body: JSON.stringify({ onShelf: false }) });
  }
  longest = Math.max(longest, ms);
  if (ms > 2_000) console.log(`${name}: ${(ms / 1000).toFixed(1)} s`);
  if (ms > LIMIT_MS) slow.push(`${name}: ${(ms / 1000).toFixed(1)} s`);
}
done = true;
await other;
others.sort((a, b) => a - b);
const at = (share: number) => `${Math.round(others[Math.floor((others.length - 1) * share)]!)} ms`;
console.log(
  `${extremeScores().length} scores: ${Object.entries(kinds)
    .map(([kind, n]) => `${n} ${kind}`)
    .join(', ')}; the longest answer took ${(longest / 1000).toFixed(1)} s`,
);
console.log(`somebody else's 8 bars meanwhile: ${others.length} times, median ${at(0.5)}, p95 ${at(0.95)}, longest ${at(1)}`);
for (const line of [...slow, ...broken]) console.log(`WRONG ${line}`);
process.exitCode = slow.length + broken.length ? 1 : 0;
