import type { Access } from '../../server/access';
import { demoText } from '../support/demo';
import { asked, closeDatabase, everything, openDatabase } from '../support/database';
import { GET as health } from '../../app/api/health/route';
import { POST as takeIn } from '../../app/api/pieces/route';
import { PATCH as patchPiece } from '../../app/api/pieces/[id]/route';
import { GET as marked } from '../../app/api/pieces/[id]/marked/route';
import { GET as music } from '../../app/api/parts/[id]/music/route';
import { POST as engraving } from '../../app/api/parts/[id]/engraving/route';
import { PUT as passages } from '../../app/api/parts/[id]/passages/route';
import { PUT as settings } from '../../app/api/parts/[id]/settings/route';
import { GET as others } from '../../app/api/parts/[id]/others/route';
import { PUT as variant } from '../../app/api/parts/[id]/variants/[playerId]/route';
import { POST as changes } from '../../app/api/markings/[id]/changes/route';
import { LIMITS } from '../../core/util/limits';
import { POST as newPlayer } from '../../app/api/players/route';
import { PUT as player } from '../../app/api/players/[id]/route';
import { markingOfPart } from '../../server/markings';
import { players } from '../../server/players';
import { partSettings } from '../../server/parts';

let studio: Access;
let partId: string;
let pieceId: string;
let markingId: string;
beforeAll(async () => {
  studio = await openDatabase();
  const response = await takeIn(post('/api/pieces?name=low-tide.musicxml', demoText('low-tide')));
  expect(response.status).toBe(201);
  const taken = (await response.json()) as { pieceId: string; firstPartId: string };
  pieceId = taken.pieceId;
  partId = taken.firstPartId;
  markingId = (await markingOfPart(studio, partId)).id;
});
afterAll(closeDatabase);

const address = (path: string) => `http://127.0.0.1${path}`;
function post(path: string, body: BodyInit | object, headers: Record<string, string> = {}, method = 'POST'): Request {
  return asked(address(path), {
    method,
    headers,
    body: typeof body === 'string' || body instanceof Uint8Array ? (body as BodyInit) : JSON.stringify(body),
  });
}
const at = (id: string) => ({ params: Promise.resolve({ id }) });
const NOBODY = '00000000-0000-4000-8000-000000000000';
async function problem(response: Response): Promise<string> {
  const { problem: said } = (await response.json()) as { problem: { place: string | null; what: string; remedy: string } };
  expect(said.remedy.length).toBeGreaterThan(0);
  return `${response.status} ${said.place ?? ''} ${said.what}`;
}

test('the server says that it is there', async () => {
  expect(await (await health()).json()).toMatchObject({ ok: true });
});

describe('taking in', () => {
  test('the same file again is found, not doubled', async () => {
    const again = await takeIn(post('/api/pieces?name=other-name.musicxml', demoText('low-tide')));
    expect([again.status, ((await again.json()) as { known: string }).known]).toEqual([200, 'on the shelf']);
  });
  test('a file over the limit is refused, whether it says its length or not', async () => {
    expect(await problem(await takeIn(post('/api/pieces?name=big.musicxml', 'x', { 'content-length': String(LIMITS.fileBytes + 1) })))).toMatch(
      /^413 big\.musicxml The file is larger than 32 MB/,
    );
    const endless = new ReadableStream({ pull: (controller) => controller.enqueue(new Uint8Array(1 << 20)) });
    const request = asked(address('/api/pieces?name=endless.xml'), { method: 'POST', body: endless, duplex: 'half' } as RequestInit);
    expect(await problem(await takeIn(request))).toMatch(/^413 endless\.xml/);
  });
  test('of a name with a way through folders only the name is kept', async () => {
    for (const name of ['../../etc/tune.xml', '..\\..\\tune.xml', '/tune.xml'])
      expect(await problem(await takeIn(post(`/api/pieces?name=${encodeURIComponent(name)}`, '')))).toMatch(/^422 tune\.xml The file/);
  });
  test('an empty body is an empty file', async () => {
    expect(await problem(await takeIn(post('/api/pieces?name=empty.xml', '')))).toMatch(/^422 empty\.xml The file is empty/);
  });
});

describe('what is not there, or not ours to change', () => {
  test('is answered with 404 and a way back', async () => {
    for (const id of [NOBODY, 'not-an-id']) {
      expect((await music(asked(address('/')), at(id))).status).toBe(404);
      expect((await marked(asked(address('/')), at(id))).status).toBe(404);
      expect((await engraving(post('/', { fromBar: 0, toBar: 1, widthPx: 700, marking: {} }), at(id))).status).toBe(404);
      expect((await passages(post('/', { from: null, to: [] }, {}, 'PUT'), at(id))).status).toBe(404);
      expect((await settings(post('/', {}, {}, 'PUT'), at(id))).status).toBe(404);
      expect((await patchPiece(post('/', { onShelf: true }, {}, 'PATCH'), at(id))).status === 404 || id === NOBODY).toBe(true);
    }
    expect(await problem(await changes(post('/', [set()]), at(NOBODY)))).toMatch(/^404/);
  });
});

