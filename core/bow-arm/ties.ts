/** Notes that are tied for longer than a bow lasts: they are cut where they are tied, so that the plan can change bow there. */
import type { Line } from '../instruments/lines';
import { bowInForce, marksOf, type Marking } from '../marking/mark';
import { levelNear, loudnessOf } from '../score/loudness';
import { noteById } from '../score/find';
import type { Note, Part } from '../score/score';
import type { Clock } from '../score/time';
import { placeInBar, type Atom } from './atoms';
import type { Bow } from './bow';
import { dynamicAt } from './stroke';
import { USABLE } from './tables';

/**
 * Atoms of tied notes in pieces, each under the slur of the one before: at every tied head where the bow would not last (a change on the
 * bar line is heard least and costs least), and wherever the coach marked a tied head.
 */
export function withTies(atoms: readonly Atom[], part: Part, line: Line, clock: Clock, marking: Marking, bow: Bow): Atom[] {
  return atoms.flatMap((atom): Atom[] => {
    const event = line.events[atom.event]!;
    if (event.ids.length === event.notes.length || atom.strokes !== 1) return [atom];
    const heads = tiedHeads(part, event.ids, event.onset);
    const marked = heads.filter((head) => isMarked(head, marking));
    const tooLong = dynamicAt(atom.steps).slowest * bow.speed * atom.seconds > bow.hairCm * USABLE;
    const cuts = tooLong ? heads : marked;
    return cuts.length ? pieces(atom, cuts, part, clock, marking) : [atom];
  });
}

/** The first head of each tied moment after the beginning. */
function tiedHeads(part: Part, ids: readonly string[], onset: number): Note[] {
  const heads = new Map<number, Note>();
  for (const id of ids) {
    const note = noteById(part, id);
    if (note && note.onset > onset && !heads.has(note.onset)) heads.set(note.onset, note);
  }
  return [...heads.values()].sort((a, b) => a.onset - b.onset);
}

/** What is marked at a tied head about the bow that begins there. */
function markedAt(head: Note, marking: Marking) {
  const marks = marksOf(marking, head.id);
  const says = (kind: 'slur' | 'hook' | 'retake', value: string) => marks?.[kind]?.value === value && !marks[kind].off;
  return { lock: bowInForce(head, marking), split: says('slur', 'split'), hook: says('hook', 'yes'), retake: says('retake', 'yes') };
}

function isMarked(head: Note, marking: Marking): boolean {
  const { lock, split, hook, retake } = markedAt(head, marking);
  return lock !== null || split || hook || retake;
}

function pieces(atom: Atom, cuts: readonly Note[], part: Part, clock: Clock, marking: Marking): Atom[] {
  const loudness = loudnessOf(part);
  const end = atom.onset + atom.ticks;
  // A breath takes from the last piece, and a fermata holds that one.
  const plain = clock.secondsAt(end) - clock.secondsAt(atom.onset);
  const taken = atom.seconds / atom.heldTimes - plain;
  const lasts = (seconds: number): number => Math.max(0.01, seconds + taken) * atom.heldTimes;
  const first: Atom = { ...atom, ticks: cuts[0]!.onset - atom.onset, seconds: clock.secondsAt(cuts[0]!.onset) - atom.onsetS, heldTimes: 1 };
  const rest = cuts.map((head, i): Atom => {
    const until = cuts[i + 1]?.onset ?? end;
    const bar = part.bars[head.barIndex]!;
    const { late: _, ...place } = placeInBar({ onset: head.onset, end: until }, bar);
    const steps = loudness.stepsAt(head.onset);
    const { lock, split, hook, retake } = markedAt(head, marking);
    const seconds = clock.secondsAt(until) - clock.secondsAt(head.onset);
    return {
      ...atom,
      ...place,
      ids: atom.ids.filter((id) => onsetOf(part, id) >= head.onset && onsetOf(part, id) < until),
      onset: head.onset,
      ticks: until - head.onset,
      barIndex: head.barIndex,
      onsetS: clock.secondsAt(head.onset),
      seconds: until === end ? lasts(seconds) : seconds,
      heldTimes: until === end ? atom.heldTimes : 1,
      silenceS: 0,
      linked: !split && lock === null,
      tied: true,
      steps,
      level: levelNear(steps),
      hairpin: loudness.hairpinAt(head.onset),
      barSeconds: clock.secondsAt(bar.onset + bar.ticks) - clock.secondsAt(bar.onset),
      upbeat: false,
      accent: false,
      kind: atom.kind === 'accent' ? 'détaché' : atom.kind,
      wish: null,
      lock,
      mustRetake: retake,
      mustHook: hook && !retake,
      hookAsked: hook,
    };
  });
  return [{ ...first, last: false, ids: atom.ids.filter((id) => onsetOf(part, id) < cuts[0]!.onset) }, ...rest];
}

const onsetOf = (part: Part, id: string): number => noteById(part, id)!.onset;
