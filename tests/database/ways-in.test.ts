/** Keys, links and pass phrases: what opens the door, how often, until when, and what is written down of it. */
import { accessOf, type Access } from '../../server/access';
import { byKey, byLink, byPhrase } from '../../server/doors/come-in';
import { doingsOf } from '../../server/doors/doings';
import { addPerson, browsersOf, changePerson, endBrowser, endLink, keyFor, newLink, peopleOf, removePerson } from '../../server/doors/people';
import { players } from '../../server/players';
import { closeDatabase, everything, openDatabase, tokenBy } from '../support/database';

const CALLER = { address: 'tests', agent: 'Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0' };
let studio: Access;
let playerIds: string[];
beforeAll(async () => {
  studio = await openDatabase();
  playerIds = (await players(studio)).map(({ id }) => id);
});
afterAll(closeDatabase);

test('a key lets in one browser, once; the latest link of a player alone opens, until it is ended or runs out', async () => {
  const key = (await keyFor(studio, studio.personId!))!;
  const entries = await Promise.all([byKey(key, CALLER), byKey(key, CALLER), byKey(key, CALLER)]);
  expect(entries.filter((entry) => 'token' in entry)).toHaveLength(1);
  await everything.query("UPDATE keys SET expires_at = now() - interval '1 second'");
  const late = (await keyFor(studio, studio.personId!))!;
  await everything.query("UPDATE keys SET expires_at = now() - interval '1 second'");
  expect(await byKey(late, CALLER)).toEqual({ why: 'key' });

  const player = playerIds[2]!;
  const first = (await newLink(studio, player, 30))!;
  const inside = await tokenBy(byLink(first, CALLER));
  expect(await accessOf(inside)).toMatchObject({ role: 'player', playerId: player, personId: null, studio: studio.studio });
  const second = (await newLink(studio, player, null))!;
  expect(await byLink(first, CALLER)).toEqual({ why: 'link' });
  expect(await accessOf(inside)).toBeNull();
  const again = await tokenBy(byLink(second, CALLER));
  expect(await endLink(studio, player)).toBe(true);
  expect([await byLink(second, CALLER), await accessOf(again)]).toEqual([{ why: 'link' }, null]);
  const short = (await newLink(studio, player, 1))!;
  const short_ = await tokenBy(byLink(short, CALLER));
  await everything.query("UPDATE links SET expires_at = now() - interval '1 second' WHERE expires_at IS NOT NULL");
  expect([await byLink(short, CALLER), await accessOf(short_)]).toEqual([{ why: 'link' }, null]);
});

test('what opens a door is nowhere in the database', async () => {
  const key = (await keyFor(studio, studio.personId!))!;
  const link = (await newLink(studio, playerIds[3]!, null))!;
  const { rows } = await everything.query<{ text: string }>(
    'SELECT to_jsonb(keys)::text AS text FROM keys UNION ALL SELECT to_jsonb(links)::text FROM links UNION ALL SELECT to_jsonb(sessions)::text FROM sessions',
  );
  const session = await tokenBy(byKey((await keyFor(studio, studio.personId!))!, CALLER));
  for (const secret of [key, link, session, Buffer.from(key, 'base64url').toString('hex')]) expect(rows.some(({ text }) => text.includes(secret))).toBe(false);
});

