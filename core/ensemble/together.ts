/**
 * A rhythm group bowed together: of the bowings that its members play, the one that suits all of them best. Each member is followed in
 * turn, every other one planned anew around what that asks of it, each with its own strings, crossings and place on the bow; what all of
 * them pay more together decides. (It is the best of the members' own bowings, not of all bowings that there are.)
 */
import type { Bowing } from '../bow-arm/describe';
import { linesOf } from '../instruments/lines';
import type { Player } from '../instruments/player';
import { applyChanges, squashed, type Change } from '../marking/change';
import type { Marking } from '../marking/mark';
import { planBoth, type PlanMemory } from '../plan/plan';
import type { Clock } from '../score/time';
import type { Steps } from '../util/steps';
import { carried } from './carry';
import type { OtherPart } from './ensemble';
import { playedBows, type BowsOf, type Member, type RhythmGroup, type ToPart } from './groups';
import { countedWord } from './count-words';

/** What is known of a part that is planned as it is marked. */
export interface PlannedPart {
  player: Player;
  clock: Clock;
  memory: PlanMemory;
  bowing: Bowing;
}

export interface Agreed {
  /** Whose bowing it is. */
  model: Member;
  /** What all members pay more than with their own best, in the bow model's costs. */
  more: number;
  /** For those for whom it changes something. */
  perPart: Array<{ name: string; more: number; retakes: number; text: string }>;
  to: ToPart[];
  /** Members that still go against the others somewhere: their marks forbid it. */
  against: string[];
}

type Group = Pick<RhythmGroup, 'fromBar' | 'toBar' | 'members'>;

/** Marks of the last round move bows of their own; then it is what it is. */
const ROUNDS = 3;

/** Every member's bowing for all, the one that costs least first. @param planned of every member's first line; members without are left out */
export function* bowedTogether(group: Group, parts: readonly OtherPart[], planned: ReadonlyMap<string, PlannedPart>): Steps<Agreed[]> {
  const members = group.members.filter(({ partId, line }) => line === 0 && planned.has(partId));
  const agreed: Agreed[] = [];
  for (const model of members) {
    const all: Agreed = { model, more: 0, perPart: [], to: [], against: [] };
    for (const member of members) {
      if (member === model) continue;
      const own = parts.find(({ id }) => id === member.partId)!;
      const made = following(group, model, member, own, parts, planned);
      yield;
      all.more += made.more;
      if (made.changes.length) all.to.push({ partId: member.partId, changes: made.changes });
      if (made.changes.length)
        all.perPart.push({ name: member.name, more: made.more, retakes: made.retakes, text: inWords(member.name, made.more, made.retakes) });
      if (made.against) all.against.push(member.name);
    }
    agreed.push(all);
  }
  return agreed.sort((a, b) => a.against.length - b.against.length || a.more - b.more || (a.model.partId < b.model.partId ? -1 : 1));
}

function following(group: Group, model: Member, member: Member, own: OtherPart, parts: readonly OtherPart[], planned: ReadonlyMap<string, PlannedPart>) {
  const { player, clock, memory, bowing: before } = planned.get(member.partId)!;
  const line = linesOf(own.part)[0]!;
  let marking: Marking = own.marking;
  let bowing: Bowing | null = before;
  const changes: Change[] = [];
  for (let round = 0; round < ROUNDS; round++) {
    const now = parts.map((each) => (each.id === own.id ? { ...own, marking } : each));
    const [made] = carried('bows', group, model, [member], now, bowsOf(now, planned, own.id, bowing));
    if (!made) break;
    changes.push(...made.changes);
    marking = applyChanges(marking, made.changes).marking;
    bowing = planBoth({ part: own.part, line, player, clock, marking }, memory).plan.bowing;
  }
  const now = parts.map((each) => (each.id === own.id ? { ...own, marking } : each));
  return {
    changes: squashed(changes),
    more: bowing ? bowing.total - before.total : 0,
    retakes: bowing ? retakesIn(bowing, group) - retakesIn(before, group) : 0,
    against: carried('bows', group, model, [member], now, bowsOf(now, planned, own.id, bowing)).length > 0,
  };
}

/** Bows as every part is planned, one of them as it is planned now. */
const bowsOf = (parts: readonly OtherPart[], planned: ReadonlyMap<string, PlannedPart>, ownId: string, own: Bowing | null): BowsOf =>
  playedBows(parts, (partId) => (partId === ownId ? own : (planned.get(partId)?.bowing ?? null)));

const retakesIn = ({ strokes }: Bowing, { fromBar, toBar }: Group): number =>
  strokes.filter(({ retake, barIndex }) => retake && barIndex >= fromBar && barIndex <= toBar + 1).length;

/** Less than this is no matter for a player. */
const NOTICED = 0.5;

function inWords(name: string, more: number, retakes: number): string {
  const count = Math.abs(retakes);
  if (count > 0) return `${name} ${retakes > 0 ? 'gains' : 'loses'} ${count === 1 ? 'a retake' : `${countedWord(count)} retakes`}.`;
  return Math.abs(more) < NOTICED ? `${name} hardly notices it.` : more > 0 ? `${name} bows less comfortably.` : `${name} bows more comfortably.`;
}
