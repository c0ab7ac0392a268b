/** Fingerings for a line: the best way and others that differ in strategy, each with its reasons. */
import { midiOf, pitchName, spelled } from '../score/pitch';
import type { Instrument } from '../instruments/instrument';
import type { Line, LineEvent } from '../score/lines';
import { beatOf, type Note, type Part, type Score } from '../score/score';
import type { Clock } from '../score/time';
import { fingerName, THUMB, type Player } from '../instruments/player';
import { fingerInForce, stringInForce, type Marking } from '../marking/mark';
import { slurLinks } from '../marking/links';
import { DEFAULT_COSTS, STRATEGIES, TERMS, type LeftHandCosts, type Strategy, type Term } from './costs';
import { gripsFor, type Grip, type Lock } from './grip';
import { momentsOf } from './moments';
import type { Place } from './places';
import { carriedBy, cheapestPath, type PathMemory } from './search';
import { isShift, shiftBetween, type HeardWhere, type Shift } from './shift';
import { moveCost, ownCost, shiftSeconds, startCost, termsRecord, weighingFor, type Carried, type Moment } from './transition';

export interface FingeringRequest {
  score: Pick<Score, 'ticksPerQuarter'>;
  part: Part;
  line: Line;
  player: Player;
  clock: Clock;
  marking: Marking;
  costs?: LeftHandCosts;
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
}

export const newFingeringMemory = (): FingeringMemory => ({ settings: '', grips: new Map(), path: { kept: null } });

/** Another player or other costs, and nothing is kept. */
function memoryFor(request: FingeringRequest, memory: FingeringMemory): FingeringMemory {
  const settings = JSON.stringify([request.player, request.costs ?? null]);
  if (memory.settings !== settings) Object.assign(memory, newFingeringMemory(), { settings });
  return memory;
}

export interface TickRange {
  from: number;
  to: number;
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
}