const set = (to = '1') => ({
  id: crypto.randomUUID(),
  at: '2030-01-01T00:00:00.000Z',
  reason: 'Finger',
  undoes: null,
  version: 2,
  changes: [{ target: 'n-0-1-0-A2-0', kind: 'finger', from: null, to: { value: to, origin: 'coach' } }],
});

describe('nonsense is refused with the place in it', () => {
  test.each([
    ['no JSON', 'x'],
    ['no list', {}],
    ['an empty list', []],
    ['too many sets', Array.from({ length: 101 }, () => set())],
  ])('changes: %s', async (_, body) => expect(await problem(await changes(post('/', body), at(markingId)))).toMatch(/^400/));
  test.each([
    ['an unknown finger', set('7'), 'value', 'is no finger'],
    ['an id that is none', { ...set(), id: '7' }, 'id', 'Invalid UUID'],
    ['a time that is none', { ...set(), at: 'yesterday' }, 'at', 'Invalid ISO datetime'],
    ['a reason that is too long', { ...set(), reason: 'x'.repeat(LIMITS.reason + 1) }, 'reason', 'more than 300 characters'],
    ['U+0000', { ...set(), changes: [{ ...set().changes[0]!, kind: 'words', to: { value: 'dolce\u0000', origin: 'coach' } }] }, 'value', 'no file can hold'],
    ['half of a sign', { ...set(), reason: '\uD83C' }, 'reason', 'no file can hold'],
  ])('changes: %s is refused for good, by name', async (_, bad, place, what) => {
    const response = await changes(post('/', [bad, set('2')]), at(markingId));
    expect(response.status).toBe(422);
    expect(await response.json()).toMatchObject({ stored: [], refused: { id: bad.id, problem: { place, what: expect.stringContaining(what) } }, clash: null });
  });
  test('a body over the limit is refused before it is read', async () => {
    const large = { 'content-length': String(LIMITS.requestBytes + 1) };
    expect(await problem(await changes(post('/', [set()], large), at(markingId)))).toMatch(/^413/);
    expect(await problem(await settings(post('/', {}, large, 'PUT'), at(partId)))).toMatch(/^413/);
  });
  test.each([
    ['a passage after the last bar', [{ name: 'A', fromBar: 30, toBar: 32 }], /^422 A The passage ends after the last bar/],
    ['a passage that ends before it begins', [{ name: 'A', fromBar: 3, toBar: 2 }], /^400/],
    ['a passage without a name', [{ name: '  ', fromBar: 1, toBar: 2 }], /^400/],
  ])('passages: %s', async (_, body, message) =>
    expect(await problem(await passages(post('/', { from: null, to: body }, {}, 'PUT'), at(partId)))).toMatch(message),
  );
  test('engraving: bars that the part does not have, a width of nothing', async () => {
    expect(await problem(await engraving(post('/', { fromBar: 0, toBar: 400, widthPx: 700, marking: {} }), at(partId)))).toMatch(/^422/);
    expect(await problem(await engraving(post('/', { fromBar: 0, toBar: 4, widthPx: 0, marking: {} }), at(partId)))).toMatch(/^400 widthPx/);
  });
  test('settings: a tempo that nobody plays', async () => {
    expect(await problem(await settings(post('/', { tempo: 5000 }, {}, 'PUT'), at(partId)))).toMatch(/^400 tempo/);
  });
});

