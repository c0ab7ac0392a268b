/**
 * Writers and a real browser make changes while server, database, start or browser are killed without warning. In the end every
 * change that was acknowledged is stored once, and every change that the browser said it had kept is stored.
 */
import { spawn, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium, type Browser, type Page } from '@playwright/test';
import pg from 'pg';
import { CHROMIUM, CHROMIUM_ARGS } from './chromium';
import { ask } from '../../tools/run/ask';
import { browserCookie, type Inside } from './come-in';
import { answers, freePort, processesOf, start, stop, until, type Started } from './omaggio';

export type Victim = 'server' | 'database' | 'start' | 'browser' | 'all' | 'other server' | 'other start';
const VICTIMS: readonly Victim[] = ['server', 'database', 'start', 'browser', 'all'];
/** With two servers on one database, which goes on by the address that it has. */
const VICTIMS_OF_TWO: readonly Victim[] = ['server', 'other server', 'database', 'other start', 'browser'];

export interface DurabilityResult {
  rounds: number;
  /** Change sets that the server said it had stored. */
  acknowledged: number;
  /** Of those, how many are stored: has to be the same. */
  found: number;
  /** Stored more than once. */
  doubled: number;
  /** Marks that the browser said were kept or saved. */
  saidKept: number;
  /** Of those, marks that are not stored in the end. */
  lost: string[];
}

export interface DurabilityOptions {
  rounds: number;
  /** Makes the moments of the kills the same each time. */
  seed: number;
  /** A second server on the database of the first; half of the writers use it. */
  twoServers?: boolean;
  report?(line: string): void;
}

/** Small numbers from a seed (a linear congruential generator; from memory, Numerical Recipes). */
function chances(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return state / 2 ** 32;
  };
}

export async function durability({ rounds, seed, twoServers = false, report = () => undefined }: DurabilityOptions): Promise<DurabilityResult> {
  const folder = mkdtempSync(path.join(tmpdir(), 'omaggio-durable-'));
  const data = path.join(folder, 'data');
  const more = { OMAGGIO_DATA: data, PORT: freePort() };
  const url = `http://127.0.0.1:${more.PORT}`;
  const chance = chances(seed);
  let omaggio = await start(more);
  const stage = await stageOf(data);
  const victims = twoServers ? VICTIMS_OF_TWO : VICTIMS;
  const moreOfOther = { OMAGGIO_DATA: path.join(folder, 'other'), PORT: freePort(), DATABASE_URL: administratorOf(data) };
  let other = twoServers ? await start(moreOfOther) : null;
  // Two of them write into one marking from different servers.
  const writers = Array.from({ length: 4 }, (_, i) => new Writer((i % 2 && other) || omaggio, stage.markings[(i >> 1) % stage.markings.length]!, i));
  const teacher = new Teacher(omaggio, `${url}/desk/${stage.deskPart}`, path.join(folder, 'profile'));
  try {
    writers.forEach((writer) => writer.begin());
    await teacher.open();
    for (let round = 0; round < rounds; round++) {
      const victim = victims[round % victims.length]!;
      const marking = teacher.marks(round);
      // Every other time something is said to be kept before it all goes down, however slow the machine is; else it may still be loading.
      if (round % 2 === 0) await Promise.race([teacher.firstKept, marking]);
      const kill = new Promise((resolve) => setTimeout(resolve, 400 + chance() * 2_500)).then(() => killNow(victim, omaggio, other, teacher));
      await marking;
      await kill;
      if (victim === 'start' || victim === 'all') omaggio = await start(more);
      else await until('Omaggio answers again', () => answers(url));
      if (victim === 'other start') other = await start(moreOfOther);
      else if (other) await until('the other one answers again', () => answers(other!.url));
      if (victim === 'browser' || victim === 'all') await teacher.open();
      report(
        `round ${round + 1}: killed ${victim}; ${writers.reduce((sum, { acknowledged }) => sum + acknowledged.length, 0)} acknowledged, ${teacher.said.size} kept`,
      );
    }
    await Promise.all(writers.map((writer) => writer.end()));
    await teacher.allSaved();
    const acknowledged = writers.flatMap((writer) => writer.acknowledged);
    const state = await stored(data, stage.deskPart);
    return {
      rounds,
      acknowledged: acknowledged.length,
      found: acknowledged.filter((id) => state.sets.has(id)).length,
      doubled: state.doubled,
      saidKept: teacher.said.size,
      lost: [...teacher.said]
        .filter(([nth, finger]) => state.fingerOf(nth) !== finger && !teacher.unsure.get(nth)?.has(state.fingerOf(nth) ?? ''))
        .map(([nth, finger]) => `note ${nth}: ${finger}, stored ${state.fingerOf(nth)}`),
    };
  } finally {
    await Promise.all(writers.map((writer) => writer.end()));
    teacher.kill();
    if (other) await stop(other, 'SIGTERM');
    await stop(omaggio, 'SIGTERM');
    rmSync(folder, { recursive: true, force: true, maxRetries: 5 });
  }
}

