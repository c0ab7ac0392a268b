/** What else the bow could do at one note, each tried with everything around it planned anew, and what it costs. */
import { finished, type Steps } from '../util/steps';
import { noteById } from '../score/find';
import type { Note } from '../score/score';
import { changeTo, type Change } from '../marking/change';
import { markAt, type Mark, type Marking } from '../marking/mark';
import type { MarkKind } from '../marking/kinds';
import type { TickRange } from '../score/bars';
import { forkedMemory, planBowingNear, type BowingRequest, type BowMemory } from './bowing';
import type { Bowing, BowTerm, Stroke } from './describe';
import { otherWay } from './stroke';

export interface BowChoice {
  name: string;
  /** What it is good for, or what it does. */
  aim: string;
  /** The marks that make it; none for the plan as it is. */
  changes: Change[];
  /** Cost above the plan as it is, and where it comes from. */
  extra: number;
  more: string[];
  less: string[];
  /** Strokes around the note that go another way than now. */
  turned: number;
  strokes: Stroke[];
  feasible: boolean;
}

interface Option {
  name: string;
  aim: string;
  marks: ReadonlyArray<readonly [noteId: string, kind: MarkKind, value: string | null]>;
}

/**
 * The plan as it is first, then the others by what they cost more, in the passage and where it goes on: what is done here may be paid
 * for later. The strokes that are returned are those of the passage.
 */
export const choicesForBow = (...asked: Parameters<typeof bowChoicesInSteps>): BowChoice[] => finished(bowChoicesInSteps(...asked));

export function* bowChoicesInSteps(request: BowingRequest & { within: TickRange }, noteId: string, memory: BowMemory): Steps<BowChoice[]> {
  const { part, marking, within } = request;
  const shown = (strokes: readonly Stroke[]) => strokes.filter(({ onset }) => onset >= within.from && onset < within.to);
  const now = planBowingNear(request, memory);
  const stroke = now?.strokes.find((each) => each.noteIds.includes(noteId));
  const note = noteById(part, noteId);
  if (!now || !stroke || !note) return [];
  const made: BowChoice[] = [];
  for (const { name, aim, changes } of bowOptions(now, stroke, note, marking)) {
    yield;
    const plan = planBowingNear({ ...request, marking: withMarks(marking, changes) }, forkedMemory(memory));
    if (plan) made.push({ name, aim, changes, ...against(plan, now), strokes: shown(plan.strokes), feasible: plan.feasible });
  }
  made.sort((a, b) => a.extra - b.extra);
  const asItIs: BowChoice = {
    name: `${stroke.direction === 'down' ? 'Down' : 'Up'}-bow${stroke.hooked ? ', hooked' : stroke.retake ? ', set anew' : ''}, as planned`,
    aim: '',
    changes: [],
    extra: 0,
    more: [],
    less: [],
    turned: 0,
    strokes: shown(now.strokes),
    feasible: now.feasible,
  };
  return [asItIs, ...made];
}

/** What else could be done at a note with the bow, not planned yet: the marks that would make it. */
export function bowOptions(now: Bowing, stroke: Stroke, note: Note, marking: Marking): Array<Pick<BowChoice, 'name' | 'aim' | 'changes'>> {
  return optionsAt(now, stroke, note, marking).flatMap(({ name, aim, marks }) => {
    const changes = marks.flatMap(([id, kind, value]) => changeTo(marking, id, kind, value === null ? null : { value, origin: 'coach' }) ?? []);
    return changes.length ? [{ name, aim, changes }] : [];
  });
}

function optionsAt(now: Bowing, stroke: Stroke, note: Note, marking: Marking): Option[] {
  const at = now.strokes.indexOf(stroke);
  const before = now.strokes[at - 1];
  const first = stroke.noteIds[0]!;
  const begins = stroke.noteIds[0] === note.id;
  const other = otherWay(stroke.direction);
  const options: Option[] = [
    {
      name: `${other === 'down' ? 'Down' : 'Up'}-bow: reversed ${begins ? 'from here' : 'from the slur’s first note'}`,
      aim: 'what follows turns round with it',
      marks: [[first, 'bow', other]],
    },
  ];
  if (before && begins) {
    if (!stroke.hooked)
      options.push({
        name: `Hook: ${before.endDirection}-bow again with a stop`,
        aim: 'the bow stays on the string',
        marks: [
          [first, 'hook', 'yes'],
          [first, 'bow', before.endDirection],
        ],
      });
    if (!stroke.retake)
      options.push({
        name: `Retake: ${before.endDirection}-bow again, lifted`,
        aim: 'the bow goes back through the air',
        marks: [
          [first, 'retake', 'yes'],
          [first, 'bow', before.endDirection],
        ],
      });
    const joined = markAt(marking, first, 'slur')?.value === 'join';
    if (!joined)
      options.push({
        name: 'Join to the note before',
        aim: 'one bow for both',
        marks: [
          [first, 'slur', 'join'],
          [first, 'bow', null],
        ],
      });
  }
  if (!begins) options.push({ name: 'Split the slur here', aim: 'a new bow begins at this note', marks: [[note.id, 'slur', 'split']] });
  if (begins) {
    options.push({ name: 'Begin at the frog', aim: 'the notes before lead there', marks: [[first, 'bow-from', 'frog']] });
    options.push({ name: 'Arrive in the upper half by here', aim: 'for what comes softly', marks: [[first, 'bow-from', 'upper half']] });
  }
  return options;
}

function withMarks(marking: Marking, changes: readonly Change[]): Marking {
  const result: Record<string, Mark> = { ...marking };
  for (const { target, kind, to } of changes) {
    if (to) result[`${target}|${kind}`] = to;
    else delete result[`${target}|${kind}`];
  }
  return result;
}

function against(plan: Bowing, now: Bowing): Pick<BowChoice, 'extra' | 'more' | 'less' | 'turned'> {
  const directions = new Map(now.strokes.flatMap((stroke) => stroke.noteIds.map((id) => [id, stroke.direction] as const)));
  const turned = plan.strokes.filter((stroke) => directions.get(stroke.noteIds[0]!) !== stroke.direction).length;
  return { extra: Math.round((plan.total - now.total) * 1000) / 1000, turned, ...bowCostsMore(plan.terms, now.terms) };
}

const TERM_WORDS: Readonly<Record<BowTerm, string>> = {
  direction: 'strong beats up-bow',
  split: 'slurs cut',
  join: 'notes joined',
  hook: 'stops on the string',
  retake: 'lifts',
  figure: 'a rhythm that lies badly in separate bows',
  loudness: 'jumps in loudness',
  bow: 'awkward lengths or places of the bow',
};

/** A difference smaller than this is not worth a word. */
const WORTH_A_WORD = 0.1;

/** Where a plan costs more than another and where less, in words, the greatest difference first. */
export function bowCostsMore(terms: Readonly<Record<string, number>>, other: Readonly<Record<string, number>>): { more: string[]; less: string[] } {
  const differences = Object.entries(TERM_WORDS)
    .map(([term, words]) => ({ words, by: (terms[term] ?? 0) - (other[term] ?? 0) }))
    .sort((a, b) => Math.abs(b.by) - Math.abs(a.by));
  return {
    more: differences.filter(({ by }) => by > WORTH_A_WORD).map(({ words }) => words),
    less: differences.filter(({ by }) => by < -WORTH_A_WORD).map(({ words }) => words),
  };
}
