/** The made-up demo: worked out first, then stored in one transaction, and only where no studio is. */
import { INSTRUMENT_KINDS } from '@/core/instruments/instrument';
import { ownerOf, type Access } from './access';
import { demoHandOutsShape, handOutDemo } from './demo-hand-outs';
import { randomUUID } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { z } from 'zod';
import { readPartDocument } from '../core/formats/musicxml/part-document';
import { barsAt, placeAt } from '../core/score/address';
import type { Part } from '../core/score/score';
import { ticksOf } from '../core/score/bars';
import { linesOf } from '@/core/instruments/lines';
import { clockFor } from '../core/score/time';
import { usualPlayer } from '../core/instruments/player';
import { changeTo, type Change } from '../core/marking/change';
import { notesFromText } from '../core/marking/notes';
import { placeTarget } from '../core/marking/target';
import { suggestedBowing, suggestedFingering } from '@/core/suggest/suggestion';
import { planFingering } from '../core/left-hand/fingering';
import { planBowing } from '../core/bow-arm/bowing';
import { inOwnersTransaction, pool, type Queryable } from './db';
import { writeChangeSet } from './markings';
import { writePaper } from './papers';
import { writeSettings } from './parts';
import { readPiece, storePiece, type ReadPiece } from './pieces';
import { OURSELVES } from './workers';

const peopleShape = z.object({
  studio: z.string(),
  /** The owner first. */
  teachers: z.array(z.object({ name: z.string(), role: z.enum(['owner', 'coach']) })).min(1),
  players: z.array(z.object({ name: z.string(), instrument: z.enum(INSTRUMENT_KINDS), size: z.string(), hand: z.string(), level: z.string() })),
  /** Who sits where in the section of a part. */
  seats: z.array(z.object({ file: z.string(), part: z.string(), players: z.array(z.string()) })),
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
  handOuts: demoHandOutsShape,
});
type People = z.infer<typeof peopleShape>;

/** In the order in which the shelf shows them last to first; a loose leaf lies beside what was typed from it. */
const FILES: ReadonlyArray<{ file: string; name: string; leaf?: string }> = [
  { file: 'lock-keepers-song', name: 'loose-leaves/lock-keepers-song.abc', leaf: 'loose-leaves/lock-keepers-song.jpg' },
  ...['low-tide', 'the-heron', 'evening-barge', 'staircase', 'mill-race-serenade'].map((file) => ({ file, name: `scores/${file}.musicxml` })),
];

/** Any number will do, as long as all processes use the same. */
const LOCK = 700_411_221;

export type DemoWish = 'all' | 'people' | 'none';

/**
 * Makes the first studio, with the demo in it. True when it did, false when there was a studio already: then nothing is touched.
 * Two processes at the same time make one studio; one that is ended in the middle leaves none.
 */
export async function loadDemo(folder: string, wish: DemoWish): Promise<boolean> {
  if (await hasStudio(pool())) return false;
  const people = peopleShape.parse(JSON.parse(await readFile(path.join(folder, 'people.json'), 'utf8')));
  const pieces = wish === 'all' ? await workedOut(folder, people) : [];
  const made = await inOwnersTransaction(async (client) => {
    await client.query('SELECT pg_advisory_xact_lock($1)', [LOCK]);
    return (await hasStudio(client)) ? null : await store(client, people, wish, pieces);
  });
  if (made && wish === 'all') await handOutDemo(made, people.handOuts);
  return made !== null;
}

async function hasStudio(client: Queryable): Promise<boolean> {
  const { rows } = await client.query<{ there: boolean }>('SELECT EXISTS (SELECT 1 FROM studios) AS there');
  return rows[0]!.there;
}

interface DemoPiece {
  seats: People['seats'];
  fileName: string;
  bytes: Uint8Array;
  read: ReadPiece;
  /** Change sets by the name of the part. */
  sets: Array<{ part: string; reason: string; changes: Change[] }>;
  /** That it was typed from. */
  sheet: { fileName: string; bytes: Uint8Array } | null;
}