test('pass phrases: weak ones are refused in words, right ones let in, a new one shuts the other browsers out', async () => {
  const id = await addPerson(studio, { name: 'Isolde', role: 'coach' });
  const browser = await tokenBy(byKey((await keyFor(studio, id))!, CALLER));
  for (const [phrase, what] of [
    ['short', /5 letters/],
    ['passwordpassword', /soon be guessed/],
    ['isoldeisolde', /soon be guessed/],
    ['x'.repeat(129), /129 letters/],
  ] as const)
    expect(await changePerson(studio, id, { signIn: 'Isolde', phrase })).toMatchObject({ ok: false, problem: { what: expect.stringMatching(what) } });
  expect(await changePerson(studio, id, { phrase: 'three rivers and a lock' })).toMatchObject({ ok: false, problem: { place: 'name to sign in with' } });
  expect(await changePerson(studio, id, { signIn: ' Isolde ', phrase: 'three rivers and a lock' })).toMatchObject({ ok: true });
  expect(await accessOf(browser)).toBeNull();
  const { rows } = await everything.query<{ pass_hash: string }>('SELECT pass_hash FROM people WHERE id = $1', [id]);
  expect(rows[0]!.pass_hash).toMatch(/^\$argon2id\$v=19\$m=19456,t=2,p=1\$/);
  const inside = await tokenBy(byPhrase('ISOLDE', 'three rivers and a lock', CALLER));
  const isolde = (await accessOf(inside))!;
  expect(isolde).toMatchObject({ role: 'coach', person: 'Isolde', studio: studio.studio });
  expect(await byPhrase('isolde', 'three rivers and a lake', CALLER)).toEqual({ why: 'phrase' });
  expect(await byPhrase('nobody at all', 'three rivers and a lock', CALLER)).toEqual({ why: 'phrase' });
  // Another one for oneself only with the one of today; a name that somebody has is refused.
  expect(await changePerson(isolde, id, { phrase: 'four mills and a weir', current: 'wrong' })).toMatchObject({
    ok: false,
    problem: { place: 'pass phrase of today' },
  });
  expect(await changePerson(isolde, id, { phrase: 'four mills and a weir', current: 'three rivers and a lock' })).toMatchObject({ ok: true });
  expect(await accessOf(inside)).not.toBeNull();
  expect(await changePerson(studio, studio.personId!, { signIn: 'isolde' })).toMatchObject({
    ok: false,
    problem: { what: expect.stringContaining('already') },
  });
  expect(await removePerson(studio, id)).toMatchObject({ ok: true });
  expect([await accessOf(inside), await byPhrase('isolde', 'four mills and a weir', CALLER)]).toEqual([null, { why: 'phrase' }]);
});

test('who tries on and on has to wait, for that name and from that machine; others do not', async () => {
  const id = await addPerson(studio, { name: 'Quill', role: 'coach' });
  await changePerson(studio, id, { signIn: 'quill', phrase: 'three rivers and a lock' });
  const from = (address: string) => ({ ...CALLER, address });
  for (let n = 0; n < 8; n++) expect(await byPhrase('quill', `wrong ${n}`, from(`machine-${n}`))).toEqual({ why: 'phrase' });
  expect(await byPhrase('quill', 'three rivers and a lock', from('machine-9'))).toEqual({ why: 'often' });
  for (let n = 0; n < 40; n++) await byKey('wrong', from('machine-a'));
  expect(await byKey((await keyFor(studio, id))!, from('machine-a'))).toEqual({ why: 'often' });
  expect(await byKey((await keyFor(studio, id))!, from('machine-b'))).toHaveProperty('token');
});

test('a studio keeps an owner; one’s browsers can be shut out by oneself, another’s by the owner alone; and it is written down', async () => {
  expect(await changePerson(studio, studio.personId!, { role: 'coach' })).toMatchObject({ ok: false, problem: { what: 'A studio needs an owner.' } });
  expect(await removePerson(studio, studio.personId!)).toMatchObject({ ok: false });
  expect((await peopleOf(studio)).filter(({ role }) => role === 'owner')).toHaveLength(1);
  const id = await addPerson(studio, { name: 'Merrin', role: 'coach' });
  const [one, two] = [await tokenBy(byKey((await keyFor(studio, id))!, CALLER)), await tokenBy(byKey((await keyFor(studio, id))!, CALLER))];
  const merrin = (await accessOf(one))!;
  expect(await keyFor(merrin, studio.personId!)).toBeNull();
  expect(await endBrowser(merrin, studio.session!)).toBe(false);
  expect((await browsersOf(merrin)).map(({ name }) => name)).toEqual(['Merrin', 'Merrin']);
  expect(await endBrowser(merrin, (await accessOf(two))!.session!)).toBe(true);
  expect([await accessOf(two), (await accessOf(one))?.person]).toEqual([null, 'Merrin']);
  expect(await endBrowser(studio, merrin.session!)).toBe(true);
  const told = (await doingsOf(studio)).map(({ person, what, about }) => `${person} ${what} ${about}`);
  expect(told.slice(0, 6)).toEqual([
    `${studio.person} closed the door to a browser Firefox on Linux`,
    'Merrin closed the door to a browser Firefox on Linux',
    'Merrin came in by a key Firefox on Linux',
    `${studio.person} made a key Merrin`,
    'Merrin came in by a key Firefox on Linux',
    `${studio.person} made a key Merrin`,
  ]);
});
