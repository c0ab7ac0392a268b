/**
 * A grip: what the hand does for one event, one place per sounding note. Single notes are grips of
 * one place; double stops and chords need places that one hand can hold at the same time.
 */
import { isUpper } from '../instruments/instrument';
import { midiOf } from '../score/pitch';
import { stopMm } from '../instruments/geometry';
import { fingerNumber, spreadMm, THUMB, type Player } from '../instruments/player';
import type { Note } from '../score/score';
import type { LeftHandCosts } from './costs';
import { artificialGrips, artificialOf, isArtificial } from './artificial';
import { placesFor, type Place } from './places';

export interface Grip {
  /** One per note of the event, low to high. */
  places: Place[];
  /** The place that carries the hand: the stopped one of the lowest finger, else the open one. */
  lead: Place;
  /** True when no finger is down. */
  open: boolean;
  /** Cost of holding the notes together, zero for a single note. */
  togetherCost: number;
  /** Mean string, for crossings. */
  string: number;
  /** Share of its bar by which it goes against how the same music is fingered elsewhere; 0 where nothing is asked. */
  unlike: number;
}

/** What the coach has fixed for a note. */
export interface Lock {
  finger?: string;
  string?: number;
  /** By its name. */
  position?: string;
}

const MOST_NOTES = 6;

/** All grips for an event; locks keep only what the coach asked for. Empty when it cannot be played. */
export function gripsFor(notes: readonly Note[], player: Player, costs: LeftHandCosts, lockOf: (note: Note) => Lock | undefined): Grip[] {
  if (isArtificial(notes)) {
    const made = artificialGrips(notes, player, costs).filter(({ places }) => places.every((place, i) => fits(place, lockOf(notes[i]!))));
    // Heads that make no harmonic together are taken for what they look like.
    if (made.length > 0 || artificialOf(notes) !== null) return made;
  }
  if (notes.length > MOST_NOTES) return [];
  const sounding = notes;
  const choices = sounding.map((note) => placesFor(note, player, costs));
  if (choices.length === 1)
    return choices[0]!
      .filter((place) => fits(place, lockOf(sounding[0]!)))
      .map((place) => ({ places: [place], lead: place, open: place.finger === 0, togetherCost: 0, string: place.string, unlike: 0 }));
  return chordGrips(choices, sounding, player, costs, lockOf);
}

/**
 * What one hand can hold of a chord that is too much for it: as many notes as go, the top one among them, the upper ones rather
 * than the lower ones; the rest is struck before and let go (common practice for broken chords). Null where not even the top can be had.
 */
export function holdable(notes: readonly Note[], player: Player, costs: LeftHandCosts): Note[] | null {
  const top = notes.at(-1)!;
  const under = notes.slice(0, -1).reverse();
  for (let size = Math.min(player.instrument.strings.length, notes.length - 1); size >= 1; size--) {
    for (const chosen of combinations(under.slice(0, MOST_UNDER), size - 1)) {
      const held = [...chosen, top].sort((a, b) => midiOf(a.pitch) - midiOf(b.pitch));
      if (gripsFor(held, player, costs, () => undefined).length > 0) return held;
    }
  }
  return null;
}

/** Notes under the top one that are looked at. */
const MOST_UNDER = 8;

function combinations<T>(items: readonly T[], size: number): T[][] {
  if (size === 0) return [[]];
  return items.flatMap((item, i) => combinations(items.slice(i + 1), size - 1).map((rest) => [item, ...rest]));
}

function fits(place: Place, lock: Lock | undefined): boolean {
  if (!lock) return true;
  if (lock.string !== undefined && place.string !== lock.string) return false;
  if (lock.position !== undefined && place.position !== lock.position) return false;
  if (lock.finger === undefined) return true;
  const finger = fingerNumber(lock.finger);
  return place.finger === finger || (finger === 0 && place.harmonic !== null);
}

/** Violin and viola: the fourth finger may reach this far above the first in a double stop, half steps: unisons are 7, tenths 8 and 9. */
const WIDE_FROM = 6;
const WIDE_TO = 10;

/**
 * Places that only double stops ask for: the fourth finger beyond its letter frame while the first stays, as far as the hand
 * goes (unisons and tenths on neighbouring strings; common practice).
 */
