/** Fingerings for a line: the best way and others that differ in strategy, each with its reasons. */
import { hidesShift, moveCost, ownCost, shiftSeconds, startCost, termsRecord, weighed, weighingFor, type Carried, type Moment } from './transition';
import { sameWrittenPitch } from '../score/identity';
import { midiOf } from '../score/pitch';
import type { TickRange } from '../score/bars';
import type { Line, LineEvent } from '../instruments/lines';
import type { Note, Part } from '../score/score';
import type { Clock } from '../score/time';
import type { Player } from '../instruments/player';
import { fingerInForce, markAt, stringInForce, type Marking } from '../marking/mark';
import { slurLinks } from '../marking/links';
import { STRATEGIES, TERMS, type LeftHandCosts, type Strategy, type Term } from './costs';
import { detours } from './detours';
import { alikeGroups, unlikeFingers, wishedAlike, type UnlikeFingers } from './alike';
import { gripsFor, holdable, type Grip, type Lock } from './grip';
import { momentsOf } from './moments';
import { resolved, type HandPreferences, type Resolved } from './preferences';
import type { Place } from './places';
import { carriedBy, cheapestPath, MoveTables, type PathMemory } from './search';
import { isShift, shiftBetween, type HeardWhere, type Shift } from './shift';
import { findCovered } from './covered';

export interface FingeringRequest {
  part: Part;
  line: Line;
  player: Player;
  clock: Clock;
  marking: Marking;
  /** Single constants of the model that were changed by name. */
  costs?: LeftHandCosts | undefined;
  preferences?: HandPreferences | undefined;
  /** How many alternatives at most. */
  alternatives?: number;
  /** Only this passage is returned, in ticks of the part; the end is not included. */
  within?: TickRange;
}

/** What is kept from one plan of a line to the next: grips of every note seen, and the last search with the plain weights. */
export interface FingeringMemory {
  settings: string;
  grips: Map<string, Grip[]>;
  path: PathMemory;
  /** The last search with the same music asked to be fingered alike. */
  alike: PathMemory;
}

export const newFingeringMemory = (): FingeringMemory => {
  const moves = new MoveTables();
  return { settings: '', grips: new Map(), path: { kept: null, moves }, alike: { kept: null, moves } };
};

/** A memory to try something with: what it learns is not kept. */
export const forkedFingering = (memory: FingeringMemory): FingeringMemory => ({ ...memory, path: { ...memory.path }, alike: { ...memory.alike } });

/** Another player or other costs, and nothing is kept. */
export function memoryFor(request: FingeringRequest, memory: FingeringMemory): FingeringMemory {
  const settings = JSON.stringify([request.player, request.costs ?? null, request.preferences ?? null]);
  if (memory.settings !== settings) Object.assign(memory, newFingeringMemory(), { settings });
  return memory;
}

export interface FingeredNote {
  id: string;
  /** Index of the event in the line that was searched. */
  event: number;
  place: Place;
  shift: Shift | null;
  /** Ids of notes that the same finger covers on the neighbouring string. */
  covered: string[] | null;
}

export interface Fingering {
  strategy: string;
  aim: string;
  total: number;
  terms: Partial<Record<Term, number>>;
  notes: FingeredNote[];
}

export interface Unplayable {
  event: LineEvent;
  reason: 'below the lowest string' | 'above the fingerboard' | 'no hand can hold it' | 'the marks contradict';
  /** The notes of a chord that are planned all the same. */
  held: Note[];
}

export interface FingeringResult {
  alternatives: Fingering[];
  /** Where the best way fingers the same music otherwise than elsewhere, and why. */
  unlike: UnlikeFingers[];
  /** Events that have no grip at all, or none with the coach's marks; the rest is planned around them. */
  unplayable: Unplayable[];
}

/** The weights and constants that a request plans with. */
export const preferredBy = ({ preferences, costs }: Pick<FingeringRequest, 'preferences' | 'costs'>): Resolved => resolved(preferences, costs);

