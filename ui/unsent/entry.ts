/** What the coach changed and the server does not have yet. */
import { z } from 'zod';
import { deedShape } from '@/core/marking/part-deed';
import { pencilInWords } from '@/core/handout/pencil';
import { saidShape, type SaidByPlayer } from '@/core/handout/shapes';
import { problemShape, type Problem } from '@/core/util/problem-shape';
import type { ChangeSet } from '@/core/marking/change';
import type { Passage } from '@/core/score/passages';

export type Body =
  | { about: 'marks'; markingId: string; part: PartNamed; set: ChangeSet }
  | { about: 'passages'; part: PartNamed; from: Passage[]; to: Passage[]; deed?: Deed }
  /** Settings of a part one by one; findings that are accepted or taken up again. */
  | { about: 'settings'; part: PartNamed; change: Record<string, unknown>; deed?: Deed & { before: Record<string, unknown> } }
  /** What a player says about a hand-out. */
  | { about: 'said'; handoutId: string; part: PartNamed; said: SaidByPlayer }
  | { about: 'player'; playerId: string; name: string; change: Record<string, unknown> };

/** A step that can be taken back, as the server keeps it (`core/marking/part-deed.ts`). */
export type Deed = z.infer<typeof deedShape>;

export interface PartNamed {
  id: string;
  name: string;
}

export interface Entry {
  /** Of a change set its own id: the server knows by it what it has already. */
  id: string;
  madeAt: string;
  body: Body;
  /** Refused for good, and why: it is set aside until the coach drops it. */
  refused: Problem | null;
  /** Order in which the browser kept it; null until it is kept. */
  seq: number | null;
}

export const marksLane = (markingId: string): string => `marks ${markingId}`;

/** Changes of one lane are sent in order; lanes do not wait for one another. */
export function laneOf(body: Body): string {
  switch (body.about) {
    case 'marks':
      return marksLane(body.markingId);
    case 'player':
      return `player ${body.playerId}`;
    case 'said':
      return `said ${body.handoutId}`;
    default:
      return `${body.about} ${body.part.id}`;
  }
}

const partShape = z.object({ id: z.string(), name: z.string() });
const changeSetShape = z
  .object({
    id: z.string(),
    at: z.string(),
    reason: z.string(),
    undoes: z.string().nullable(),
    changes: z.array(z.object({ target: z.string(), kind: z.string() }).loose()),
  })
  .loose();
const passagesShape = z.array(z.object({ name: z.string(), fromBar: z.number(), toBar: z.number() }));

/** As it lies in the browser, perhaps since an earlier version of this page. */
export const entryShape = z.object({
  id: z.string(),
  madeAt: z.string(),
  body: z.discriminatedUnion('about', [
    z.object({ about: z.literal('marks'), markingId: z.string(), part: partShape, set: changeSetShape }),
    z.object({ about: z.literal('passages'), part: partShape, from: passagesShape, to: passagesShape, deed: deedShape.optional() }),
    z.object({
      about: z.literal('settings'),
      part: partShape,
      change: z.record(z.string(), z.unknown()),
      deed: deedShape.extend({ before: z.record(z.string(), z.unknown()) }).optional(),
    }),
    z.object({ about: z.literal('said'), handoutId: z.string(), part: partShape, said: saidShape }),
    z.object({ about: z.literal('player'), playerId: z.string(), name: z.string(), change: z.record(z.string(), z.unknown()) }),
  ]),
  refused: problemShape.nullable(),
  seq: z.number().nullable(),
});

/** In words, for a list: "Violin I: Finger 3". */
export function entryInWords({ body }: Pick<Entry, 'body'>): string {
  switch (body.about) {
    case 'marks':
      return `${body.part.name}: ${body.set.reason}`;
    case 'passages':
      return `${body.part.name}: passages`;
    case 'settings':
      return `${body.part.name}: ${Object.keys(body.change).join(', ')}`;
    case 'said':
      return `${body.part.name}: ${saidInWords(body.said)}`;
    case 'player':
      return `${body.name}: ${Object.keys(body.change).join(', ')}`;
  }
}

function saidInWords({ answers: [answer] = [], copied = [], pencil: [mark] = [], showsPencil }: SaidByPlayer): string {
  if (answer) return [answer.kind, answer.words].filter(Boolean).join(': ');
  if (mark) return `${mark.where}, pencil: ${pencilInWords(mark)}`;
  if (showsPencil !== undefined) return showsPencil ? 'the pencil is shown' : 'the pencil is not shown';
  return copied.length ? 'copied' : 'opened';
}

/** Everything that it says, to be copied and typed again. */
export function entryAsText(entry: Entry): string {
  const { body } = entry;
  const head = entryInWords(entry);
  if (body.about === 'marks') {
    return [
      head,
      ...body.set.changes.map(
        ({ target, kind, to }) => `${target}  ${kind}: ${to ? [to.value, to.why && `(${to.why})`].filter(Boolean).join(' ') : 'taken away'}`,
      ),
    ].join('\n');
  }
  return `${head}\n${JSON.stringify(body.about === 'passages' ? body.to : body.about === 'said' ? body.said : body.change, null, 2)}`;
}
