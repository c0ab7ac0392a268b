/**
 * The same music under two hands: where the fingerings differ, and which notes made the difference: stretches that one hand
 * reaches and the other does not, on its own instrument, and places that one of them does not go to.
 */
import { noteById } from '../score/find';
import { pitchName } from '../score/pitch';
import { stopMm } from '../instruments/geometry';
import { fingerName, spreadMm, type Player } from '../instruments/player';
import { planFingering, prepareFingering, type FingeredNote, type Fingering, type FingeringRequest } from './fingering';
import { isShift } from './shift';

export interface Decisive {
  /** Whose fingering it is that the other one cannot well play. */
  whose: 'first' | 'second';
  noteIds: string[];
  barIndex: number;
  /** mm on the other one's instrument, and what is comfortable for that hand; null where the place itself is not to be had. */
  mm: number | null;
  comfortableMm: number | null;
  limitMm: number | null;
  text: string;
}

export interface ForWhom {
  first: Fingering | null;
  second: Fingering | null;
  /** Notes that do not have the same finger on the same string. */
  differing: string[];
  decisive: Decisive[];
}

/** Goes with every comparison of hands. */
export const HANDS_CAUTION =
  'Reach is arithmetic, not medical advice: no pain, ever. A smaller hand gets another fingering, not a bigger stretch; the teacher and, where it hurts, a health professional decide.';

type Question = Omit<FingeringRequest, 'player' | 'alternatives'>;

export function comparedHands(question: Question, first: Player, second: Player): ForWhom {
  const plan = (player: Player) => planFingering({ ...question, player, alternatives: 1 }).alternatives[0] ?? null;
  const [a, b] = [plan(first), plan(second)];
  const ofFirst = new Map(a?.notes.map((note) => [note.id, note.place]));
  const differing = (b?.notes ?? []).filter(({ id, place }) => {
    const other = ofFirst.get(id);
    return other && (other.finger !== place.finger || other.string !== place.string);
  });
  return {
    first: a,
    second: b,
    differing: differing.map(({ id }) => id),
    decisive: [
      ...(a ? asPlayedBy(question, a, first, second).map((found) => ({ ...found, whose: 'first' as const })) : []),
      ...(b ? asPlayedBy(question, b, second, first).map((found) => ({ ...found, whose: 'second' as const })) : []),
    ].sort((x, y) => x.barIndex - y.barIndex),
  };
}

/** What of one player's fingering is out of the other one's reach, or only within the limit of a hand that the own one has to spare. */
function asPlayedBy(question: Question, way: Fingering, own: Player, other: Player): Omit<Decisive, 'whose'>[] {
  const grips = prepareFingering({ ...question, player: other });
  const at = new Map(grips.eventIndex.map((event, i) => [event, i]));
  const found: Omit<Decisive, 'whose'>[] = [];
  let last: FingeredNote | null = null;
  for (const note of way.notes) {
    const head = noteById(question.part, note.id)!;
    const i = at.get(note.event);
    const there =
      i !== undefined && grips.grips[i]!.some(({ places }) => places.some((place) => place.finger === note.place.finger && place.string === note.place.string));
    const what = `${pitchName(head.pitch)} with ${fingerName(note.place.finger)}`;
    if (!there && note.place.finger !== 0)
      found.push({
        noteIds: [note.id],
        barIndex: head.barIndex,
        mm: null,
        comfortableMm: null,
        limitMm: null,
        text: `${what}: a place that ${other.name} does not go to.`,
      });
    else if (last) {
      const stretch = stretchFor(last, note, own, other);
      if (stretch)
        found.push({
          noteIds: [last.id, note.id],
          barIndex: head.barIndex,
          ...stretch,
          text: `${pitchName(noteById(question.part, last.id)!.pitch)} with ${fingerName(last.place.finger)} and ${what}: ${Math.round(stretch.mm)} mm for ${other.name}, where ${Math.round(stretch.comfortableMm)} mm are comfortable and ${Math.round(stretch.limitMm)} mm the limit.`,
        });
    }
    last = note;
  }
  return found;
}

function stretchFor(from: FingeredNote, to: FingeredNote, own: Player, other: Player): { mm: number; comfortableMm: number; limitMm: number } | null {
  const [a, b] = [from.place, to.place];
  if (a.finger === 0 || b.finger === 0 || a.finger === b.finger || isShift(a, b) || to.event - from.event > 1) return null;
  const span = (player: Player) => Math.abs(stopMm(player.instrument.lengthMm, a.stop) - stopMm(player.instrument.lengthMm, b.stop));
  const [theirs, mine] = [spreadMm(other.hand, a.finger, b.finger), spreadMm(own.hand, a.finger, b.finger)];
  if (!theirs || !mine || span(other) <= theirs.comfortable || span(own) / mine.limit >= span(other) / theirs.limit) return null;
  return { mm: span(other), comfortableMm: theirs.comfortable, limitMm: theirs.limit };
}
