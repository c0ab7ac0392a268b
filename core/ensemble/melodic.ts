/** How a note comes and goes in its line: what may be foreign to a chord moves by step. */
import { midiOf } from '../score/pitch';
import type { Note } from '../score/score';
import { TICKS_PER_QUARTER } from '../score/ticks';
import type { LineEvent } from '../instruments/lines';

/** Where a neighbouring note lies: a step above (1) or below (-1), at the same place (0), or a leap away (null). */
export type Step = -1 | 0 | 1 | null;

export interface Motion {
  before: Step;
  after: Step;
  /** Events before and after, null at a rest or an end. */
  from: LineEvent | null;
  to: LineEvent | null;
}

/** A rest of less than this between two notes parts no line (judgement). */
const REST = TICKS_PER_QUARTER / 2;

/** A second, or the same note, to the nearest of the notes of another event. */
function stepTo(note: Note, event: LineEvent | null): Step {
  if (!event) return null;
  const by = event.notes.map((other) => midiOf(other.pitch) - midiOf(note.pitch)).reduce((near, each) => (Math.abs(each) < Math.abs(near) ? each : near));
  return Math.abs(by) > 2 ? null : (Math.sign(by) as Step);
}

/** @param i index of its event, grace notes included; they are passed over */
export function motionOf(events: readonly LineEvent[], i: number, note: Note): Motion {
  const own = events[i]!;
  let [b, a] = [i - 1, i + 1];
  while (events[b]?.grace) b--;
  while (events[a]?.grace) a++;
  const [past, next] = [events[b], events[a]];
  const from = past && own.onset - past.end <= REST ? past : null;
  const to = next && next.onset - own.end <= REST ? next : null;
  const after = stepTo(note, to);
  const before = stepTo(note, from);
  return { before, after, from, to };
}

/** What a note weighs against a chord that it is no part of: little where it comes or goes by step, most where it leaps (judgement). */
export function mayBeForeign(events: readonly LineEvent[], i: number, note: Note): number {
  const { before, after, from, to } = motionOf(events, i, note);
  const stepsOn = after === 1 || after === -1;
  if (stepsOn && before !== null) return 0.3;
  // A leaning note comes by leap, or after a rest, and goes by step.
  if (stepsOn) return to!.end - to!.onset < events[i]!.end - events[i]!.onset ? 0.4 : 0.55;
  // Anticipated: by step to what comes next as the same note.
  if ((before === 1 || before === -1) && after === 0) return 0.5;
  if (before === 1 || before === -1) return from!.end - from!.onset < events[i]!.end - events[i]!.onset ? 0.9 : 0.7;
  return 1;
}
