/**
 * Parts that play the same rhythm at the same time, and what they do differently in it. Attacks and lengths make a group; slurs, bows,
 * articulation, dynamics and plucking are compared and never part of what makes it.
 */
import { sayBars, sayNote } from '../score/address';
import { loudnessOf } from '../score/loudness';
import type { Hairpin, Part } from '../score/score';
import { pizzicatoAt } from '../score/techniques';
import type { Bowing, Stroke } from '../bow-arm/describe';
import { linesOf, type Line, type LineEvent } from '../instruments/lines';
import { slurLinks } from '../marking/links';
import { changeTo, type Change } from '../marking/change';
import { bowInForce, markAt, splitKey, type Marking } from '../marking/mark';
import { barsTarget, targetOf } from '../marking/target';
import type { OtherPart } from './ensemble';
import { countedWord } from './count-words';

/** A line of a part, as one of those that play together. */
export interface Member {
  partId: string;
  /** Index of the line in its part. */
  line: number;
  /** "Violin I", or "Violin I, line 2" where it has several. */
  name: string;
}

export const COMPARED = ['bow', 'slurs', 'articulation', 'dynamic', 'hairpin', 'plucking'] as const;
export type Compared = (typeof COMPARED)[number];

export interface PartsDiffer {
  what: Compared;
  barIndex: number;
  /** Bar and beat of the first event that differs. */
  at: string;
  /** Which events of the bar differ, counted from 0 without grace notes. */
  events: number[];
  /** Every value with the members that have it, the commonest first. */
  says: Array<{ value: string; members: Member[] }>;
  /** "Violin I slurs six, Violin II separate." */
  text: string;
}

export type Agreement = 'agree' | 'print differs' | 'opposite bows';

export interface RhythmGroup {
  /** First bar and members: the same for the same group whatever the order of the parts. */
  id: string;
  fromBar: number;
  toBar: number;
  members: Member[];
  differences: PartsDiffer[];
  agreement: Agreement;
  /** Why it was left as it is, where every member's marking says so; null where it was not. */
  left: string | null;
}

export type Direction = 'down' | 'up';
/** How a note that is not under a slur with the one before is bowed; hooked: in the same stroke as the one before, with a stop between. */
export interface Bowed {
  direction: Direction;
  hooked: boolean;
}
/** By the first head of each event, as far as it is known. */
export type Bows = ReadonlyMap<string, Bowed>;
/** Written, or planned. */
export type BowsOf = (partId: string, line: number) => Bows;

/** What is to be written into a part. */
export interface ToPart {
  partId: string;
  changes: Change[];
}

/** A single long note tells no rhythm. */
const FEWEST_ATTACKS = 2;

interface Lane extends Member {
  /** Without its line. */
  partName: string;
  part: Part;
  row: Line;
  links: boolean[];
  bows: Bows;
  loudness: ReturnType<typeof loudnessOf>;
  plucked: (tick: number) => boolean;
  /** Events of each bar without grace notes, as indices of the line. */
  bars: Map<number, number[]>;
}

/** Directions that are printed or marked, and nothing else. */
export const writtenBows =
  (parts: readonly OtherPart[]): BowsOf =>
  (partId, line) => {
    const own = parts.find(({ id }) => id === partId);
    const bows = new Map<string, Bowed>();
    for (const { notes, ids } of (own && linesOf(own.part)[line]?.events) ?? []) {
      const hook = notes.map(({ id }) => markAt(own!.marking, id, 'hook')).find((each) => each && !each.off);
      const said = notes.map((note) => bowInForce(note, own!.marking)).find((bow) => bow !== null);
      if (said) bows.set(ids[0]!, { direction: said, hooked: hook !== undefined });
    }
    return bows;
  };

/** The bows of a plan. */
function plannedBows({ events }: Line, strokes: ReadonlyArray<Pick<Stroke, 'noteIds' | 'direction'>>): Bows {
  const strokeOf = new Map(strokes.flatMap((stroke) => stroke.noteIds.map((id) => [id, stroke] as const)));
  return new Map(
    events.flatMap(({ ids: [id] }): Array<readonly [string, Bowed]> => {
      const stroke = strokeOf.get(id!);
      return stroke ? [[id!, { direction: stroke.direction, hooked: stroke.noteIds[0] !== id }]] : [];
    }),
  );
}

