/** What one part of a rhythm group does, carried to others of it: bows, slurs, articulation, dynamics. Fingers never travel between instruments. */
import { loudnessOf } from '../score/loudness';
import { WRITABLE_ARTICULATIONS, type Note, type Part } from '../score/score';
import { linesOf, type Line } from '../instruments/lines';
import { changeTo, type Change } from '../marking/change';
import { articulationKind, type MarkKind } from '../marking/kinds';
import { slurLinks } from '../marking/links';
import { bowInForce, markAt, type Marking } from '../marking/mark';
import { placeTarget } from '../marking/target';
import { hairpinValue, STRUCK } from '../marking/values';
import type { OtherPart } from './ensemble';
import type { Bows, BowsOf, Member, RhythmGroup, ToPart } from './groups';

export const CARRIED = ['bows', 'slurs', 'articulation', 'dynamics'] as const;
export type Carried = (typeof CARRIED)[number];

/** A line in the bars of a group: its events by bar, grace notes aside. */
interface Row {
  own: OtherPart;
  line: Line;
  bars: number[][];
}

/**
 * @param from the member that is followed
 * @param to those that follow; the one that is followed is left out
 * @param bowsOf bows as they are played, planned ones too: the first stroke is written even where the model leaves it to the plan
 */
export function carried(
  what: Carried,
  group: Pick<RhythmGroup, 'fromBar' | 'toBar'>,
  from: Member,
  to: readonly Member[],
  parts: readonly OtherPart[],
  bowsOf: BowsOf,
): ToPart[] {
  const model = rowOf(from, group, parts);
  if (!model) return [];
  return to.flatMap((member) => {
    const row = member.partId === from.partId ? null : rowOf(member, group, parts);
    const changes =
      row && row.bars.every((bar, i) => bar.length === model.bars[i]!.length)
        ? MAKERS[what](model, row, group, [bowsOf(from.partId, from.line), bowsOf(member.partId, member.line)])
        : [];
    return changes.length ? [{ partId: member.partId, changes }] : [];
  });
}

function rowOf({ partId, line: index }: Member, { fromBar, toBar }: Pick<RhythmGroup, 'fromBar' | 'toBar'>, parts: readonly OtherPart[]): Row | null {
  const own = parts.find(({ id }) => id === partId);
  const line = own && linesOf(own.part)[index];
  if (!line) return null;
  const bars: number[][] = Array.from({ length: toBar - fromBar + 1 }, () => []);
  line.events.forEach(({ grace, notes }, i) => {
    if (!grace) bars[notes[0]!.barIndex - fromBar]?.push(i);
  });
  return { own, line, bars };
}

type Maker = (model: Row, row: Row, group: Pick<RhythmGroup, 'fromBar' | 'toBar'>, bows: readonly [model: Bows, row: Bows]) => Change[];

const MAKERS: Readonly<Record<Carried, Maker>> = {
  bows: carriedBows,
  slurs: carriedSlurs,
  articulation: (model, row) =>
    eachPair(model, row).flatMap(([a, b]) =>
      WRITABLE_ARTICULATIONS.flatMap((name) => {
        const wanted = a.articulations.includes(name);
        return wanted === b.articulations.includes(name) ? [] : mark(row.own.marking, b.id, articulationKind(name), wanted ? 'yes' : STRUCK);
      }),
    ),
  dynamics: (model, row, group) => [...carriedDynamics(model, row, group), ...carriedHairpins(model, row, group)],
};

/** First notes of the events of both, one by one. */
function eachPair(model: Row, row: Row): Array<readonly [a: Note, b: Note, i: number, k: number]> {
  return row.bars.flatMap((bar, n) =>
    bar.map((k, at) => {
      const i = model.bars[n]![at]!;
      return [model.line.events[i]!.notes[0]!, row.line.events[k]!.notes[0]!, i, k] as const;
    }),
  );
}

const mark = (marking: Marking, target: string, kind: MarkKind, value: string | null): Change[] =>
  [changeTo(marking, target, kind, value === null ? null : { value, origin: 'coach' })].filter((change) => change !== null);

/**
 * What the model writes, its first stroke, and whatever else it takes for both to be played alike: a planned bow is written only where
 * the plans differ.
 */