/** Everything about a line that does not depend on the strategy. */
export interface Prepared {
  events: LineEvent[];
  eventIndex: number[];
  grips: Grip[][];
  moments: Moment[];
  unplayable: Unplayable[];
}

export function prepareFingering(request: FingeringRequest, cache = new Map<string, Grip[]>()): Prepared {
  const { part, line, player, clock, marking } = request;
  const { costs } = preferredBy(request);
  const allMoments = momentsOf(part, line, clock, slurLinks(part, line, marking));
  const prepared: Prepared = { events: [], eventIndex: [], grips: [], moments: [], unplayable: [] };
  const lockOf = (note: Note): Lock | undefined => lockFor(note, marking);
  line.events.forEach((event, i) => {
    const locks = event.notes.map((note) => lockFor(note, marking));
    const key = event.notes
      .map(
        (note, k) =>
          `${note.pitch.step}${note.pitch.alter}${note.pitch.octave}${note.harmonic ?? ''}${note.harmonicShows ?? ''}${locks[k]?.finger ?? ''}/${locks[k]?.string ?? ''}/${locks[k]?.position ?? ''}`,
      )
      .join(' ');
    let grips = kept(cache, key, () => gripsFor(event.notes, player, costs, lockOf));
    let planned = event;
    if (grips.length === 0) {
      grips = locks.some(Boolean) ? kept(cache, `${key} free`, () => gripsFor(event.notes, player, costs, () => undefined)) : [];
      const contradict = grips.length > 0;
      const held = contradict || event.notes.length < 2 ? null : holdable(event.notes, player, costs);
      if (held) {
        planned = { ...event, notes: held };
        grips = kept(cache, `${key} held`, () => gripsFor(held, player, costs, () => undefined));
      }
      prepared.unplayable.push({ event, reason: contradict ? 'the marks contradict' : whyNot(event, player), held: held ?? [] });
    }
    if (grips.length === 0) return;
    prepared.events.push(planned);
    prepared.eventIndex.push(i);
    prepared.grips.push(grips);
    prepared.moments.push(allMoments[i]!);
  });
  return prepared;
}

function kept(cache: Map<string, Grip[]>, key: string, make: () => Grip[]): Grip[] {
  let grips = cache.get(key);
  if (!grips) cache.set(key, (grips = make()));
  return grips;
}

function lockFor(note: Note, marking: Marking): Lock | undefined {
  const finger = fingerInForce(note, marking);
  const string = stringInForce(note, marking);
  const position = markAt(marking, note.id, 'position')?.value ?? null;
  if (finger === null && string === null && position === null) return undefined;
  return { ...(finger === null ? {} : { finger }), ...(string === null ? {} : { string }), ...(position === null ? {} : { position }) };
}

function whyNot(event: LineEvent, player: Player): Unplayable['reason'] {
  const strings = player.instrument.strings.map(midiOf);
  const lowest = Math.min(...strings) - player.instrument.belowNut;
  const highest = Math.max(...strings) + player.instrument.highestStop;
  if (event.notes.some((note) => midiOf(note.pitch) < lowest)) return 'below the lowest string';
  if (event.notes.some((note) => midiOf(note.pitch) > highest)) return 'above the fingerboard';
  return event.notes.length > 1 ? 'no hand can hold it' : 'above the fingerboard';
}

/** Events of context around a passage: the hand comes from somewhere and goes somewhere. */
const CONTEXT_BEFORE = 8;

const CONTEXT_AFTER = 4;

/**
 * The best fingering and up to k − 1 others that differ, dearest last. With `within` the others differ only there:
 * what lies around is held as the best fingering of the whole line has it, and only the passage is returned.
 */