export interface FingeringResult {
  alternatives: Fingering[];
  /** Events that have no grip at all, or none with the coach's marks; the rest is planned around them. */
  unplayable: Unplayable[];
}

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
  const costs = request.costs ?? DEFAULT_COSTS;
  const allMoments = momentsOf(line, clock, slurLinks(part, line, marking));
  const prepared: Prepared = { events: [], eventIndex: [], grips: [], moments: [], unplayable: [] };
  const lockOf = (note: Note): Lock | undefined => lockFor(note, marking);
  line.events.forEach((event, i) => {
    const locks = event.notes.map((note) => lockFor(note, marking));
    const key = event.notes
      .map(
        (note, k) =>
          `${note.pitch.step}${note.pitch.alter}${note.pitch.octave}${note.harmonic ?? ''}${note.harmonicShows ?? ''}${locks[k]?.finger ?? ''}/${locks[k]?.string ?? ''}`,
      )
      .join(' ');
    let grips = kept(cache, key, () => gripsFor(event.notes, player, costs, lockOf));
    if (grips.length === 0) {
      const free = locks.some(Boolean) ? kept(cache, `${key} free`, () => gripsFor(event.notes, player, costs, () => undefined)) : [];
      prepared.unplayable.push({ event, reason: free.length ? 'the marks contradict' : whyNot(event, player) });
      grips = free;
    }
    if (grips.length === 0) return;
    prepared.events.push(event);
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
  if (finger === null && string === null) return undefined;
  return { ...(finger === null ? {} : { finger }), ...(string === null ? {} : { string }) };
}

function whyNot(event: LineEvent, player: Player): Unplayable['reason'] {
  const strings = player.instrument.strings.map(midiOf);
  const lowest = Math.min(...strings);
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
  const { grips, path } = memoryFor(request, memory);
  const whole = prepareFingering(request, grips);
  return request.within ? planWithin(request, whole, request.within, path) : planAlternatives(request, whole, path);
}

function planWithin(request: FingeringRequest, whole: Prepared, within: TickRange, path: PathMemory): FingeringResult {
  const inside = (event: LineEvent) => event.onset >= within.from && event.onset < within.to;
  const first = whole.events.findIndex(inside);
  const unplayable = whole.unplayable.filter(({ event }) => inside(event));
  if (first < 0) return { alternatives: [], unplayable };
  let last = first;
  while (whole.events[last + 1] && inside(whole.events[last + 1]!)) last++;
  const costs = request.costs ?? DEFAULT_COSTS;
  const { choice } = cheapestPath({ grips: whole.grips, moments: whole.moments, weighing: weighingFor(request.player, costs, STRATEGIES[0]!) }, path);
  const from = Math.max(0, first - CONTEXT_BEFORE);
  const to = Math.min(whole.events.length, last + 1 + CONTEXT_AFTER);
  const slice: Prepared = {
    events: whole.events.slice(from, to),
    eventIndex: whole.eventIndex.slice(from, to),
    grips: whole.grips.slice(from, to).map((grips, i) => (from + i < first || from + i > last ? [grips[choice[from + i]!]!] : grips)),
    moments: whole.moments.slice(from, to),
    unplayable,
  };
  const result = planAlternatives(request, slice);
  const ids = new Set(whole.events.slice(first, last + 1).flatMap((event) => event.ids));
  return { unplayable, alternatives: result.alternatives.map((way) => ({ ...way, notes: way.notes.filter((note) => ids.has(note.id)) })) };
}

function planAlternatives(request: FingeringRequest, prepared: Prepared, path: PathMemory = { kept: null }): FingeringResult {
  const wanted = request.alternatives ?? 3;
  const found: Fingering[] = [];
  const seen = new Set<string>();
  const take = (choice: number[], strategy: Strategy) => {
    const key = choice.map((g, i) => placeKey(prepared.grips[i]![g]!)).join(' ');
    if (seen.has(key)) return;
    seen.add(key);
    found.push(explain(request, prepared, choice, strategy));
  };
  const costs = request.costs ?? DEFAULT_COSTS;
  for (const strategy of STRATEGIES) {
    if (found.length > 0 && wanted === 1) break;
    const weighing = weighingFor(request.player, costs, strategy);
    const known = strategy === STRATEGIES[0] ? path : { kept: null };
    take(cheapestPath({ grips: prepared.grips, moments: prepared.moments, weighing }, known).choice, strategy);
  }
  if (found.length < wanted) addDetours(request, prepared, found[0], wanted, take);
  const [best, ...rest] = found;
  if (!best) return { alternatives: [], unplayable: prepared.unplayable };
  rest.sort((a, b) => a.total - b.total);
  return { alternatives: [best, ...rest].slice(0, wanted), unplayable: prepared.unplayable };
}

/** When strategies agree too often: forbid the best way's own places one by one, where it shifts first. */
function addDetours(
  request: FingeringRequest,
  prepared: Prepared,
  best: Fingering | undefined,
  wanted: number,
  take: (choice: number[], strategy: Strategy) => void,
): void {
  if (!best) return;
  const weighing = weighingFor(request.player, request.costs ?? DEFAULT_COSTS, STRATEGIES[0]!);
  const spots = best.notes
    .filter((note) => note.shift)
    .concat(best.notes)
    .slice(0, wanted * 2);
  for (const spot of spots) {
    const at = prepared.eventIndex.indexOf(spot.event);
    const grips = prepared.grips.map((list, i) => (i === at ? list.filter((grip) => !grip.places.some((place) => samePlace(place, spot.place))) : list));
    if (grips[at]!.length === 0) continue;
    const result = cheapestPath({ grips, moments: prepared.moments, weighing });
    const choice = result.choice.map((g, i) => (i === at ? prepared.grips[i]!.indexOf(grips[i]![g]!) : g));
    take(choice, { ...STRATEGIES[0]!, name: 'another way', aim: `another way to play bar ${barLabelOf(request.part, spot.id)}` });
  }
}

function barLabelOf(part: Part, noteId: string): string {
  const note = part.notes.find((candidate) => candidate.id === noteId);
  return (note && part.bars[note.barIndex]?.label) ?? '?';
}

const placeKey = (grip: Grip): string => grip.places.map((place) => `${place.string}.${place.finger}.${place.stop}.${place.hand}`).join('+');
const samePlace = (a: Place, b: Place): boolean => a.string === b.string && a.finger === b.finger && a.stop === b.stop && a.hand === b.hand;

/** Costs a chosen row of grips with the plain weights and says what happens at each note. */
export function explain(request: FingeringRequest, prepared: Prepared, choice: readonly number[], strategy: Strategy): Fingering {
  const { player } = request;
  const costs = request.costs ?? DEFAULT_COSTS;
  const weighing = weighingFor(player, costs, STRATEGIES[0]!);
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
  let total = 0;
  for (const term of terms) total += term;
  return { strategy: strategy.name, aim: strategy.aim, total: Math.round(total * 1000) / 1000, terms: termsRecord(terms), notes };
}

/** Heads of one event that belong to one of its notes (tied continuations). */
function idsOfNote(event: LineEvent, note: Note): string[] {
  if (event.ids.length === event.notes.length) return [note.id];
  const pitch = note.id.split('-').at(-2);
  return event.ids.filter((id) => id === note.id || id.split('-').at(-2) === pitch);
}

function shiftOf(carried: Carried, last: Grip, grip: Grip, moment: Moment, player: Player, costs: LeftHandCosts): Shift | null {
  if (!isShift(carried.grip.lead, grip.lead)) return null;
  const heard: HeardWhere =
    moment.restBeforeS >= 0.08 ? 'in a rest' : last.open ? 'across an open string' : moment.slurredFromLast ? 'in a slur' : 'at a bow change';
  const time = { gapS: shiftSeconds(carried, moment, costs), freeS: Math.max(0, moment.onsetS - carried.endS), lastS: carried.durationS };
  return shiftBetween(carried.grip.lead, grip.lead, player.instrument.lengthMm, time, heard);
}

/** Covered intervals reach over this many events in between. */
const COVERED_REACH = 3;

/** One finger needed at the same stop on two neighbouring strings within the next few notes (not the fourth). */
function findCovered(notes: FingeredNote[]): void {
  for (let i = 0; i < notes.length; i++) {
    const a = notes[i]!;
    if (a.place.finger === 0 || a.place.finger === 4) continue;
    for (let k = i + 1; k < notes.length && notes[k]!.event - a.event <= COVERED_REACH; k++) {
      const b = notes[k]!;
      if (b.place.finger === 0) continue;
      if (isShift(a.place, b.place)) break;
      if (b.place.finger === a.place.finger && b.place.stop !== a.place.stop) break;
      if (b.place.finger === a.place.finger && b.place.stop === a.place.stop && Math.abs(b.place.string - a.place.string) === 1) {
        a.covered = [...(a.covered ?? []), b.id];
        b.covered = [...(b.covered ?? []), a.id];
        break;
      }
    }
  }
}

/** The marks a player needs: the start, every shift, what is on an unexpected string or finger. */
export function marksWorthWriting(fingering: Fingering): FingeredNote[] {
  const worth: FingeredNote[] = [];
  let lastEvent = -1;
  let last: FingeredNote | null = null;
  for (const note of fingering.notes) {
    const { place } = note;
    const first = lastEvent === -1;
    const openSchool = place.finger === 4 && place.stop === 7;
    const shifted = note.shift !== null;
    const extended = place.extension && last !== null && last.place.shape !== place.shape;
    const thumb = place.finger === THUMB && last?.place.finger !== THUMB;
    const upThere = place.harmonic !== null;
    const openAgain = place.finger === 0 && last !== null && last.place.finger !== 0 && note.event !== last.event && place.string !== last.place.string;
    if (first || shifted || extended || openSchool || thumb || upThere || openAgain) worth.push(note);
    lastEvent = note.event;
    last = note;
  }
  return worth;
}

/** A fingered note as the headless door prints it. */
export function fingeredNoteJson(part: Part, ticksPerQuarter: number, fingered: FingeredNote, note: Note, instrument: Instrument) {
  const bar = part.bars[note.barIndex]!;
  const { place, shift } = fingered;
  return {
    id: note.id,
    bar: bar.label,
    barIndex: note.barIndex,
    beat: beatOf(bar, note.tick, ticksPerQuarter),
    pitch: pitchName(note.pitch),
    string: place.string,
    finger: fingerName(place.finger),
    stop: place.stop,
    hand: place.hand,
    position: place.position,
    shift: shift && {
      mm: round(shift.mm, 1),
      gapMs: Math.round(shift.gapMs),
      bits: round(shift.bits, 2),
      bitsPerS: round(shift.bitsPerS, 1),
      kind: shift.kind,
      guideNote: guideNoteName(shift, instrument, bar.fifths),
      heard: shift.heard,
    },
    extension: place.extension,
    harmonic: place.harmonic,
    covered: fingered.covered,
  };
}

/** The unplayed pitch that the old finger reaches when the hand has arrived (domain: guide note). */
export function guideNoteName(shift: Shift, instrument: Instrument, fifths: number): string | null {
  if (shift.guide === null) return null;
  const open = instrument.strings[shift.guide.string - 1]!;
  return pitchName(spelled(midiOf(open) + shift.guide.stop, fifths));
}

const round = (value: number, digits: number): number => Math.round(value * 10 ** digits) / 10 ** digits;
