/**
 * The web door: under which names Omaggio answers, from which pages it may be written to, and what browsers may do with what it
 * sends. Every request passes here before anything of it is looked at. (OWASP ASVS 4.0: V13.2.3, V14.4, V14.5.)
 */
import { randomBytes } from 'node:crypto';
import type { IncomingHttpHeaders } from 'node:http';

export interface Knock {
  method: string;
  /** Path and query. */
  url: string;
  headers: IncomingHttpHeaders;
}

export interface Refusal {
  status: number;
  what: string;
  remedy: string;
}

const METHODS: ReadonlySet<string> = new Set(['GET', 'HEAD', 'POST', 'PUT', 'PATCH', 'DELETE', 'OPTIONS']);
const READING: ReadonlySet<string> = new Set(['GET', 'HEAD', 'OPTIONS']);
export const KNOWN_METHODS = [...METHODS].join(', ');

/** The machine itself, whatever port leads to it: a tunnel or a container may have another one. */
const OWN_HOSTS: ReadonlySet<string> = new Set(['localhost', '127.0.0.1', '[::1]']);

const hostName = (host: string): string => host.toLowerCase().replace(/:\d+$/, '');

/** @param origin the address under which it is served to others (OMAGGIO_ORIGIN); null at home @returns null where it may come in */
export function refusalOf({ method, headers }: Knock, origin: string | null): Refusal | null {
  if (!METHODS.has(method)) return { status: 405, what: 'This method is not known here.', remedy: `Known are ${KNOWN_METHODS}.` };
  const host = headers.host ?? '';
  const served = origin === null ? null : new URL(origin);
  // A page elsewhere may have its own name lead to this machine, and read and write then (DNS rebinding): the name has to be ours.
  if (!OWN_HOSTS.has(hostName(host)) && host.toLowerCase() !== served?.host)
    return {
      status: 421,
      what: 'Omaggio does not go by this name.',
      remedy: 'Open it under the address that bin/start printed, or start it with OMAGGIO_ORIGIN set to the address by which it is to be known.',
    };
  if (READING.has(method)) return null;
  const from = headers.origin;
  const site = headers['sec-fetch-site'];
  const isOurs = from === undefined ? site === undefined || site === 'same-origin' || site === 'none' : isOwnOrigin(from, host, served);
  return isOurs ? null : { status: 403, what: 'The request came from another site.', remedy: 'Use Omaggio from its own address.' };
}

/** Another port of the same machine is another site. */
function isOwnOrigin(from: string, host: string, served: URL | null): boolean {
  if (served && from === served.origin) return true;
  return URL.canParse(from) && new URL(from).host === host.toLowerCase() && OWN_HOSTS.has(hostName(host));
}

/**
 * Of the machine that asks. Served to others a proxy on this machine stands between, and says last in its list whom it has before it;
 * what stands before that, or comes without a proxy, is what a stranger says about themselves.
 */
export function addressOf({ headers }: Knock, socket: string, origin: string | null): string {
  const said = [headers['x-forwarded-for']].flat().join(',').split(',').at(-1)?.trim();
  return (origin !== null && said) || socket;
}

/** For the scripts of one page. */
export const newNonce = (): string => randomBytes(16).toString('base64');

/** What a page may load and run: our own files, and scripts that carry its nonce. Music and charts are drawn with styles of their own. */
export const pagePolicy = (nonce: string): string =>
  [
    "default-src 'self'",
    // Sheets of paper are read by a compiled program of ours.
    `script-src 'self' 'nonce-${nonce}' 'wasm-unsafe-eval'`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self' data:",
    "connect-src 'self'",
    "media-src 'self' blob: data:",
    "worker-src 'self' blob:",
    "object-src 'none'",
    "frame-src 'none'",
    "frame-ancestors 'none'",
    "base-uri 'none'",
    "form-action 'self'",
  ].join('; ');

/** What is no page runs nothing, whatever somebody had in a file of theirs. */
const FILE_POLICY = "default-src 'none'; frame-ancestors 'none'; sandbox";

/** @param isSecure served by https */
export function headersFor(url: string, nonce: string, isSecure: boolean): Record<string, string> {
  return {
    'content-security-policy': url.startsWith('/api/') ? FILE_POLICY : pagePolicy(nonce),
    'x-content-type-options': 'nosniff',
    'x-frame-options': 'DENY',
    'referrer-policy': 'same-origin',
    'cross-origin-opener-policy': 'same-origin',
    'cross-origin-resource-policy': 'same-origin',
    'permissions-policy': 'camera=(), geolocation=(), microphone=(self), payment=(), usb=()',
    ...(isSecure ? { 'strict-transport-security': 'max-age=31536000' } : {}),
  };
}

/** The address that it is served under, as it was told. @throws Error where it is none */
export function originFrom(told: string | undefined): string | null {
  if (!told) return null;
  if (!URL.canParse(told) || !/^https?:$/.test(new URL(told).protocol)) throw new Error(`OMAGGIO_ORIGIN is "${told}": say it as https://music.example.org.`);
  return new URL(told).origin;
}

const LOOPBACK: ReadonlySet<string> = new Set(['127.0.0.1', '::1', 'localhost']);

/** Where it listens: to this machine alone, unless it is served to others from another machine's proxy. @throws Error where it would be open to whoever reaches the port */
export function listensAt(told: string | undefined, origin: string | null): string {
  if (!told || LOOPBACK.has(told)) return told || '127.0.0.1';
  if (origin === null) throw new Error(`OMAGGIO_LISTEN is "${told}": say under which address others open it, too (OMAGGIO_ORIGIN).`);
  return told;
}