export function planFingering(request: FingeringRequest, memory = newFingeringMemory()): FingeringResult {
  const { grips, path, alike } = memoryFor(request, memory);
  const plain = prepareFingering(request, grips);
  if (plain.events.length === 0) return { alternatives: [], unlike: [], unplayable: unplayableIn(plain, request.within) };
  const weighing = weighingFor(request.player, preferredBy(request));
  const first = cheapestPath({ grips: plain.grips, moments: plain.moments, weighing }, path);
  const groups = alikeGroups(request.part, request.line, plain);
  const whole = wishedAlike(plain, groups, first.choice);
  if (whole !== plain && alike.kept === null) alike.kept = path.kept;
  const best: Best =
    whole === plain
      ? { choice: first.choice, path }
      : { choice: cheapestPath({ grips: whole.grips, moments: whole.moments, weighing }, alike).choice, path: alike };
  const { choice } = best;
  const unlike = whole === plain ? [] : unlikeFingers(plain, groups, choice, request.marking);
  const inside = (barIndex: number) => {
    const bar = request.part.bars[barIndex]!;
    return !request.within || (bar.onset < request.within.to && bar.onset + bar.ticks > request.within.from);
  };
  const result = request.within ? planWithin(request, whole, choice, request.within) : planAlternatives(request, whole, best);
  return { ...result, unlike: unlike.filter(({ barIndex }) => inside(barIndex)) };
}

const unplayableIn = ({ unplayable }: Prepared, within: TickRange | undefined): Unplayable[] =>
  unplayable.filter(({ event }) => !within || (event.onset >= within.from && event.onset < within.to));

type Planned = Omit<FingeringResult, 'unlike'>;

function planWithin(request: FingeringRequest, whole: Prepared, choice: readonly number[], within: TickRange): Planned {
  const inside = (event: LineEvent) => event.onset >= within.from && event.onset < within.to;
  const first = whole.events.findIndex(inside);
  const unplayable = unplayableIn(whole, within);
  if (first < 0) return { alternatives: [], unplayable };
  let last = first;
  while (whole.events[last + 1] && inside(whole.events[last + 1]!)) last++;
  const from = Math.max(0, first - CONTEXT_BEFORE);
  const to = Math.min(whole.events.length, last + 1 + CONTEXT_AFTER);
  const held = (at: number) => at < first || at > last;
  const slice: Prepared = {
    events: whole.events.slice(from, to),
    eventIndex: whole.eventIndex.slice(from, to),
    grips: whole.grips.slice(from, to).map((grips, i) => (held(from + i) ? [grips[choice[from + i]!]!] : grips)),
    moments: whole.moments.slice(from, to),
    unplayable,
  };
  const result = planAlternatives(request, slice, null);
  const ids = new Set(whole.events.slice(first, last + 1).flatMap((event) => event.ids));
  return { unplayable, alternatives: result.alternatives.map((way) => ({ ...way, notes: way.notes.filter((note) => ids.has(note.id)) })) };
}

/** Of the ways that are shown, this many at most are near neighbours of the best; the others differ in what they are after. */
const NEIGHBOURS_SHOWN = 2;

/** @param best the cheapest way, and the search that found it, where they are known already */
function planAlternatives(request: FingeringRequest, prepared: Prepared, known: Best | null): Planned {
  const wanted = request.alternatives ?? 3;
  const { grips, moments, unplayable } = prepared;
  const preferred = preferredBy(request);
  const plain = weighingFor(request.player, preferred);
  const path: PathMemory = known?.path ?? { kept: null };
  const best = known?.choice ?? cheapestPath({ grips, moments, weighing: plain }, path).choice;
  const first = explain(request, prepared, best, STRATEGIES[0]!);
  if (wanted === 1) return { alternatives: [first], unplayable };
  const seen = new Set([rowKey(prepared, best)]);
  const isNew = (choice: readonly number[]) => !seen.has(rowKey(prepared, choice)) && seen.add(rowKey(prepared, choice));
  const others: Fingering[] = [];
  for (const strategy of STRATEGIES.slice(1)) {
    const { choice } = cheapestPath({ grips, moments, weighing: weighingFor(request.player, preferred, strategy) });
    if (isNew(choice)) others.push(explain(request, prepared, choice, strategy));
  }
  const near = detours(prepared, best, plain, path).filter(({ choice }) => isNew(choice));
  const neighbours = Math.max(Math.min(NEIGHBOURS_SHOWN, wanted - 2), wanted - 1 - others.length);
  for (const { choice, at } of near.slice(0, neighbours)) {
    const aim = `another way to play bar ${barLabelOf(request.part, prepared.events[at]!.ids[0]!)}`;
    others.push(explain(request, prepared, choice, { ...STRATEGIES[0]!, name: 'another way', aim }));
  }
  others.sort((a, b) => a.total - b.total);
  return { alternatives: [first, ...others].slice(0, wanted), unplayable };
}

