/**
 * A grip: what the hand does for one event, one place per sounding note. Single notes are grips of
 * one place; double stops and chords need places that one hand can hold at the same time.
 */
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
}

/** What the coach has fixed for a note. */
export interface Lock {
  finger?: string;
  string?: number;
}

const MOST_NOTES = 6;

/** All grips for an event; locks keep only what the coach asked for. Empty when it cannot be played. */
export function gripsFor(notes: readonly Note[], player: Player, costs: LeftHandCosts, lockOf: (note: Note) => Lock | undefined): Grip[] {
  if (isArtificial(notes)) {
    const made = artificialGrips(notes, player, costs).filter(({ places }) => places.every((place, i) => fits(place, lockOf(notes[i]!))));
    // Heads that make no harmonic together are taken for what they look like.
    if (made.length > 0 || artificialOf(notes) !== null) return made;
  }
  const sounding = notes.length > MOST_NOTES ? notes.slice(-MOST_NOTES) : notes;
  const choices = sounding.map((note) => {
    const lock = lockOf(note);
    return placesFor(note, player, costs).filter((place) => fits(place, lock));
  });
  if (choices.some((places) => places.length === 0)) return [];
  if (choices.length === 1)
    return choices[0]!.map((place) => ({ places: [place], lead: place, open: place.finger === 0, togetherCost: 0, string: place.string }));
  return chordGrips(choices, player, costs);
}

function fits(place: Place, lock: Lock | undefined): boolean {
  if (!lock) return true;
  if (lock.string !== undefined && place.string !== lock.string) return false;
  if (lock.finger === undefined) return true;
  const finger = fingerNumber(lock.finger);
  return place.finger === finger || (finger === 0 && place.harmonic !== null);
}

function chordGrips(choices: readonly Place[][], player: Player, costs: LeftHandCosts): Grip[] {
  let partial: Place[][] = [[]];
  for (const places of choices) {
    const next: Place[][] = [];
    for (const held of partial) {
      for (const place of places) if (held.every((other) => together(other, place, player))) next.push([...held, place]);
    }
    partial = next;
  }
  return partial.map((places) => {
    const stopped = places.filter((place) => place.finger !== 0);
    const lead = stopped.reduce<Place | null>((best, place) => (best === null || rank(place) < rank(best) ? place : best), null) ?? places[0]!;
    return {
      places,
      lead,
      open: stopped.length === 0,
      togetherCost: costs.doubleStop * (places.length - 1) + stretchCost(stopped, player, costs),
      string: places.reduce((sum, place) => sum + place.string, 0) / places.length,
    };
  });
}

const rank = (place: Place): number => (place.finger === THUMB ? 0.5 : place.finger);

/** Whether two notes can be held by one hand: different strings, one frame, fingers in order, no finger in two places. */
function together(a: Place, b: Place, player: Player): boolean {
  if (a.string === b.string) return false;
  if (a.finger === 0 || b.finger === 0) return true;
  if (a.finger === b.finger) return a.stop === b.stop && Math.abs(a.string - b.string) === 1 && a.finger !== 4;
  if (Math.abs(a.handMm - b.handMm) > 0.5) return false;
  const [low, high] = rank(a) < rank(b) ? [a, b] : [b, a];
  if (low.stop > high.stop) return false;
  const spread = spreadMm(player.hand, low.finger, high.finger);
  return spread === null || distanceMm(player, low, high) <= spread.limit;
}

function distanceMm(player: Player, a: Place, b: Place): number {
  const length = player.instrument.lengthMm;
  return Math.abs(stopMm(length, a.stop) - stopMm(length, b.stop));
}

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