function carriedBows(model: Row, row: Row, _: unknown, [ofModel, ofRow]: readonly [Bows, Bows]): Change[] {
  const { marking } = row.own;
  return eachPair(model, row).flatMap(([a, b, i, k], n) => {
    const played = ofModel.get(model.line.events[i]!.ids[0]!) ?? null;
    const now = ofRow.get(row.line.events[k]!.ids[0]!) ?? null;
    const isApart = played !== null && now !== null && played.direction !== now.direction;
    const isHooked = played !== null && now !== null && n > 0 && played.hooked && !now.hooked;
    const wanted = bowInForce(a, model.own.marking) ?? (n === 0 || (isApart && !isHooked) ? (played?.direction ?? null) : null);
    const changes: Change[] = [];
    // A bow that is written there and played here may stand.
    const stands = wanted === null && played !== null && bowInForce(b, marking) === played.direction;
    if (!stands && wanted !== bowInForce(b, marking)) {
      const value = wanted === b.printed.bow ? null : (wanted ?? STRUCK);
      changes.push(...mark(marking, b.id, 'bow', value));
    }
    const [retake, hook] = (['retake', 'hook'] as const).map((kind) => {
      const there = markAt(model.own.marking, a.id, kind);
      return there && !there.off ? there.value : null;
    });
    changes.push(
      ...mark(marking, b.id, 'retake', retake!),
      ...mark(marking, b.id, 'hook', hook ?? (isHooked || (now?.hooked && played?.hooked && markAt(marking, b.id, 'hook')) ? 'yes' : null)),
    );
    return changes;
  });
}

/** A slur into the first bar is left as it is: what it comes from is not in the group. */
function carriedSlurs(model: Row, row: Row): Change[] {
  const links = slurLinks(model.own.part, model.line, model.own.marking);
  const now = slurLinks(row.own.part, row.line, row.own.marking);
  const printed = slurLinks(row.own.part, row.line);
  return eachPair(model, row).flatMap(([, b, i, k], n) => {
    if (n === 0 || links[i] === now[k]) return [];
    return mark(row.own.marking, b.id, 'slur', printed[k] === links[i] ? null : links[i] ? 'join' : 'split');
  });
}

const ticksOfGroup = (part: Part, { fromBar, toBar }: Pick<RhythmGroup, 'fromBar' | 'toBar'>) => {
  const last = part.bars[toBar]!;
  return { from: part.bars[fromBar]!.onset, to: last.onset + last.ticks };
};

function placeAt(part: Part, tick: number, { fromBar, toBar }: Pick<RhythmGroup, 'fromBar' | 'toBar'>): { barIndex: number; tick: number } {
  let barIndex = fromBar;
  while (barIndex < toBar && part.bars[barIndex + 1]!.onset <= tick) barIndex++;
  return { barIndex, tick: tick - part.bars[barIndex]!.onset };
}

const targetAt = (part: Part, tick: number, group: Pick<RhythmGroup, 'fromBar' | 'toBar'>): string => {
  const place = placeAt(part, tick, group);
  return placeTarget(place.barIndex, place.tick);
};

/** What is printed or marked inside the bars; the level that comes in from before is written where the model has another one there. */
function carriedDynamics(model: Row, row: Row, group: Pick<RhythmGroup, 'fromBar' | 'toBar'>): Change[] {
  const { part, marking } = row.own;
  const { from, to } = ticksOfGroup(part, group);
  const inside = (each: Part) => new Map(each.dynamics.filter(({ tick }) => tick >= from && tick < to).map(({ tick, text }) => [tick, text]));
  const [wanted, now] = [inside(model.own.part), inside(part)];
  const level = loudnessOf(model.own.part).levelAt(from);
  if (!wanted.has(from)) {
    const there = level === loudnessOf(part).levelAt(from) ? now.get(from) : level;
    if (there !== undefined) wanted.set(from, there);
  }
  return [...new Set([...wanted.keys(), ...now.keys()])].flatMap((tick) => {
    const text = wanted.get(tick) ?? null;
    return text === (now.get(tick) ?? null) ? [] : mark(marking, targetAt(part, tick, group), 'dynamic', text ?? STRUCK);
  });
}

function carriedHairpins(model: Row, row: Row, group: Pick<RhythmGroup, 'fromBar' | 'toBar'>): Change[] {
  const { part, marking } = row.own;
  const { from, to } = ticksOfGroup(part, group);
  const inside = (each: Part) =>
    new Map(each.hairpins.filter((hairpin) => hairpin.from >= from && hairpin.from < to).map((hairpin) => [hairpin.from, hairpin]));
  const [wanted, now] = [inside(model.own.part), inside(part)];
  return [...new Set([...wanted.keys(), ...now.keys()])].flatMap((tick) => {
    const [a, b] = [wanted.get(tick), now.get(tick)];
    if (a && b && a.kind === b.kind && a.to === b.to) return [];
    if (!a) return mark(marking, targetAt(part, tick, group), 'hairpin', STRUCK);
    const end = placeAt(part, Math.min(a.to, to), group);
    return mark(marking, targetAt(part, tick, group), 'hairpin', hairpinValue({ kind: a.kind, toBar: end.barIndex, toTick: end.tick }));
  });
}
