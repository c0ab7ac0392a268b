/** The made-up demo: loaded once, when the database is empty. */
import { randomUUID } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { z } from 'zod';
import { readMusicXml } from '../core/formats/musicxml/read';
import { barsAt } from '../core/score/address';
import { ticksOf } from '../core/score/bars';
import { linesOf } from '../core/score/lines';
import { clockFor } from '../core/score/time';
import { usualPlayer } from '../core/instruments/player';
import { changeTo, type Change } from '../core/marking/change';
import { suggestedBowing, suggestedFingering } from '../core/marking/suggestion';
import { planFingering } from '../core/left-hand/fingering';
import { planBowing } from '../core/bow-arm/bowing';
import { pool } from './db';
import { markingOfPart, storeChanges } from './markings';
import { musicOf } from './parts';
import { shelf, takeIn } from './pieces';

const people = z.object({
  studio: z.string(),
  players: z.array(
    z.object({ name: z.string(), instrument: z.enum(['violin', 'viola', 'cello', 'bass']), size: z.string(), hand: z.string(), level: z.string() }),
  ),
  marked: z.array(z.object({ file: z.string(), part: z.string(), bars: z.string() })),
});

/** In the order in which the shelf shows them last to first. */
const FILES = ['low-tide', 'the-heron', 'evening-barge', 'staircase', 'mill-race-serenade'];

/** Any number will do, as long as all processes use the same. */
const LOCK = 700_411_221;

/** True when the demo was loaded, false when there was something already. All of it is loaded, or nothing. */
export async function loadDemo(folder: string, withMusic: boolean): Promise<boolean> {
  const client = await pool().connect();
  try {
    await client.query('SELECT pg_advisory_lock($1)', [LOCK]);
    const { rows } = await client.query<{ count: number }>('SELECT count(*)::int AS count FROM studios');
    if (rows[0]!.count > 0) return false;
    await fill(folder, withMusic);
    return true;
  } catch (error) {
    await client.query('DELETE FROM studios');
    throw error;
  } finally {
    await client.query('SELECT pg_advisory_unlock($1)', [LOCK]);
    client.release();
  }
}

async function fill(folder: string, withMusic: boolean): Promise<void> {
  const { studio, players, marked } = people.parse(JSON.parse(await readFile(path.join(folder, 'people.json'), 'utf8')));
  const made = await pool().query<{ id: string }>('INSERT INTO studios (name) VALUES ($1) RETURNING id', [studio]);
  const studioId = made.rows[0]!.id;
  for (const { name, instrument, size, hand, level } of players) {
    await pool().query('INSERT INTO players (studio_id, name, instrument, size, hand, level, thumb_position) VALUES ($1, $2, $3, $4, $5, $6, $7)', [
      studioId,
      name,
      instrument,
      size,
      hand,
      level,
      instrument === 'cello' || instrument === 'bass',
    ]);
  }
  if (!withMusic) return;
  for (const file of FILES) {
    const taken = await takeIn(studioId, `${file}.musicxml`, await readFile(path.join(folder, 'scores', `${file}.musicxml`)));
    if (!taken.ok) throw new Error(`demo file ${file}: ${taken.problem.what}`);
  }
  for (const { file, part, bars } of marked) await markPassage(studioId, file, part, bars);
}

/** One passage marked as a coach would leave it: the suggestions taken. */
async function markPassage(studioId: string, file: string, partName: string, bars: string): Promise<void> {
  const piece = (await shelf(studioId)).find((candidate) => candidate.fileName === `${file}.musicxml`)!;
  const partId = piece.parts.find((candidate) => candidate.name === partName)!.id;
  const read = readMusicXml((await musicOf(studioId, partId))!.text);
  if (!read.ok) throw new Error(read.problem.what);
  const { score } = read.value;
  const part = score.parts[0]!;
  const range = barsAt(part, bars);
  if (!range.ok || part.instrument === null) throw new Error(`demo passage ${bars} of ${partName}`);
  const line = linesOf(part)[0]!;
  const request = {
    score,
    part,
    line,
    player: usualPlayer(part.instrument),
    clock: clockFor(part, score.ticksPerQuarter, null),
    marking: {},
    alternatives: 1,
    within: ticksOf(part, range.value),
  };
  const fingering = planFingering(request).alternatives[0];
  const bowing = planBowing(request)[0];
  const wanted = [...(fingering ? suggestedFingering(fingering, part) : []), ...(bowing ? suggestedBowing(bowing) : [])];
  const changes = wanted.map(({ target, kind, mark }) => changeTo({}, target, kind, mark)).filter((change): change is Change => change !== null);
  const { id } = await markingOfPart(studioId, partId);
  await storeChanges(studioId, id, 'coach', [
    { id: randomUUID(), at: new Date().toISOString(), reason: `Suggestions taken, bars ${bars}`, undoes: null, changes },
  ]);
}