function killNow(victim: Victim, omaggio: Started, other: Started | null, teacher: Teacher): void {
  const { server, database } = processesOf(omaggio);
  const pids = {
    server,
    database,
    start: [omaggio.child.pid!],
    browser: [],
    all: [omaggio.child.pid!, ...server, ...database],
    'other server': other ? processesOf(other).server : [],
    'other start': other ? [other.child.pid!] : [],
  }[victim];
  if (victim === 'browser' || victim === 'all') teacher.kill();
  for (const pid of pids) {
    try {
      process.kill(pid, 'SIGKILL');
    } catch {
      // It was being started again.
    }
  }
  omaggio.child.removeAllListeners('exit');
  other?.child.removeAllListeners('exit');
}

/** The database of a data folder as its administrator opens it. */
function administratorOf(data: string): string {
  const { databasePort } = JSON.parse(readFileSync(path.join(data, 'running.json'), 'utf8')) as { databasePort: number };
  return `postgres://omaggio:${readFileSync(path.join(data, 'password'), 'utf8')}@127.0.0.1:${databasePort}/omaggio`;
}

async function withDatabase<T>(data: string, work: (client: pg.Client) => Promise<T>): Promise<T> {
  const client = new pg.Client({ connectionString: administratorOf(data) });
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end();
  }
}

const stageOf = (data: string) =>
  withDatabase(data, async (client) => {
    const { rows } = await client.query<{ id: string; part: string; title: string }>(
      'SELECT markings.id, part_id AS part, title FROM markings JOIN parts ON parts.id = part_id JOIN pieces ON pieces.id = piece_id ORDER BY title, position',
    );
    const desk = rows.find(({ title }) => title === 'Staircase')!;
    return { deskPart: desk.part, markings: rows.filter(({ part }) => part !== desk.part).map(({ id }) => id) };
  });

const stored = (data: string, deskPart: string) =>
  withDatabase(data, async (client) => {
    const sets = await client.query<{ id: string }>('SELECT id FROM change_sets');
    const marks = await client.query<{ target: string; value: string }>(
      "SELECT target, value FROM marks JOIN markings ON markings.id = marking_id WHERE part_id = $1 AND kind = 'finger' AND value <> 'none'",
      [deskPart],
    );
    const music = await client.query<{ music: string }>('SELECT music FROM parts WHERE id = $1', [deskPart]);
    const { readPartDocument } = await import('../../core/formats/musicxml/part-document');
    const read = readPartDocument(music.rows[0]!.music);
    if (!read.ok) throw new Error(read.problem.what);
    const notes = read.value.score.parts[0]!.notes;
    const byTarget = new Map(marks.rows.map(({ target, value }) => [target, value]));
    return {
      sets: new Set(sets.rows.map(({ id }) => id)),
      doubled: sets.rows.length - new Set(sets.rows.map(({ id }) => id)).size,
      fingerOf: (nth: number) => byTarget.get(notes[nth - 1]!.id) ?? null,
    };
  });

/** Marks by the API as fast as it is answered; remembers what was acknowledged, and sends again what was not. */
class Writer {
  readonly acknowledged: string[] = [];
  private going = true;
  private done: Promise<void> = Promise.resolve();

  constructor(
    private readonly inside: Inside,
    private readonly marking: string,
    private readonly number: number,
  ) {}

  begin(): void {
    this.done = this.write();
  }

  async end(): Promise<void> {
    this.going = false;
    await this.done;
  }

  private async write(): Promise<void> {
    for (let n = 0; this.going; n++) {
      const set = {
        id: randomUUID(),
        at: new Date().toISOString(),
        reason: `Writer ${this.number}, ${n}`,
        undoes: null,
        version: 2,
        changes: [{ target: `at-${this.number}-${n}`, kind: 'text', from: null, to: { value: `w${n}`, origin: 'coach' } }],
      };
      while (this.going && !(await this.isStored(set))) await new Promise((resolve) => setTimeout(resolve, 150));
      await new Promise((resolve) => setTimeout(resolve, 15));
    }
  }