async function store(client: Queryable, { studio, teachers, players }: People, wish: DemoWish, pieces: readonly DemoPiece[]): Promise<Access> {
  const made = await client.query<{ id: string }>('INSERT INTO studios (name) VALUES ($1) RETURNING id', [wish === 'none' ? 'Your studio' : studio]);
  const access = ownerOf(made.rows[0]!.id, wish === 'none' ? 'Owner' : teachers[0]!.name);
  await client.query("INSERT INTO people (studio_id, name, role) VALUES ($1, $2, 'owner')", [access.studio, access.person]);
  if (wish === 'none') return access;
  for (const { name, role } of teachers.slice(1))
    await client.query('INSERT INTO people (studio_id, name, role) VALUES ($1, $2, $3)', [access.studio, name, role]);
  const playerIds = new Map<string, string>();
  for (const { name, instrument, size, hand, level } of players) {
    const { rows } = await client.query<{ id: string }>(
      'INSERT INTO players (studio_id, name, instrument, size, hand, level, thumb_position) VALUES ($1, $2, $3, $4, $5, $6, $7) RETURNING id',
      [access.studio, name, instrument, size, hand, level, instrument === 'cello' || instrument === 'bass'],
    );
    playerIds.set(name, rows[0]!.id);
  }
  for (const [i, { seats, fileName, bytes, read, sets, sheet }] of pieces.entries()) {
    const { pieceId, parts } = await storePiece(client, access, fileName, bytes, read);
    // One transaction is one moment: the order on the shelf is said.
    await client.query(
      "UPDATE pieces SET created_at = now() + $3 * interval '1 millisecond' WHERE studio_id = $1 AND id = (SELECT piece_id FROM parts WHERE id = $2)",
      [access.studio, parts[0]!.id, i],
    );
    for (const { part, players: seated } of seats)
      await writeSettings(client, access, parts.find(({ name }) => name === part)!.id, { seats: seated.map((name) => playerIds.get(name)) });
    if (sheet) await writePaper(client, access, pieceId, sheet.fileName, sheet.bytes);
    for (const { part, reason, changes } of sets) {
      const { markingId } = parts.find(({ name }) => name === part)!;
      await writeChangeSet(client, access, markingId, { id: randomUUID(), at: new Date().toISOString(), reason, undoes: null, changes });
    }
  }
  return access;
}

/** The scores read, and the marks that a coach would have left in them. */
async function workedOut(folder: string, { seats, marked, notes, edits }: People): Promise<DemoPiece[]> {
  const pieces: DemoPiece[] = [];
  for (const { file, name, leaf } of FILES) {
    const fileName = path.basename(name);
    const bytes = await readFile(path.join(folder, name));
    const read = await readPiece(fileName, bytes, OURSELVES);
    if (!read.ok) throw new Error(`demo file ${file}: ${read.problem.what}`);
    const open = (name: string) => openPart(read.value, name);
    const of = <T extends { file: string }>(list: readonly T[]) => list.filter((each) => each.file === file);
    const sets = [
      ...of(marked).map(({ part, bars }) => ({ part, reason: `Suggestions taken, bars ${bars}`, changes: passageMarked(open(part), bars) })),
      ...of(notes).map(({ part, lines }) => ({ part, reason: 'Notes for the player', changes: notesIn(open(part), lines) })),
      ...of(edits).map(({ part, changes }) => ({ part, reason: 'Edits against the print', changes: changes.map((edit) => editIn(open(part), edit)) })),
    ];
    const sheet = leaf ? { fileName: path.basename(leaf), bytes: await readFile(path.join(folder, leaf)) } : null;
    pieces.push({ seats: of(seats), fileName, bytes, read: read.value, sets, sheet });
  }
  return pieces;
}

function openPart({ parts }: ReadPiece, name: string): Part {
  const read = readPartDocument(parts.find((part) => part.name === name)!.music);
  if (!read.ok) throw new Error(read.problem.what);
  return read.value.score.parts[0]!;
}

/** One passage marked as a coach would leave it: the suggestions taken. */
function passageMarked(part: Part, bars: string): Change[] {
  const range = barsAt(part, bars);
  if (!range.ok || part.instrument === null) throw new Error(`demo passage ${bars} of ${part.name}`);
  const request = {
    score: part,
    part,
    line: linesOf(part)[0]!,
    player: usualPlayer(part.instrument),
    clock: clockFor(part, null),
    marking: {},
    alternatives: 1,
    within: ticksOf(part, range.value),
  };
  const fingering = planFingering(request).alternatives[0];
  const bowing = planBowing(request)[0];
  const wanted = [
    ...(fingering ? suggestedFingering(fingering, { part, instrument: request.player.instrument }) : []),
    ...(bowing ? suggestedBowing(bowing) : []),
  ];
  return wanted.map(({ target, kind, mark }) => changeTo({}, target, kind, mark)).filter((change): change is Change => change !== null);
}

function notesIn(part: Part, lines: readonly string[]): Change[] {
  const read = notesFromText(part, {}, lines.join('\n'));
  if (!read.ok) throw new Error(`demo notes: ${read.problem.place} ${read.problem.what}`);
  return read.value;
}

function editIn(part: Part, { at, kind, value, why }: People['edits'][number]['changes'][number]): Change {
  const place = placeAt(part, at);
  if (!place.ok || place.value.noteId === null) throw new Error(`demo edit at ${at}`);
  const target = kind === 'dynamic' ? placeTarget(place.value.barIndex, place.value.tick!) : place.value.noteId;
  return { target, kind, from: null, to: { value, origin: 'coach', why } };
}