describe('what is well said is done', () => {
  test('changes are stored once, a clash is answered with what is stored', async () => {
    const first = set('1');
    expect((await changes(post('/', [first]), at(markingId))).status).toBe(200);
    expect((await changes(post('/', [first]), at(markingId))).status).toBe(200);
    const clash = await changes(post('/', [set('2')]), at(markingId));
    expect(clash.status).toBe(409);
    expect(await clash.json()).toMatchObject({ stored: [], refused: null, clash: { conflicts: [{ stored: { value: '1' } }] } });
  });
  test('one setting leaves the other alone', async () => {
    await settings(post('/', { tempo: 72 }, {}, 'PUT'), at(partId));
    await settings(post('/', { playerId: null }, {}, 'PUT'), at(partId));
    expect(await partSettings(studio, partId)).toMatchObject({ playerId: null, tempo: 72, instrument: null, sounds: 'file', section: null, line: 0 });
  });
  test('passages that somebody else changed meanwhile are not written over', async () => {
    const put = async (from: object[] | null, to: object[]) => {
      const response = await passages(post('/', { from, to }, {}, 'PUT'), at(partId));
      return [response.status, ((await response.json()) as { passages: Array<{ name: string }> }).passages.map(({ name }) => name)];
    };
    const [a, b, c] = ['A', 'B\u0001', 'C'].map((name, i) => ({ name, fromBar: 2 * i, toBar: 2 * i + 1 }));
    expect(await put(null, [a!, b!])).toEqual([200, ['A', 'B']]);
    expect(await put([a!], [a!, c!])).toEqual([409, ['A', 'B']]);
    expect(await put([a!, b!], [a!, c!])).toEqual([200, ['A', 'C']]);
    expect(await put([a!, b!], [a!, c!])).toEqual([200, ['A', 'C']]);
  });
  test('findings are accepted and taken up again one by one, up to a limit', async () => {
    const put = (body: object) => settings(post('/', body, {}, 'PUT'), at(partId));
    const accepted = async () => (await partSettings(studio, partId)).accepted.map(({ id, why }) => `${id} ${why}`);
    const one = (id: string, why = '') => ({ id, key: 'k', why });
    await Promise.all([put({ accept: [one('a', 'she\u000B can')] }), put({ accept: [one('b')] })]);
    expect((await accepted()).sort()).toEqual(['a she can', 'b ']);
    await put({ accept: [one('a', 'again')], release: ['b'] });
    expect(await accepted()).toEqual(['a again']);
    expect(await problem(await put({ accept: Array.from({ length: 2000 }, (_, i) => one(`n${i}`)) }))).toMatch(/^422 accepted findings/);
    expect(await problem(await put({ accept: [one('c', 'x'.repeat(601))] }))).toMatch(/^400 accept\.0\.why/);
    expect(await accepted()).toEqual(['a again']);
    await put({ release: ['a'] });
  });
  test('the marked part comes as a file with a name that every system takes', async () => {
    const response = await marked(asked(address(`/api/pieces/${pieceId}/marked?part=${partId}`)), at(pieceId));
    expect(response.headers.get('content-disposition')).toBe(
      `attachment; filename="low-tide (Double Bass, marked).musicxml"; filename*=UTF-8''low-tide%20(Double%20Bass%2C%20marked).musicxml`,
    );
    expect(await response.text()).toContain('<fingering>1</fingering>');
  });
  test('a passage is engraved with the marks that are sent, stored or not', async () => {
    const response = await engraving(
      post('/', { fromBar: 0, toBar: 3, widthPx: 700, marking: { 'n-0-1-0-A2-0|finger': { value: '4', origin: 'coach' } } }),
      at(partId),
    );
    const { systems } = (await response.json()) as { systems: Array<{ svg: string }> };
    expect(systems[0]!.svg).toContain('class="fing"');
  });
});

describe('players', () => {
  let id: string;
  beforeAll(async () => {
    const { rows } = await everything.query<{ id: string }>(
      "INSERT INTO players (studio_id, name, instrument, size, hand, level) VALUES ($1, 'Robin', 'bass', '3/4', 'medium', 'advanced') RETURNING id",
      [studio.studio],
    );
    id = rows[0]!.id;
  });
  const put = (who: string, body: object) => player(post(`/api/players/${who}`, body, {}, 'PUT'), at(who));
  const robin = async () => (await players(studio)).find((each) => each.id === id)!;
  test('a measured hand and a school are kept, one without the other', async () => {
    expect((await put(id, { measured: { comfortable: 80, greatest: 95 } })).status).toBe(200);
    expect((await put(id, { technique: { bassFingers: 'four' } })).status).toBe(200);
    expect(await robin()).toMatchObject({ measured: { comfortable: 80, greatest: 95 }, technique: { bassFingers: 'four' } });
    expect((await put(id, { hand: 'small', measured: null })).status).toBe(200);
    expect(await robin()).toMatchObject({ hand: 'small', measured: null, technique: { bassFingers: 'four' } });
  });
  test('what cannot be is refused with its place, and nothing is changed', async () => {
    const before = await robin();
    expect(await problem(await put(id, { measured: { comfortable: 90, greatest: 60 } }))).toMatch(/^400 measured\.greatest The greatest spread is less/);
    expect(await problem(await put(id, { hand: 'huge' }))).toMatch(/^400 hand/);
    expect(await robin()).toEqual(before);
  });
  test('a player is made, changed, taken out of the list and put back; an instrument that cannot be is refused', async () => {
    const said = {
      name: 'Kim',
      instrument: 'cello',
      size: '1/2',
      tuning: 'orchestral',
      hand: 'small',
      measured: null,
      technique: {},
      level: 'beginner',
      thumbPosition: false,
    };
    const made = await newPlayer(post('/api/players', said));
    expect(made.status).toBe(201);
    const { id: kim } = (await made.json()) as { id: string };
    const listed = async () => (await players(studio)).find((each) => each.id === kim);
    expect(await listed()).toMatchObject({ name: 'Kim', size: '1/2', level: 'beginner' });
    expect((await put(kim, { size: '3/4', level: 'intermediate' })).status).toBe(200);
    expect(await listed()).toMatchObject({ size: '3/4', level: 'intermediate', hand: 'small' });
    expect((await put(kim, { removed: true })).status).toBe(200);
    expect(await listed()).toBeUndefined();
    expect((await put(kim, { removed: false })).status).toBe(200);
    expect(await listed()).toMatchObject({ name: 'Kim' });
    expect(await problem(await newPlayer(post('/api/players', { ...said, size: '9/9' })))).toMatch(/^422 size "9\/9"/);
    expect(await problem(await newPlayer(post('/api/players', { ...said, name: ' ' })))).toMatch(/^400 name/);
    expect(await problem(await put(kim, { tuning: 'G3,xx' }))).toMatch(/^422 tuning/);
  });
  test('nobody has no hand', async () => {
    expect(await problem(await put(NOBODY, { hand: 'small' }))).toMatch(/^404/);
    expect(await problem(await put('someone', { hand: 'small' }))).toMatch(/^404/);
  });
});

