/** A studio as the first version of the records left it: nothing has moved when it is opened today. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import pg from 'pg';
import { marksFile } from '../../core/formats/marks-file';
import { readPartDocument } from '../../core/formats/musicxml/part-document';
import { parseHairpin } from '../../core/marking/values';
import { quartersOf } from '../../core/score/ticks';
import { closeDatabase, freshUrl, prepare } from '../support/database';

/** Every mark of it in words, as the first version said them: place, what it stands at, kind, value. */
const before = JSON.parse(readFileSync('tests/data/first-version.json', 'utf8')) as Record<string, string[]>;

let client: pg.Client;
let said: string;
const backups = mkdtempSync(path.join(tmpdir(), 'omaggio-forward-'));

beforeAll(async () => {
  const url = freshUrl();
  const server = new URL(process.env.DATABASE_URL!);
  server.pathname = '/postgres';
  const anywhere = new pg.Client({ connectionString: server.href });
  await anywhere.connect();
  await anywhere.query(`CREATE DATABASE ${new URL(url).pathname.slice(1)}`);
  await anywhere.end();
  const newest = readdirSync('/usr/lib/postgresql').sort((a, b) => Number(b) - Number(a))[0]!;
  const restore = `/usr/lib/postgresql/${newest}/bin/pg_restore`;
  execFileSync(restore, ['--no-owner', '--no-privileges', '--exit-on-error', `--dbname=${url}`, 'tests/data/first-version.dump']);
  process.env.OMAGGIO_BACKUPS = backups;
  said = prepare(url, 'all');
  client = new pg.Client({ connectionString: url });
  await client.connect();
});

afterAll(async () => {
  await client.end();
  await closeDatabase();
  rmSync(backups, { recursive: true });
});

interface Row {
  named: string;
  music: string;
  marking: Record<string, { value: string; origin: 'coach' }>;
  history: Array<{ changes: Array<{ target: string; kind: string }> }>;
}

const rows = async (): Promise<Row[]> =>
  (
    await client.query<Row>(
      `SELECT title || ', ' || parts.name || CASE WHEN player_id IS NULL THEN '' ELSE ', a player' END AS named, music,
              (SELECT jsonb_object_agg(target || '|' || kind, jsonb_build_object('value', value, 'origin', origin)) FROM marks WHERE marking_id = markings.id) AS marking,
              (SELECT jsonb_agg(jsonb_build_object('changes', changes)) FROM change_sets WHERE marking_id = markings.id) AS history
         FROM markings JOIN parts ON parts.id = part_id JOIN pieces ON pieces.id = piece_id
        WHERE EXISTS (SELECT 1 FROM marks WHERE marking_id = markings.id)`,
    )
  ).rows;

const partOf = ({ music }: Row) => {
  const read = readPartDocument(music);
  if (!read.ok) throw new Error(read.problem.what);
  return read.value.score.parts[0]!;
};

test('every mark is where it was, and says what it said', async () => {
  expect(said).toMatch(/the records of \d+ parts are brought forward/);
  const now = (await rows()).map((row) => {
    const { marks } = marksFile(partOf(row), row.marking as never);
    const said = marks.map(({ at, on, pitch, kind, value }) => {
      const hairpin = kind === 'hairpin' ? parseHairpin(value) : null;
      const end = hairpin && `${hairpin.kind} to ${hairpin.toBar} after ${Math.round(quartersOf(hairpin.toTick) * 1000)}`;
      return `${at} ${on ?? pitch} ${kind} ${end ?? value}`;
    });
    return [row.named, said.sort()] as const;
  });
  expect(Object.fromEntries(now)).toEqual(before);
});

test('what is in the history can be taken back: it names the marks that are there', async () => {
  for (const { named, marking, history } of await rows()) {
    const touched = new Set(history.flatMap(({ changes }) => changes.map(({ target, kind }) => `${target}|${kind}`)));
    expect({ named, unknown: Object.keys(marking).filter((key) => !touched.has(key)) }).toEqual({ named, unknown: [] });
  }
});

test('an accepted finding names a note of its part, and a second start has nothing to do', async () => {
  const accepted = await client.query<{ music: string; value: Array<{ id: string; key: string; version: number }> }>(
    "SELECT music, value FROM settings JOIN parts ON parts.id = scope_id WHERE scope = 'part' AND key = 'accepted'",
  );
  expect(accepted.rows.length).toBeGreaterThan(2);
  for (const { music, value } of accepted.rows) {
    const ids = new Set(partOf({ music } as Row).notes.map(({ id }) => id));
    for (const { id, key, version } of value) expect([ids.has(id.split(' ').at(-1)!), key.startsWith(id), version]).toEqual([true, true, 2]);
  }
  const { rows: versions } = await client.query('SELECT DISTINCT version FROM markings');
  expect(versions).toEqual([{ version: 2 }]);
});
