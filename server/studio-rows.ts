/** The rows of a studio's file: what each may be, and what it refers to. A file is somebody's: nothing of it is believed unread. */
import { z } from 'zod';
import { PENCIL_KINDS } from '../core/handout/pencil';
import { ANSWER_KINDS } from '../core/handout/shapes';
import { PAPER_TYPES } from '../core/formats/paper';
import { INSTRUMENT_KINDS } from '../core/instruments/instrument';
import { newPlayerShape } from '../core/instruments/player-shape';
import { MARK_KINDS, type MarkKind } from '../core/marking/kinds';
import { RECORD_VERSION } from '../core/marking/versions';
import { LIMITS } from '../core/util/limits';
import { isClean } from '../core/util/text';
import { digestOf } from './sources';
import type { Table } from './studio-file';

const id = z.uuid();
const moment = z
  .string()
  .max(40)
  .refine((text) => !Number.isNaN(Date.parse(text)), 'is no time');
const words = (limit: number) => z.string().max(limit).refine(isClean, 'has characters that no file can hold');
const version = z.int().min(1).max(RECORD_VERSION);
const sha256 = z.string().regex(/^[0-9a-f]{64}$/);
const bar = z.int().min(0);
const warnings = z.array(z.object({ place: z.string(), text: z.string() })).max(LIMITS.warnings);
const kind = z.enum(MARK_KINDS as [MarkKind, ...MarkKind[]]);
const { name, instrument, size, tuning, hand, measured, technique, level } = newPlayerShape.shape;

/** Texts of the documents that parts are cut into; far above the largest score that is taken in. */
const MUSIC = 64 * 1024 * 1024;

export const ROW_SHAPES = {
  sources: z.strictObject({ id, sha256, file_name: words(LIMITS.fileName), received_at: moment }),
  players: z.strictObject({
    id,
    name,
    instrument,
    size,
    tuning,
    hand,
    measured,
    technique,
    level,
    thumb_position: z.boolean(),
    created_at: moment,
    removed_at: moment.nullable(),
  }),
  pieces: z.strictObject({
    id,
    source_id: id,
    title: words(LIMITS.title),
    composer: words(LIMITS.title).nullable(),
    warnings,
    created_at: moment,
    removed_at: moment.nullable(),
  }),
  parts: z.strictObject({
    id,
    piece_id: id,
    source_id: id.nullable(),
    position: bar,
    file_part_id: words(LIMITS.title),
    name: words(LIMITS.title),
    instrument: z.enum(INSTRUMENT_KINDS).nullable(),
    bars: bar,
    notes: bar,
    bar_labels: z.array(words(LIMITS.barLabel)),
    music: z.string().max(MUSIC),
    version,
  }),
  passages: z.strictObject({ part_id: id, position: bar, name: words(LIMITS.name), from_bar: bar, to_bar: bar }),
  settings: z.strictObject({ scope: z.literal('part'), scope_id: id, key: z.string().max(40), value: z.unknown() }),
  markings: z.strictObject({ id, part_id: id, player_id: id.nullable(), name: words(LIMITS.title), created_at: moment, version }),
  marks: z.strictObject({
    marking_id: id,
    target: words(LIMITS.target),
    kind,
    value: z.string().max(LIMITS.barText),
    origin: z.enum(['coach', 'suggestion']),
    why: z.string().max(LIMITS.why).nullable(),
    off: z.boolean(),
    author: words(LIMITS.title).nullable(),
  }),
  change_sets: z.strictObject({
    id,
    marking_id: id,
    author: words(LIMITS.title),
    at: moment,
    reason: words(LIMITS.reason),
    changes: z.array(z.object({ target: z.string(), kind, from: z.unknown(), to: z.unknown() })).max(LIMITS.changesInSet),
    undoes: id.nullable(),
    together: id.nullable(),
    from_part: id.nullable(),
    boundary: z.boolean(),
  }),
  editions: z.strictObject({
    id,
    part_id: id,
    source_id: id,
    file_part_id: words(LIMITS.title),
    name: words(2 * LIMITS.title),
    music: z.string().max(MUSIC),
    left_alone: z.array(z.string()),
    created_at: moment,
    version,
  }),
  part_deeds: z.strictObject({
    id,
    part_id: id,
    author: words(LIMITS.title),
    at: moment,
    reason: words(LIMITS.reason),
    about: z.enum(['passages', 'settings']),
    before: z.unknown(),
    after: z.unknown(),
    undoes: id.nullable(),
  }),
  frozen: z.strictObject({ sha256, text: z.string().max(MUSIC) }).refine((row) => digestOf(new TextEncoder().encode(row.text)) === row.sha256, 'was changed'),
  handouts: z.strictObject({
    id,
    part_id: id,
    number: z.int().min(1),
    made_at: moment,
    made_by: words(LIMITS.title),
    word: words(LIMITS.handoutWord),
    state: sha256,
    music: sha256,
    together: id,
  }),
  handout_players: z.strictObject({
    handout_id: id,
    player_id: id,
    own: z.record(z.string().max(LIMITS.target + 40), z.union([z.string().max(LIMITS.barText), z.literal(false)])),
    line: bar.nullable(),
    given_at: moment,
    word: words(LIMITS.handoutWord),
    opened_at: moment.nullable(),
    copied: z.array(z.int().min(-1)),
    shows_pencil: z.boolean().nullable(),
  }),
  answers: z.strictObject({
    id,
    handout_id: id,
    player_id: id,
    bar: bar.nullable(),
    kind: z.enum(ANSWER_KINDS),
    words: words(LIMITS.handoutWord),
    at: moment,
    received_at: moment,
    settled_at: moment.nullable(),
    settled_by: words(LIMITS.title).nullable(),
  }),
  pencil: z.strictObject({
    handout_id: id,
    player_id: id,
    target: words(LIMITS.target),
    kind: z.enum(PENCIL_KINDS),
    value: words(LIMITS.pencilWords).nullable(),
    place: words(LIMITS.barLabel + 40),
    at: moment,
  }),
  papers: z.strictObject({ id, piece_id: id, source_id: id, name: words(LIMITS.fileName), type: z.enum(PAPER_TYPES), created_at: moment }),
} satisfies Record<Table, z.ZodObject>;

export type Row = Record<string, unknown>;

/** What a row has to find among the other rows of the file: nothing of it may lead to another studio. */
export const REFERS: Readonly<Record<Table, Readonly<Record<string, Table>>>> = {
  sources: {},
  players: {},
  pieces: { source_id: 'sources' },
  parts: { piece_id: 'pieces', source_id: 'sources' },
  passages: { part_id: 'parts' },
  settings: { scope_id: 'parts' },
  markings: { part_id: 'parts', player_id: 'players' },
  marks: { marking_id: 'markings' },
  change_sets: { marking_id: 'markings' },
  editions: { part_id: 'parts', source_id: 'sources' },
  part_deeds: { part_id: 'parts' },
  papers: { piece_id: 'pieces', source_id: 'sources' },
  frozen: {},
  handouts: { part_id: 'parts', state: 'frozen', music: 'frozen' },
  handout_players: { handout_id: 'handouts', player_id: 'players' },
  answers: { handout_id: 'handouts', player_id: 'players' },
  pencil: { handout_id: 'handouts', player_id: 'players' },
};