/** Bows as they are played where a part is planned, else as they are written. @param bowingOf the plan of a part's first line */
export const playedBows =
  (parts: readonly OtherPart[], bowingOf: (partId: string) => Pick<Bowing, 'strokes'> | null): BowsOf =>
  (partId, line) => {
    const bowing = line === 0 ? bowingOf(partId) : null;
    const part = parts.find(({ id }) => id === partId)?.part;
    return bowing && part ? plannedBows(linesOf(part)[0]!, bowing.strokes) : writtenBows(parts)(partId, line);
  };

/**
 * Groups of a score in order of bars; the larger first where two begin at once.
 * @param parts on one time line (`score/time-line.ts`), with their edits in force
 */
export function rhythmGroups(parts: readonly OtherPart[], bowsOf: BowsOf = writtenBows(parts)): RhythmGroup[] {
  const lanes = lanesOf(parts, bowsOf);
  const bars = Math.max(0, ...parts.map(({ part }) => part.bars.length));
  const open = new Map<string, RhythmGroup>();
  const groups: RhythmGroup[] = [];
  for (let barIndex = 0; barIndex < bars; barIndex++) {
    const together = togetherIn(lanes, barIndex);
    const keys = new Set<string>();
    for (const members of together) {
      const key = members.map(keyOf).sort().join(' ');
      keys.add(key);
      const before = open.get(key);
      const differences = differencesIn(members, barIndex, before !== undefined);
      if (before) {
        before.toBar = barIndex;
        before.differences.push(...differences);
      } else {
        const group: RhythmGroup = {
          id: `${barIndex} ${key}`,
          fromBar: barIndex,
          toBar: barIndex,
          members: members.map(({ partId, line, name }) => ({ partId, line, name })),
          differences,
          agreement: 'agree',
          left: null,
        };
        open.set(key, group);
        groups.push(group);
      }
    }
    for (const key of [...open.keys()]) if (!keys.has(key)) open.delete(key);
  }
  for (const group of groups) {
    group.agreement = agreementOf(group.differences);
    if (group.differences.length) group.left = leftBecause(group, parts);
  }
  return groups.sort((a, b) => a.fromBar - b.fromBar || b.members.length - a.members.length || (a.id < b.id ? -1 : 1));
}

/** The reason that all members give for the bars in which the group differs. */
function leftBecause({ differences, members }: RhythmGroup, parts: readonly OtherPart[]): string | null {
  const bars = new Set(differences.map(({ barIndex }) => barIndex));
  const reasons = members.map(({ partId }) => {
    const marking = parts.find(({ id }) => id === partId)?.marking ?? {};
    const said = Object.entries(marking).flatMap(([key, { value, off }]) => {
      const { target, kind } = splitKey(key);
      const at = kind === 'apart' && !off ? targetOf(target) : null;
      return at?.on === 'bars' ? [{ ...at, value }] : at?.on === 'bar' ? [{ fromBar: at.barIndex, toBar: at.barIndex, value }] : [];
    });
    return [...bars].every((bar) => said.some(({ fromBar, toBar }) => fromBar <= bar && bar <= toBar)) ? said.at(-1)!.value : null;
  });
  return reasons.every((reason) => reason !== null) ? reasons[0]! : null;
}

/** Leaves a group as it is, for a reason that stands in every member's part; no reason takes it back. */
export function leftChanges(
  { fromBar, toBar, members }: Pick<RhythmGroup, 'fromBar' | 'toBar' | 'members'>,
  parts: readonly OtherPart[],
  because: string | null,
): ToPart[] {
  return parts
    .filter(({ id }) => members.some(({ partId }) => partId === id))
    .flatMap(({ id, marking }) => {
      const own = because === null ? reasonsWithin(marking, { fromBar, toBar }) : [barsTarget({ fromBar, toBar })];
      const changes = own.flatMap((target) => changeTo(marking, target, 'apart', because === null ? null : { value: because, origin: 'coach' }) ?? []);
      return changes.length ? [{ partId: id, changes }] : [];
    });
}