describe('marks of one player alone', () => {
  let robin: string;
  beforeAll(async () => {
    robin = (await players(studio)).find(({ name }) => name === 'Robin')!.id;
  });
  const own = (part: string, who: string) =>
    variant(post(`/api/parts/${part}/variants/${who}`, {}, {}, 'PUT'), { params: Promise.resolve({ id: part, playerId: who }) });
  const file = async (query: string) => {
    const response = await marked(asked(address(`/api/pieces/${pieceId}/marked?part=${partId}${query}`)), at(pieceId));
    return { name: response.headers.get('content-disposition'), text: await response.text(), status: response.status };
  };
  test('are begun once, stored apart, and go out with this player’s file only', async () => {
    const first = (await (await own(partId, robin)).json()) as { markingId: string; marking: object };
    expect(first).toMatchObject({ playerId: robin, marking: {}, history: [] });
    expect(first.markingId).not.toBe(markingId);
    const target = Object.keys((await markingOfPart(studio, partId)).marking)[0]!.split('|')[0]!;
    const change = { target, kind: 'finger', from: null, to: { value: '4', origin: 'coach' } };
    const stored = { id: crypto.randomUUID(), at: new Date().toISOString(), reason: 'Robin: finger 4', undoes: null, version: 2, changes: [change] };
    expect((await changes(post('/', [stored]), at(first.markingId))).status).toBe(200);
    const again = (await (await own(partId, robin)).json()) as { markingId: string; marking: object; history: unknown[] };
    expect(again).toMatchObject({ markingId: first.markingId, marking: { [`${target}|finger`]: { value: '4' } } });
    expect(again.history).toHaveLength(1);
    expect((await markingOfPart(studio, partId)).marking[`${target}|finger`]!.value).toBe('1');
    expect((await file('')).text).toContain('<fingering>1</fingering>');
    const robins = await file(`&player=${robin}`);
    expect(robins.text).toContain('<fingering>4</fingering>');
    expect(robins.name).toContain('low-tide (Double Bass, marked for Robin).musicxml');
  });
  test('of a player or part that is not there there are none', async () => {
    expect(await problem(await own(partId, NOBODY))).toMatch(/^404/);
    expect(await problem(await own(NOBODY, robin))).toMatch(/^404/);
    expect(await problem(await own(partId, 'someone'))).toMatch(/^404/);
    expect((await file('&player=someone')).status).toBe(404);
  });
});

test('the other parts of a piece come with their music and marks; a piece of one part has none', async () => {
  expect(await (await others(asked(address('/')), at(partId))).json()).toEqual([]);
  const response = await takeIn(post('/api/pieces?name=serenade.musicxml', demoText('mill-race-serenade')));
  const { firstPartId } = (await response.json()) as { firstPartId: string };
  const rest = (await (await others(asked(address('/')), at(firstPartId))).json()) as Array<{
    name: string;
    music: string;
    marking: object;
    markingId: string;
  }>;
  expect(rest.map(({ name }) => name)).toEqual(['Violin II', 'Viola', 'Cello', 'Double Bass']);
  for (const { music: text, markingId: id } of rest) {
    expect(text).toContain('<score-partwise');
    expect(id).toMatch(/^[0-9a-f-]{36}$/);
  }
  expect(await problem(await others(asked(address('/')), at(NOBODY)))).toMatch(/^404/);
});
