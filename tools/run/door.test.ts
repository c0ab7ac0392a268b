import type { IncomingHttpHeaders } from 'node:http';
import { addressOf, headersFor, listensAt, newNonce, originFrom, pagePolicy, refusalOf } from './door';

const at = (method: string, headers: IncomingHttpHeaders, origin: string | null = null) =>
  refusalOf({ method, url: '/', headers: { host: '127.0.0.1:3000', ...headers } }, origin)?.status ?? 'in';

describe('at home', () => {
  test.each<[string, IncomingHttpHeaders, number | 'in']>([
    ['the address that was printed', {}, 'in'],
    ['its name', { host: 'localhost:3000' }, 'in'],
    ['in capitals', { host: 'LocalHost:3000' }, 'in'],
    ['another port, as through a tunnel', { host: 'localhost:8080' }, 'in'],
    ['the newer numbers', { host: '[::1]:3000' }, 'in'],
    ['a name that was led here', { host: 'rebound.example.com:3000' }, 421],
    ['one that only begins like ours', { host: 'localhost.example.com' }, 421],
    ['one that only ends like ours', { host: 'notlocalhost' }, 421],
    ['none', { host: undefined }, 421],
  ])('read under %s', (_, headers, is) => expect(at('GET', headers)).toBe(is));

  test.each<[string, IncomingHttpHeaders, number | 'in']>([
    ['its own page', { origin: 'http://127.0.0.1:3000' }, 'in'],
    ['its own page under its other name', { host: 'localhost:3000', origin: 'http://localhost:3000' }, 'in'],
    ['a page on another port of the same machine', { origin: 'http://127.0.0.1:8000' }, 403],
    ['a page under the other name', { origin: 'http://localhost:3000' }, 403],
    ['another site', { origin: 'https://example.com' }, 403],
    ['a file or a frame without a place', { origin: 'null' }, 403],
    ['something that is no place', { origin: '127.0.0.1:3000' }, 403],
    ['a program, which says no place', {}, 'in'],
    ['a browser that says no place, on its own page', { 'sec-fetch-site': 'same-origin' }, 'in'],
    ['a browser that says no place, on another port', { 'sec-fetch-site': 'same-site' }, 403],
    ['a browser that says no place, on another site', { 'sec-fetch-site': 'cross-site' }, 403],
    ['a name that was led here, from itself', { host: 'rebound.example.com', origin: 'http://rebound.example.com' }, 421],
  ])('written from %s', (_, headers, is) => {
    for (const method of ['POST', 'PUT', 'PATCH', 'DELETE']) expect(at(method, headers)).toBe(is);
  });

  test('reading from elsewhere is the browser’s own matter; what is no method is refused', () => {
    expect(at('GET', { origin: 'https://example.com' })).toBe('in');
    expect(at('HEAD', { origin: 'https://example.com' })).toBe('in');
    expect([at('TRACE', {}), at('', {})]).toEqual([405, 405]);
  });
});

test('served to others: under its address, from its address, and on the machine itself', () => {
  const origin = originFrom('https://music.example.org/');
  expect(origin).toBe('https://music.example.org');
  expect(at('GET', { host: 'music.example.org' }, origin)).toBe('in');
  expect(at('POST', { host: 'music.example.org', origin: 'https://music.example.org' }, origin)).toBe('in');
  expect(at('POST', { host: 'music.example.org', origin: 'http://music.example.org' }, origin)).toBe(403);
  expect(at('GET', { host: 'music.example.org:8443' }, origin)).toBe(421);
  expect(at('GET', { host: 'example.org' }, origin)).toBe(421);
  expect(at('GET', { host: '127.0.0.1:3000' }, origin)).toBe('in');
  expect([originFrom(undefined), originFrom('')]).toEqual([null, null]);
  expect(() => originFrom('music.example.org')).toThrow('say it as https://music.example.org.');
  expect(() => originFrom('ftp://music.example.org')).toThrow('OMAGGIO_ORIGIN');
});

describe('what browsers may do with it', () => {
  test('every nonce is another one, of at least 128 bits', () => {
    const many = new Set(Array.from({ length: 100 }, newNonce));
    expect(many.size).toBe(100);
    for (const nonce of many) expect(Buffer.from(nonce, 'base64')).toHaveLength(16);
  });
  test('a page runs our scripts and those with its nonce, is framed by nobody, and sends nothing elsewhere', () => {
    const policy = new Map(
      pagePolicy('abc')
        .split('; ')
        .map((rule) => [rule.split(' ')[0]!, rule.split(' ').slice(1)]),
    );
    expect(policy.get('script-src')).toEqual(["'self'", "'nonce-abc'", "'wasm-unsafe-eval'"]);
    for (const name of ['object-src', 'frame-src', 'frame-ancestors', 'base-uri']) expect(policy.get(name)).toEqual(["'none'"]);
    for (const name of ['default-src', 'connect-src', 'form-action']) expect(policy.get(name)).toEqual(["'self'"]);
  });
  test('what is no page runs nothing; by https the browser is told to stay with it', () => {
    expect(headersFor('/api/parts/x/music?v=1', 'abc', false)['content-security-policy']).toBe("default-src 'none'; frame-ancestors 'none'; sandbox");
    expect(headersFor('/apiary', 'abc', false)['content-security-policy']).toContain("'nonce-abc'");
    expect(headersFor('/', 'abc', false)).toMatchObject({
      'x-content-type-options': 'nosniff',
      'x-frame-options': 'DENY',
      'referrer-policy': 'same-origin',
      'cross-origin-resource-policy': 'same-origin',
    });
    expect('strict-transport-security' in headersFor('/', 'abc', false)).toBe(false);
    expect(headersFor('/', 'abc', true)['strict-transport-security']).toMatch(/^max-age=31536000$/);
  });
});

test('of which machine somebody is: at home what the socket says; behind a proxy the last one in its list, whatever stands before it', () => {
  const from = (forwarded: string | undefined, origin: string | null) =>
    addressOf({ method: 'GET', url: '/', headers: forwarded === undefined ? {} : { 'x-forwarded-for': forwarded } }, '127.0.0.1', origin);
  expect(from('203.0.113.7', null)).toBe('127.0.0.1');
  expect(from(undefined, 'https://music.example.org')).toBe('127.0.0.1');
  expect(from('203.0.113.7', 'https://music.example.org')).toBe('203.0.113.7');
  expect(from('I am trusted, 198.51.100.1, 203.0.113.7', 'https://music.example.org')).toBe('203.0.113.7');
  expect(from('', 'https://music.example.org')).toBe('127.0.0.1');
});

test('it listens to this machine alone, and to others only under an address of its own', () => {
  expect(listensAt(undefined, null)).toBe('127.0.0.1');
  expect(listensAt('', null)).toBe('127.0.0.1');
  expect(listensAt('::1', null)).toBe('::1');
  expect(listensAt('0.0.0.0', 'https://music.example.org')).toBe('0.0.0.0');
  expect(() => listensAt('0.0.0.0', null)).toThrow('OMAGGIO_ORIGIN');
});