/** The cheapest way, and the search that found it. */
interface Best {
  choice: readonly number[];
  path: PathMemory;
}

function barLabelOf(part: Part, noteId: string): string {
  const note = part.notes.find((candidate) => candidate.id === noteId);
  return (note && part.bars[note.barIndex]?.label) ?? '?';
}

/** What a player would see written: two ways with the same fingers on the same strings are one. */
const rowKey = ({ grips }: Prepared, choice: readonly number[]): string =>
  choice.map((g, i) => grips[i]![g]!.places.map((place) => `${place.string}.${place.finger}.${place.stop}`).join('+')).join(' ');

/** Costs a chosen row of grips with the preferred weights and says what happens at each note. */
export function explain(request: FingeringRequest, prepared: Prepared, choice: readonly number[], strategy: Strategy): Fingering {
  const { player } = request;
  const preferred = preferredBy(request);
  const { costs } = preferred;
  const weighing = weighingFor(player, preferred);
  const terms = new Float64Array(TERMS.length);
  const notes: FingeredNote[] = [];
  let carried: Carried | null = null;
  let last: Grip | null = null;
  choice.forEach((g, i) => {
    const grip = prepared.grips[i]![g]!;
    const moment = prepared.moments[i]!;
    ownCost(grip, moment, weighing, terms);
    if (last === null) startCost(grip, weighing, terms);
    else moveCost(last, carried, grip, moment, weighing, terms);
    const shift = carried && last && !grip.open ? shiftOf(carried, last, grip, moment, player, costs) : null;
    const event = prepared.events[i]!;
    event.notes.forEach((note, k) => {
      const place = grip.places[k];
      if (!place) return;
      for (const id of idsOfNote(event, note)) {
        notes.push({ id, event: prepared.eventIndex[i]!, place, shift: id === note.id ? shift : null, covered: null });
      }
    });
    if (!grip.open) carried = carriedBy(grip, moment).carried;
    last = grip;
  });
  findCovered(notes);
  const total = Math.round(weighed(terms, weighing) * 1000) / 1000;
  return { strategy: strategy.name, aim: strategy.aim, total, terms: termsRecord(terms, weighing), notes };
}

/** Heads of one event that belong to one of its notes (tied continuations). */
function idsOfNote(event: LineEvent, note: Note): string[] {
  if (event.ids.length === event.notes.length) return [note.id];
  return event.ids.filter((id) => sameWrittenPitch(id, note.id));
}

function shiftOf(carried: Carried, last: Grip, grip: Grip, moment: Moment, player: Player, costs: LeftHandCosts): Shift | null {
  if (!isShift(carried.grip.lead, grip.lead)) return null;
  const heard = heardWhere(carried.grip, last, grip, moment);
  const time = {
    gapS: shiftSeconds(carried, moment, costs),
    freeS: Math.max(0, moment.onsetS - carried.endS),
    lastS: carried.durationS,
    stolenS: costs.stolenSeconds,
  };
  return shiftBetween(carried.grip.lead, grip.lead, player.instrument.lengthMm, time, heard);
}

function heardWhere(from: Grip, last: Grip, grip: Grip, moment: Moment): HeardWhere {
  if (hidesShift(moment)) return 'in a rest';
  if (last.open) return 'across an open string';
  if (from.lead.harmonic !== null || grip.lead.harmonic !== null) return 'on a harmonic';
  return moment.slurredFromLast ? 'in a slur' : 'at a bow change';
}