function widePlaces(choices: readonly Place[][], notes: readonly Note[], player: Player, costs: LeftHandCosts): Place[][] {
  const { kind } = player.instrument;
  if (!isUpper(kind)) return choices.map((places) => [...places]);
  return choices.map((places, i) => {
    const wide: Place[] = [];
    choices.forEach((others, k) => {
      if (k === i) return;
      for (const first of others) {
        if (first.finger !== 1 || first.harmonic !== null || first.extension) continue;
        for (const string of [first.string - 1, first.string + 1]) {
          const open = player.instrument.strings[string - 1];
          if (!open) continue;
          const stop = midiOf(notes[i]!.pitch) - midiOf(open);
          if (stop - first.stop < WIDE_FROM || stop - first.stop > WIDE_TO || stop > player.instrument.highestStop) continue;
          if (places.some((place) => place.string === string && place.finger === 4 && place.handMm === first.handMm)) continue;
          wide.push({ ...first, string, stop, finger: 4, shape: 'extended', extension: true, frameCost: 0, extensionCost: costs.fourthExtended });
        }
      }
    });
    return [...places, ...wide];
  });
}

function chordGrips(found: readonly Place[][], notes: readonly Note[], player: Player, costs: LeftHandCosts, lockOf: (note: Note) => Lock | undefined): Grip[] {
  const choices = widePlaces(found, notes, player, costs).map((places, i) => places.filter((place) => fits(place, lockOf(notes[i]!))));
  let partial: Place[][] = [[]];
  for (const places of choices) {
    const next: Place[][] = [];
    for (const held of partial) {
      for (const place of places) if (held.every((other) => together(other, place, player))) next.push([...held, place]);
    }
    partial = next;
  }
  return partial.filter(neighbouring).map((places) => {
    const stopped = places.filter((place) => place.finger !== 0);
    const lead = stopped.reduce<Place | null>((best, place) => (best === null || rank(place) < rank(best) ? place : best), null) ?? places[0]!;
    return {
      places,
      lead,
      open: stopped.length === 0,
      togetherCost: costs.doubleStop * (places.length - 1) + stretchCost(stopped, player, costs) + octaveCost(stopped, player, costs),
      string: places.reduce((sum, place) => sum + place.string, 0) / places.length,
      unlike: 0,
    };
  });
}

/** The bow cannot pass over a string that lies between. */
function neighbouring(places: readonly Place[]): boolean {
  const strings = places.map((place) => place.string);
  return Math.max(...strings) - Math.min(...strings) === strings.length - 1;
}

const rank = (place: Place): number => (place.finger === THUMB ? 0.5 : place.finger);

/** Whether two notes can be held by one hand: different strings, one frame, fingers in order, no finger in two places. */
function together(a: Place, b: Place, player: Player): boolean {
  if (a.string === b.string) return false;
  if (a.finger === 0 || b.finger === 0) return true;
  if (a.finger === b.finger) return a.stop === b.stop && Math.abs(a.string - b.string) === 1 && a.finger !== 4;
  if (Math.abs(a.handMm - b.handMm) > 0.5 || (a.shape === 'thumb') !== (b.shape === 'thumb')) return false;
  const [low, high] = rank(a) < rank(b) ? [a, b] : [b, a];
  if (low.stop > high.stop) return false;
  const spread = spreadMm(player.hand, low.finger, high.finger);
  return spread === null || distanceMm(player, low, high) <= spread.limit;
}

function distanceMm(player: Player, a: Place, b: Place): number {
  const length = player.instrument.lengthMm;
  return Math.abs(stopMm(length, a.stop) - stopMm(length, b.stop));
}

/** On violin and viola an octave is the frame of the hand, 1 and 4 (common practice). */
function octaveCost(stopped: readonly Place[], { instrument }: Player, costs: LeftHandCosts): number {
  if (!isUpper(instrument.kind)) return 0;
  const octaves = stopped.flatMap((low) =>
    stopped.filter((high) => high.string === low.string - 1 && high.stop - low.stop === OCTAVE_OVER_A_FIFTH).map((high) => [low, high]),
  );
  return octaves.some(([low, high]) => low!.finger !== 1 || high!.finger !== 4) ? costs.octaveOtherwise : 0;
}

/** Stops apart on strings a fifth apart. */
const OCTAVE_OVER_A_FIFTH = 5;

function stretchCost(stopped: readonly Place[], player: Player, costs: LeftHandCosts): number {
  let cost = 0;
  for (let i = 0; i < stopped.length; i++) {
    for (let k = i + 1; k < stopped.length; k++) {
      const spread = spreadMm(player.hand, stopped[i]!.finger, stopped[k]!.finger);
      if (!spread) continue;
      const over = distanceMm(player, stopped[i]!, stopped[k]!) - spread.comfortable;
      if (over > 0) cost += costs.stretch * (1 + over / 10);
    }
  }
  return cost;
}
