/** The made-up demo: loaded once, when the database is empty. */
import { randomUUID } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { z } from 'zod';
import { readMusicXml } from '../core/formats/musicxml/read';
import { barsAt, placeAt } from '../core/score/address';
import type { Part } from '../core/score/score';
import { ticksOf } from '../core/score/bars';
import { linesOf } from '../core/score/lines';
import { clockFor } from '../core/score/time';
import { usualPlayer } from '../core/instruments/player';
import { changeTo, type Change } from '../core/marking/change';
import { notesFromText } from '../core/marking/notes';
import { placeTarget } from '../core/marking/target';
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
  /** Words for the player, one note a line, as they are pasted on the Desk. */
  notes: z.array(z.object({ file: z.string(), part: z.string(), lines: z.array(z.string()) })),
  /** Edits against the print, at places as people say them. */
  edits: z.array(
    z.object({
      file: z.string(),
      part: z.string(),
      changes: z.array(z.object({ at: z.string(), kind: z.enum(['dynamic', 'accidental']), value: z.string(), why: z.string() })),
    }),
  ),
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
  const { studio, players, marked, notes, edits } = people.parse(JSON.parse(await readFile(path.join(folder, 'people.json'), 'utf8')));
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
  for (const { file, part, lines } of notes) {
    const opened = await openPart(studioId, file, part);
    const read = notesFromText(opened.part, {}, lines.join('\n'));
    if (!read.ok) throw new Error(`demo notes: ${read.problem.place} ${read.problem.what}`);
    await store(studioId, opened.partId, 'Notes for the player', read.value);
  }
  for (const { file, part, changes } of edits) {
    const opened = await openPart(studioId, file, part);
    const made = changes.map(({ at, kind, value, why }): Change => {
      const place = placeAt(opened.part, opened.part.ticksPerQuarter, at);
      if (!place.ok || place.value.noteId === null) throw new Error(`demo edit at ${at}`);
      const target = kind === 'dynamic' ? placeTarget(place.value.barIndex, place.value.tick!) : place.value.noteId;
      return { target, kind, from: null, to: { value, origin: 'coach', why } };
    });
    await store(studioId, opened.partId, 'Edits against the print', made);
  }
}

/** One passage marked as a coach would leave it: the suggestions taken. */
async function markPassage(studioId: string, file: string, partName: string, bars: string): Promise<void> {
  const { partId, part } = await openPart(studioId, file, partName);
  const range = barsAt(part, bars);
  if (!range.ok || part.instrument === null) throw new Error(`demo passage ${bars} of ${partName}`);
  const line = linesOf(part)[0]!;
  const request = {
    score: part,
    part,
    line,
    player: usualPlayer(part.instrument),
    clock: clockFor(part, part.ticksPerQuarter, null),
    marking: {},
    alternatives: 1,
    within: ticksOf(part, range.value),
  };
  const fingering = planFingering(request).alternatives[0];
  const bowing = planBowing(request)[0];
  const wanted = [...(fingering ? suggestedFingering(fingering, part) : []), ...(bowing ? suggestedBowing(bowing) : [])];
  const changes = wanted.map(({ target, kind, mark }) => changeTo({}, target, kind, mark)).filter((change): change is Change => change !== null);
  await store(studioId, partId, `Suggestions taken, bars ${bars}`, changes);
}

async function openPart(studioId: string, file: string, partName: string): Promise<{ partId: string; part: Part }> {
  const piece = (await shelf(studioId)).find((candidate) => candidate.fileName === `${file}.musicxml`)!;
  const partId = piece.parts.find((candidate) => candidate.name === partName)!.id;
  const read = readMusicXml((await musicOf(studioId, partId))!.text);
  if (!read.ok) throw new Error(read.problem.what);
  return { partId, part: read.value.score.parts[0]! };
}

async function store(studioId: string, partId: string, reason: string, changes: Change[]): Promise<void> {
  const { id } = await markingOfPart(studioId, partId);
  await storeChanges(studioId, id, 'coach', [{ id: randomUUID(), at: new Date().toISOString(), reason, undoes: null, changes }]);
}