const reasonsWithin = (marking: Marking, { fromBar, toBar }: { fromBar: number; toBar: number }): string[] =>
  Object.keys(marking).flatMap((key) => {
    const { target, kind } = splitKey(key);
    const at = kind === 'apart' ? targetOf(target) : null;
    const overlaps = at?.on === 'bars' ? at.fromBar <= toBar && at.toBar >= fromBar : at?.on === 'bar' && at.barIndex >= fromBar && at.barIndex <= toBar;
    return overlaps ? [target] : [];
  });

const keyOf = ({ partId, line }: Member): string => `${partId}/${line}`;

const agreementOf = (differences: readonly PartsDiffer[]): Agreement =>
  differences.some(({ what }) => what === 'bow') ? 'opposite bows' : differences.length ? 'print differs' : 'agree';

function lanesOf(parts: readonly OtherPart[], bowsOf: BowsOf): Lane[] {
  return parts.flatMap(({ id, name, part, marking }) => {
    const lines = linesOf(part);
    const shared = { part, loudness: loudnessOf(part), plucked: pizzicatoAt(part) };
    return lines.map((row, line): Lane => {
      const bars = new Map<number, number[]>();
      row.events.forEach((event, i) => {
        if (event.grace) return;
        const { barIndex } = event.notes[0]!;
        const there = bars.get(barIndex);
        if (there) there.push(i);
        else bars.set(barIndex, [i]);
      });
      const named = lines.length > 1 ? `${name}, line ${line + 1}` : name;
      return { ...shared, partId: id, line, name: named, partName: name, row, links: slurLinks(part, row, marking), bows: bowsOf(id, line), bars };
    });
  });
}

/** Members with the same attacks and lengths in a bar; two lines of one part that play the same are one. */
function togetherIn(lanes: readonly Lane[], barIndex: number): Lane[][] {
  const byRhythm = new Map<string, Lane[]>();
  for (const lane of lanes) {
    const events = lane.bars.get(barIndex) ?? [];
    if (events.length < FEWEST_ATTACKS) continue;
    const rhythm = events.map((i) => `${lane.row.events[i]!.onset} ${lane.row.events[i]!.end}`).join('|');
    const there = byRhythm.get(rhythm);
    if (!there) byRhythm.set(rhythm, [lane]);
    else if (!there.some((other) => other.partId === lane.partId)) there.push(lane);
  }
  return [...byRhythm.values()].filter((members) => members.length > 1).map((members) => members.map((lane) => asOne(lane, lanes, barIndex)));
}

/** A part whose lines all play the same in a bar, or of which only one plays, is called by its name alone. */
function asOne(lane: Lane, lanes: readonly Lane[], barIndex: number): Lane {
  const rhythm = ({ row, bars }: Lane) => (bars.get(barIndex) ?? []).map((i) => `${row.events[i]!.onset} ${row.events[i]!.end}`).join('|');
  const apart = lanes.some((other) => other.partId === lane.partId && other.line !== lane.line && other.bars.has(barIndex) && rhythm(other) !== rhythm(lane));
  return apart ? lane : { ...lane, name: lane.partName };
}

/** What each kind of thing is at an event, as text to be compared; null where nothing is known. */
const VALUES: Readonly<Record<Compared, (lane: Lane, event: LineEvent, i: number) => string | null>> = {
  bow: ({ bows, links }, { ids }, i) => (links[i] ? null : (bows.get(ids[0]!)?.direction ?? null)),
  slurs: ({ links }, _, i) => (links[i] ? 'slurred' : 'new bow'),
  articulation: (_, { notes }) => [...new Set(notes.flatMap(({ articulations }) => articulations))].sort().join(' and ') || 'none',
  dynamic: ({ part, loudness }, { onset }) => part.dynamics.find(({ tick, level }) => tick === onset && level === null)?.text ?? loudness.levelAt(onset),
  hairpin: ({ part }, { onset, end }) => hairpinOver(part.hairpins, onset, end)?.kind ?? 'none',
  plucking: ({ plucked }, { onset }) => (plucked(onset) ? 'plucked' : 'bowed'),
};

const hairpinOver = (hairpins: readonly Hairpin[], from: number, to: number): Hairpin | undefined =>
  hairpins.find((each) => each.from < to && each.to > from && each.from <= from);

/** What holds on until it is said otherwise: a difference is named where it begins. */
const HOLDS_ON: ReadonlySet<Compared> = new Set<Compared>(['dynamic', 'hairpin', 'plucking']);

