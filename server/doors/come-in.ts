/** How a browser is let in: by a key, by a player's link, with a pass phrase, or as the first one at home. */
import Bowser from 'bowser';
import type { Problem } from '@/core/util/result';
import { db, pool, type OfStudio } from '../db';
import { noteDoing } from './doings';
import { countKnock, forgetKnocks, secondsToWait, type Knocker } from './limits';
import { isPhrase } from './phrase';
import { digest, newToken } from './token';

/** Days that a browser stays in; of a coach counted anew whenever it is used (OWASP ASVS 4.0, 3.3.2 at its first level). */
export const DAYS_IN = 30;

/** Who knocks, as far as can be told. */
export interface Caller {
  /** Of the machine, as the door saw it. */
  address: string;
  /** What the browser calls itself. */
  agent: string;
}

/** "Firefox on Linux". */
export function deviceOf(agent: string): string {
  if (!agent) return 'a program';
  const { browser, os } = Bowser.parse(agent);
  return [browser.name || 'a program', os.name && `on ${os.name}`].filter(Boolean).join(' ').slice(0, 80);
}

type Whose = { personId: string } | { linkId: string };

/** @returns what its cookie has to say from now on */
async function letIn(of: OfStudio, whose: Whose, how: string, { agent }: Caller): Promise<string> {
  const token = newToken();
  const [person, link] = 'personId' in whose ? [whose.personId, null] : [null, whose.linkId];
  const device = deviceOf(agent);
  await db(of).query(
    `INSERT INTO sessions (studio_id, token_hash, person_id, link_id, device, expires_at) VALUES ($1, $2, $3, $4, $5, now() + $6 * interval '1 day')`,
    [of.studio, digest(token), person, link, device, DAYS_IN],
  );
  const { rows } = await db(of).query<{ name: string }>(
    'SELECT name FROM people WHERE id = $1 UNION ALL SELECT players.name FROM links JOIN players ON players.id = player_id WHERE links.id = $2',
    [person, link],
  );
  await noteDoing(db(of), { studio: of.studio, person: rows[0]?.name ?? '' }, `came in ${how}`, device);
  return token;
}

/** Why somebody was not let in. */
export const WHYS = ['key', 'link', 'phrase', 'first', 'often'] as const;
export type Why = (typeof WHYS)[number];

const WORDS: Readonly<Record<Why, Problem>> = {
  key: {
    place: null,
    what: 'This key was used already, or has run out.',
    remedy: 'Each lets in one browser. A new one is made on a device that is in (Studio), or by bin/key.',
  },
  link: { place: null, what: 'This link does not open anything any more.', remedy: 'Ask your teacher for a new one.' },
  phrase: { place: null, what: 'Name and pass phrase do not belong together.', remedy: 'Try again; the owner of the studio can set a new pass phrase.' },
  first: { place: null, what: 'Somebody has come in already.', remedy: 'Use a key, or sign in.' },
  often: { place: null, what: 'That was tried too often in vain.', remedy: 'Wait a quarter of an hour, then try again.' },
};
export const wordsOf = (why: Why): Problem => WORDS[why];

/** What the browser's cookie has to say from now on, or why it stays outside. */
export type Entry = { token: string } | { why: Why };

/** Nobody may try on and on. */
const isTooOften = async (who: Knocker): Promise<boolean> => (await secondsToWait(who)) > 0;

export async function byKey(key: string, caller: Caller): Promise<Entry> {
  if (await isTooOften(caller)) return { why: 'often' };
  const { rows } = await pool().query<{ studio_id: string; person_id: string }>('SELECT * FROM door_key($1)', [digest(key)]);
  if (rows[0]) return { token: await letIn({ studio: rows[0].studio_id }, { personId: rows[0].person_id }, 'by a key', caller) };
  await countKnock(caller);
  return { why: 'key' };
}

export async function byLink(link: string, caller: Caller): Promise<Entry> {
  if (await isTooOften(caller)) return { why: 'often' };
  const { rows } = await pool().query<{ id: string; studio_id: string }>('SELECT * FROM door_link($1)', [digest(link)]);
  if (rows[0]) return { token: await letIn({ studio: rows[0].studio_id }, { linkId: rows[0].id }, 'by their link', caller) };
  await countKnock(caller);
  return { why: 'link' };
}

export async function byPhrase(name: string, phrase: string, { address, agent }: Caller): Promise<Entry> {
  const who = { address, name: signInForm(name) };
  if (await isTooOften(who)) return { why: 'often' };
  const { rows } = await pool().query<{ person_id: string; pass_hash: string; studio_id: string }>('SELECT * FROM door_sign_in($1)', [who.name]);
  if (await isPhrase(rows[0]?.pass_hash ?? null, phrase)) {
    await forgetKnocks(who);
    return { token: await letIn({ studio: rows[0]!.studio_id }, { personId: rows[0]!.person_id }, 'with a pass phrase', { address, agent }) };
  }
  await countKnock(who);
  return { why: 'phrase' };
}

/** At home the first browser ever is the owner's: nobody else was there to ask. Null where somebody was. */
export async function asFirst(caller: Caller): Promise<string | null> {
  const { rows } = await pool().query<{ studio_id: string; person_id: string }>('SELECT * FROM door_first()');
  return rows[0] ? letIn({ studio: rows[0].studio_id }, { personId: rows[0].person_id }, 'as the first browser', caller) : null;
}

/** What can be tried at the door. */
export async function waysIn(): Promise<{ phrases: boolean; unclaimed: boolean }> {
  const { rows } = await pool().query<{ phrases: boolean; unclaimed: boolean }>('SELECT * FROM door_ways()');
  return rows[0]!;
}

/** As names are compared when somebody signs in. */
export const signInForm = (name: string): string => name.normalize('NFKC').trim().toLowerCase();
