/**
 * The marks alone, as a JSON file that can be read back onto the same edition or another one. Each mark says where it
 * stands in the words that people use, and by the note's id, which is quicker and exact on the same file.
 * The schema is docs/marks-file.schema.json.
 */
import { z } from 'zod';
import { placeAt } from '../score/address';
import { noteById } from '../score/find';
import { parsePitch, pitchName } from '../score/pitch';
import type { Part } from '../score/score';
import { LIMITS } from '../util/limits';
import { bad, good, type Result } from '../util/result';
import { cleanText } from '../util/text';
import { markKey, splitKey, type Mark, type Marking } from '../marking/mark';
import { MARK_KINDS, valueProblem, type MarkKind, MARKS } from '../marking/kinds';
import { STRUCK } from '../marking/values';
import { placeOfTarget, targetAt } from '../marking/notes';
import { placeTarget, targetOf } from '../marking/target';
import { markForward, namesForward, RECORD_VERSION } from '../marking/versions';

const markShape = z.object({
  id: z.string().max(200).optional().describe('The note, as `bin/omaggio notes` prints it; exact on the same file.'),
  at: z.string().max(200).optional().describe('Where it stands, as people say it: "47/3", "47", "5–12", "last note of 54".'),
  on: z.enum(['note', 'place', 'bar', 'bars']).optional().describe('What it stands at; a note unless it says otherwise.'),
  pitch: z.string().max(12).optional().describe('Written pitch of the note, so that it is found on another edition: "F#4".'),
  kind: z.enum(MARK_KINDS as [MarkKind, ...MarkKind[]]),
  value: z.string().max(LIMITS.note),
  origin: z.enum(['coach', 'suggestion']).optional(),
  why: z.string().max(LIMITS.why).optional(),
  off: z.literal(true).optional().describe('Set aside: kept, but not in force.'),
});

export const marksFileShape = z.object({
  format: z.literal('omaggio-marks').optional(),
  version: z
    .union([z.literal(1), z.literal(RECORD_VERSION)])
    .optional()
    .describe('How notes are named; the first version named them by the divisions of a file.'),
  part: z.object({ name: z.string(), instrument: z.string().nullable(), bars: z.int(), notes: z.int() }).optional(),
  marks: z.array(markShape).max(200_000),
});
export type MarksFile = z.infer<typeof marksFileShape>;
type FileMark = z.infer<typeof markShape>;

/** All marks that have a place in the part, in the order of the music. */
export function marksFile(part: Part, marking: Marking): MarksFile {
  const marks = Object.entries(marking).flatMap(([key, { value, origin, why, off }]): Array<FileMark & { onset: number }> => {
    const { target, kind } = splitKey(key);
    const place = placeOfTarget(part, target);
    if (!place) return [];
    const note = noteById(part, target);
    const { on } = targetOf(target);
    const where = note ? { id: note.id, at: place.at, pitch: pitchName(note.written) } : { at: place.at, on };
    return [{ ...where, kind, value, origin, ...(why === undefined ? {} : { why }), ...(off ? { off } : {}), onset: place.onset }];
  });
  marks.sort((a, b) => a.onset - b.onset || (a.kind < b.kind ? -1 : a.kind > b.kind ? 1 : 0));
  return {
    format: 'omaggio-marks',
    version: RECORD_VERSION,
    part: { name: part.name, instrument: part.instrument, bars: part.bars.length, notes: part.notes.length },
    marks: marks.map(({ onset: _, ...mark }) => mark),
  };
}

export interface ReadMarks {
  /** The part that the file says it was made on; null where it says none. */
  madeOn: { name: string; instrument: string | null } | null;
  marking: Marking;
  /** Marks that have no place in this part: which ones in the file, where they stood and what they are. */
  lost: Array<{ index: number; at: string; kind: MarkKind; value: string }>;
}

const REMEDY = 'It must be JSON such as {"marks":[{"at":"47/3","kind":"finger","value":"3"}]}, or with the ids that the command notes prints.';

/**
 * @param resolution ticks to a quarter that the first version would have read this part with (`resolutionBefore`); without it the
 *   notes of such a file are found by what is said of their places alone
 */
export function readMarksFile(text: string, part: Part, resolution: number | null = null): Result<ReadMarks> {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch (error) {
    return bad('marks file', `${(error as Error).message}.`, REMEDY);
  }
  const parsed = marksFileShape.safeParse(json);
  if (!parsed.success) {
    const issue = parsed.error.issues[0]!;
    return bad(`marks file, ${issue.path.join('.') || 'top'}`, `${issue.message}.`, REMEDY);
  }
  const marking: Record<string, Mark> = {};
  const lost: ReadMarks['lost'] = [];
  for (const [i, mark] of parsed.data.marks.entries()) {
    const { kind, origin = 'coach', off } = mark;
    const value = cleanText(mark.value);
    const why = mark.why === undefined ? undefined : cleanText(mark.why);
    const wrong = valueProblem(kind, value);
    if (wrong) return bad(`marks file, mark ${i + 1}`, `"${value}" is no ${kind}.`, wrong);
    if (mark.id === undefined && mark.at === undefined) return bad(`marks file, mark ${i + 1}`, 'It does not say where it stands.', REMEDY);
    const early = parsed.data.version === 1;
    const id = early && mark.id !== undefined ? (resolution === null ? undefined : namesForward(mark.id, resolution)) : mark.id;
    // Where a hairpin of the first version ends is known with the file's resolution only.
    const said = early && resolution !== null ? markForward(kind, { value }, resolution).value : value;
    const target = early && kind === 'hairpin' && value !== STRUCK && resolution === null ? null : targetFor(part, { ...mark, id });
    if (target === null) lost.push({ index: i, at: mark.at ?? mark.id!, kind, value });
    else marking[markKey(target, kind)] = { value: said, origin, ...(why === undefined ? {} : { why }), ...(off ? { off } : {}) };
  }
  const { part: madeOn } = parsed.data;
  return good({ madeOn: madeOn ? { name: madeOn.name, instrument: madeOn.instrument } : null, marking, lost });
}

/** By the id where that note has the pitch that the mark says; else by what people say; null where nothing is there. */
function targetFor(part: Part, { id, at, on, pitch, kind }: FileMark): string | null {
  const byId = id === undefined ? undefined : noteById(part, id);
  if (byId && (pitch === undefined || pitchName(byId.written) === pitch)) return byId.id;
  if (at === undefined) return null;
  const place = placeAt(part, at);
  if (on === 'place') return place.ok && place.value.tick !== null ? placeTarget(place.value.barIndex, place.value.tick) : null;
  if (on === 'bar' || on === 'bars') {
    const target = targetAt(part, at);
    return target.ok ? target.value : null;
  }
  if (!place.ok || place.value.noteId === null) return null;
  const wanted = pitch === undefined ? null : parsePitch(pitch);
  const there = noteById(part, place.value.noteId)!;
  const isHand = MARKS[kind].ofPitch;
  const same =
    wanted && part.notes.find((note) => note.onset === there.onset && (note.grace !== null) === (there.grace !== null) && pitchName(note.written) === pitch);
  // A finger never goes to another pitch than it was written for.
  if (!same && wanted && isHand) return null;
  return (same ?? there).id;
}
