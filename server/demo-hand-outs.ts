/** Hand-outs of the demo: what went out before the sectional, what was corrected after it, and what players said. */
import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import { PENCIL_KINDS } from '../core/handout/pencil';
import { ANSWER_KINDS } from '../core/handout/shapes';
import { readPartDocument } from '../core/formats/musicxml/part-document';
import { coachChanges } from '../core/marking/change';
import { targetAt } from '../core/marking/notes';
import { barOfTarget } from '../core/marking/target';
import type { Access } from './access';
import { db } from './db';
import { handOut, latestOf } from './handouts/hand-out';
import { say } from './handouts/said';
import { markingOfPart, storeChanges } from './markings';
import { musicOf } from './parts';
import { players } from './players';

export const demoHandOutsShape = z.array(
  z.object({
    file: z.string(),
    part: z.string(),
    daysAgo: z.number(),
    players: z.array(z.string()),
    opened: z.array(z.string()),
    word: z.string(),
    /** Marks that were made before it. */
    after: z.array(z.object({ at: z.string(), kind: z.enum(['bow', 'finger', 'words']), value: z.string() })).default([]),
    pencil: z.array(z.object({ player: z.string(), at: z.string(), kind: z.enum(PENCIL_KINDS), value: z.string() })).default([]),
    /** Who lets the coach look at their pencil. */
    shows: z.array(z.string()).default([]),
    answers: z.array(z.object({ player: z.string(), at: z.string(), kind: z.enum(ANSWER_KINDS), words: z.string() })).default([]),
  }),
);
type DemoHandOut = z.infer<typeof demoHandOutsShape>[number];

/** In the order in which they are told. */
export async function handOutDemo(access: Access, told: readonly DemoHandOut[]): Promise<void> {
  const people = await players(access);
  const idOf = (name: string) => people.find((each) => each.name === name)!.id;
  for (const { file, part, daysAgo, players: names, opened, word, after, pencil, shows, answers } of told) {
    const partId = await partOf(access, `${file}.musicxml`, part);
    const placed = await placesOf(access, partId);
    if (after.length)
      await mark(
        access,
        partId,
        after.map(({ at, kind, value }) => ({ target: placed(at), kind, value })),
      );
    const done = await handOut(access, { word, parts: [{ partId, players: names.map(idOf) }] });
    if (!done.ok) throw new Error(`demo hand-out: ${done.problem.what}`);
    const { id } = (await latestOf(access, [partId])).get(partId)!;
    for (const name of opened) await say(access, id, idOf(name), { opened: true });
    const at = new Date().toISOString();
    for (const { player, at: where, kind, value } of pencil)
      await say(access, id, idOf(player), { pencil: [{ target: placed(where), kind, value, where: `bar ${where.split('/')[0]}`, at }] });
    for (const name of shows) await say(access, id, idOf(name), { showsPencil: true });
    for (const { player, at: where, kind, words } of answers)
      await say(access, id, idOf(player), { answers: [{ id: randomUUID(), bar: barOfTarget(placed(where)), kind, words, at }] });
    await db(access).query("UPDATE handouts SET made_at = now() - $3 * interval '1 day' WHERE studio_id = $1 AND id = $2", [access.studio, id, daysAgo]);
  }
}

async function partOf(access: Access, fileName: string, part: string): Promise<string> {
  const { rows } = await db(access).query<{ id: string }>(
    'SELECT parts.id FROM parts JOIN pieces ON pieces.id = piece_id JOIN sources ON sources.id = pieces.source_id WHERE parts.studio_id = $1 AND file_name = $2 AND parts.name = $3',
    [access.studio, fileName, part],
  );
  return rows[0]!.id;
}

/** Targets as people say them: a note where a beat is said, else the bar. */
async function placesOf(access: Access, partId: string): Promise<(said: string) => string> {
  const read = readPartDocument((await musicOf(access, partId))!.text);
  if (!read.ok) throw new Error(read.problem.what);
  return (said) => {
    const target = targetAt(read.value.score.parts[0]!, said);
    if (!target.ok) throw new Error(`demo place ${said}: ${target.problem.what}`);
    return target.value;
  };
}

async function mark(
  access: Access,
  partId: string,
  marks: ReadonlyArray<{ target: string; kind: DemoHandOut['after'][number]['kind']; value: string }>,
): Promise<void> {
  const { id, marking } = await markingOfPart(access, partId);
  const changes = marks.flatMap(({ target, kind, value }) => coachChanges(marking, target, kind, value));
  await storeChanges(access, id, [{ id: randomUUID(), at: new Date().toISOString(), reason: 'After the sectional', undoes: null, version: 2, changes }]);
}