/** @param goesOn the same members were together in the bar before */
function differencesIn(members: readonly Lane[], barIndex: number, goesOn: boolean): PartsDiffer[] {
  const rows = members.map((lane) => ({ lane, events: lane.bars.get(barIndex)! }));
  return COMPARED.flatMap((what): PartsDiffer[] => {
    const values = rows.map(({ lane, events }) => events.map((i) => VALUES[what](lane, lane.row.events[i]!, i)));
    const before = goesOn ? rows.map(({ lane, events }) => valueBefore(what, lane, events[0]!)) : null;
    const valuesAt = (k: number) => (k < 0 ? before : values.map((row) => row[k]!));
    const differing = rows[0]!.events
      .map((_, k) => k)
      .filter((k) => new Set(values.map((row) => row[k]).filter((value) => value !== null)).size > 1)
      .filter((k) => !HOLDS_ON.has(what) || !sameValues(valuesAt(k - 1), valuesAt(k)!));
    if (differing.length === 0) return [];
    const { lane, events } = rows[0]!;
    const at = sayNote(lane.part, lane.row.events[events[differing[0]!]!]!.notes[0]!);
    const bySaid = new Map<string, Member[]>();
    rows.forEach((row, r) => {
      const value = inWords(what, row.lane, row.events, values[r]!, differing);
      if (value === null) return;
      const { partId, line, name } = row.lane;
      bySaid.set(value, [...(bySaid.get(value) ?? []), { partId, line, name }]);
    });
    const says = [...bySaid].map(([value, those]) => ({ value, members: those })).sort((a, b) => b.members.length - a.members.length);
    const text = `${says.map(({ value, members: those }) => `${those.map(({ name }) => name).join(' and ')} ${value}`).join(', ')}.`;
    return [{ what, barIndex, at, events: differing, says, text }];
  });
}

const sameValues = (a: ReadonlyArray<string | null> | null, b: ReadonlyArray<string | null>): boolean => a !== null && a.every((value, i) => value === b[i]);

/** The value at the last event before one, grace notes aside. */
function valueBefore(what: Compared, lane: Lane, event: number): string | null {
  for (let i = event - 1; i >= 0; i--) if (!lane.row.events[i]!.grace) return VALUES[what](lane, lane.row.events[i]!, i);
  return null;
}

/** What a member does where the bar differs; null where that is not known. */
function inWords(what: Compared, lane: Lane, events: readonly number[], values: ReadonlyArray<string | null>, differing: readonly number[]): string | null {
  const here = differing.map((k) => values[k]!);
  const [first] = here;
  const one = here.every((value) => value === first);
  switch (what) {
    case 'bow':
      return here.some((value) => value === null) ? null : one ? `${first}-bow` : here.join(', ');
    case 'slurs':
      return slursInWords(events.map((i) => lane.links[i]!));
    case 'articulation':
      return one ? (first === 'none' ? 'without' : first!) : `${here.filter((value) => value !== 'none').join(', ') || 'without'}`;
    case 'hairpin':
      return first === 'none' ? 'without hairpin' : first!;
    default:
      return [...new Set(here)].join(', ');
  }
}

/** @param links whether each event is slurred to the one before @example "slurs six", "separate", "slurs 2 + 1 + 3" */
function slursInWords(links: readonly boolean[]): string {
  const bows: number[] = [];
  links.forEach((linked, i) => {
    if (linked && i > 0) bows[bows.length - 1]!++;
    else bows.push(1);
  });
  const from = links[0] ? 'goes on and ' : '';
  if (bows.every((count) => count === 1)) return `${from}separate`;
  if (bows.length === 1) return `${from}slurs ${countedWord(bows[0]!)}`;
  return `${from}slurs ${bows.join(' + ')}`;
}

/** @example "bars 17–20: Violin I, Violin II" */
export const groupName = ({ fromBar, toBar, members }: Pick<RhythmGroup, 'fromBar' | 'toBar' | 'members'>, part: Pick<Part, 'bars'>): string =>
  `${toBar > fromBar ? 'bars' : 'bar'} ${sayBars(part.bars, { fromBar, toBar })}: ${members.map(({ name }) => name).join(', ')}`;