  private async isStored(set: { id: string }): Promise<boolean> {
    const answer = await ask(`${this.inside.url}/api/markings/${this.marking}/changes`, {
      within: 10_000,
      method: 'POST',
      headers: { cookie: this.inside.cookie, 'content-type': 'application/json' },
      body: JSON.stringify([set]),
    }).catch(() => null);
    if (answer?.status !== 200 || !(JSON.parse(answer.text) as { stored: string[] }).stored.includes(set.id)) return false;
    this.acknowledged.push(set.id);
    return true;
  }
}

const FINGERS = ['1', '2', '3', '4'];
const NOTES = 12;

/** Somebody who marks in a real browser, and believes what the screen says. */
class Teacher {
  /** Finger by note, as the screen last said it was kept. */
  readonly said = new Map<number, string | null>();
  /** Fingers that were pressed and of which the screen had said nothing yet when it all went down: they may be stored or not. */
  readonly unsure = new Map<number, Set<string>>();
  /** Of the round: something was said to be kept. */
  firstKept: Promise<void> = Promise.resolve();
  private chrome: ChildProcess | null = null;
  private browser: Browser | null = null;
  private page: Page | null = null;

  constructor(
    private readonly inside: Inside,
    private readonly url: string,
    private readonly profile: string,
  ) {}

  async open(): Promise<void> {
    this.kill();
    const port = freePort();
    this.chrome = spawn(CHROMIUM, ['--headless', ...CHROMIUM_ARGS, `--user-data-dir=${this.profile}`, `--remote-debugging-port=${port}`, 'about:blank'], {
      stdio: 'ignore',
      detached: true,
    });
    await until('the browser', async () => (await ask(`http://127.0.0.1:${port}/json/version`, { within: 10_000 }).catch(() => null))?.ok ?? false);
    this.browser = await chromium.connectOverCDP(`http://127.0.0.1:${port}`);
    const context = this.browser.contexts()[0]!;
    await context.addCookies([browserCookie(this.inside)]);
    this.page = context.pages()[0] ?? (await context.newPage());
    await this.visit();
  }

  private async visit(): Promise<void> {
    const page = this.page!;
    for (let tries = 0; tries < 60; tries++) {
      const gone = await page.goto(this.url, { timeout: 10_000 }).catch(() => null);
      if (
        gone?.ok() &&
        (await page
          .locator('[data-report=true]')
          .waitFor({ timeout: 15_000 })
          .then(
            () => true,
            () => false,
          ))
      )
        return;
      await new Promise((resolve) => setTimeout(resolve, 500));
    }
    throw new Error('the Desk does not come');
  }

  /** Marks notes one after the other until the page is gone or all are marked. */
  async marks(round: number): Promise<void> {
    const finger = FINGERS[round % FINGERS.length]!;
    let tellKept = (): void => undefined;
    this.firstKept = new Promise((resolve) => (tellKept = resolve));
    try {
      const page = this.page!;
      if (!page.url().startsWith(this.url)) await this.visit();
      await page.goto(this.url, { timeout: 60_000 }).catch(() => undefined);
      await page.locator('[data-report=true]').waitFor({ timeout: 60_000 });
      await page.locator('[role=group][aria-label^=Score]').focus();
      for (let nth = 1; nth <= NOTES; nth++) {
        await page.keyboard.press('ArrowRight');
        this.unsure.set(nth, new Set([...(this.unsure.get(nth) ?? []), finger, '']));
        await page.keyboard.press(finger);
        await page.locator('[data-save=saved], [data-save=waiting]').waitFor({ timeout: 20_000 });
        // The same key again takes a finger away: what counts is what the screen says.
        this.said.set(nth, /finger ([0-4T])/.exec((await page.locator('#status').textContent()) ?? '')?.[1] ?? null);
        this.unsure.delete(nth);
        tellKept();
      }
    } catch {
      // The browser or the server was killed: what it had said so far counts.
    }
  }

  async allSaved(): Promise<void> {
    await this.visit();
    const chip = this.page!.locator('[data-save]');
    const state = () => chip.getAttribute('data-save', { timeout: 60_000 });
    // However long a slow machine takes: but if it never is, what the screen says instead is told.
    await until('everything is saved', async () => (await state()) === 'saved').catch(async () => {
      throw new Error(`In the end the screen says "${await state()}".`);
    });
  }

  kill(): void {
    if (this.chrome?.pid) {
      try {
        process.kill(-this.chrome.pid, 'SIGKILL');
      } catch {
        // It was gone already.
      }
    }
    this.chrome = null;
    void this.browser?.close().catch(() => undefined);
    this.browser = null;
    this.page = null;
  }
}
