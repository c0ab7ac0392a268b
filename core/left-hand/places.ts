/**
 * Every way to stop one note: string, stop, finger, and the frame of the hand that reaches it.
 * Violin and viola think in letter names (spelling decides the finger), cello and bass in half steps.
 */
import { letterIndex, midiOf, pitchName, spelled, transposed, type Pitch } from '../score/pitch';
import { harmonicTouches, stopMm } from '../instruments/geometry';
import { isUpper, type Instrument } from '../instruments/instrument';
import type { Player } from '../instruments/player';
import { chromaticPositionName, frameStop, letterPositionName } from '../instruments/positions';
import type { Note } from '../score/score';
import type { LeftHandCosts } from './costs';
import { shapesOf } from './hand-shapes';

export type Shape = 'open' | 'closed' | 'extended' | 'extended back' | 'upper' | 'thumb';

export interface Place {
  /** 1 is the highest string. */
  string: number;
  /** Half steps above the open string; 0 is the open string. */
  stop: number;
  /** 0 open, 1 to 4, THUMB. */
  finger: number;
  /** Stop where the first finger lies in the unextended frame, half steps; null for an open string. */
  hand: number | null;
  /** The same place in mm from the nut, between half steps where a letter position has two. */
  handMm: number;
  position: string | null;
  shape: Shape;
  /** The finger lies outside the plain frame. */
  extension: boolean;
  /** Partial number of a natural harmonic. */
  harmonic: number | null;
  /** The music asks for the harmonic; elsewhere it stands for a stopped note. */
  asked: boolean;
  /** How unusual this finger is within its frame, as a cost. */
  frameCost: number;
  extensionCost: number;
  /** Letter index that the finger stands for, so that a slide within one letter is known. */
  letter: number;
}

export type PlaceCosts = Pick<
  LeftHandCosts,
  'lowFirst' | 'highFirst' | 'oddAlteration' | 'highThird' | 'lowFourth' | 'enharmonic' | 'fourthExtended' | 'firstBack' | 'extension'
>;

/** Beginners stay near the nut: highest stop by level (common practice). */
const HIGHEST_BY_LEVEL = { beginner: 12, intermediate: 19, advanced: 26, professional: 40 } as const;

/** Half steps around a rounded stop within which a touch counts as that harmonic. */
const TOUCH_TOLERANCE = 0.25;

/** All places for a pitch on the player's instrument, harmonics included; empty when it cannot be played. */
export function placesFor(note: Pick<Note, 'pitch' | 'harmonic'>, player: Player, costs: PlaceCosts): Place[] {
  const { instrument } = player;
  const midi = midiOf(note.pitch);
  const places: Place[] = [];
  instrument.strings.forEach((open, index) => {
    const string = index + 1;
    const stop = Math.round(midi - midiOf(open));
    if (note.harmonic === 'natural') {
      places.push(...harmonicPlaces(string, open, midi, player, costs).map((place) => ({ ...place, asked: true })));
      return;
    }
    if (stop === 0) places.push(openPlace(string, note.pitch));
    if (stop < 0 && stop >= -instrument.belowNut && index === instrument.strings.length - 1) places.push(belowNutPlace(string, stop, note.pitch, player));
    if (stop > 0 && stop <= highestStop(player)) {
      places.push(...stoppedPlaces(string, stop, note.pitch, open, player, costs));
      if (stop === 12) places.push(...harmonicPlaces(string, open, midi, player, costs));
    }
  });
  if (places.length === 0 && note.harmonic === 'natural') return placesFor({ pitch: note.pitch, harmonic: null }, player, costs);
  return places;
}

function highestStop(player: Player): number {
  return Math.min(player.instrument.highestStop, HIGHEST_BY_LEVEL[player.level]);
}

/** What every open string is, whichever it is. */
export const OPEN = {
  stop: 0,
  finger: 0,
  hand: null,
  handMm: 0,
  position: null,
  shape: 'open',
  extension: false,
  harmonic: null,
  asked: false,
  frameCost: 0,
  extensionCost: 0,
} as const satisfies Partial<Place>;

const openPlace = (string: number, pitch: Pitch): Place => ({ ...OPEN, string, letter: letterIndex(pitch) });

/** On the extension of a bass the lowest note is the string itself, the others are stopped by the first finger at the scroll. */
function belowNutPlace(string: number, stop: number, pitch: Pitch, { instrument }: Player): Place {
  const open = openPlace(string, pitch);
  if (stop === -instrument.belowNut) return { ...open, stop };
  return { ...open, stop, finger: 1, hand: stop, handMm: stopMm(instrument.lengthMm, stop), position: 'extension', shape: 'closed' };
}

function stoppedPlaces(string: number, stop: number, pitch: Pitch, open: Pitch, player: Player, costs: PlaceCosts): Place[] {
  const kind = player.instrument.kind;
  return isUpper(kind) ? letterPlaces(string, stop, pitch, open, player.instrument, costs) : chromaticPlaces(string, stop, pitch, open, player, costs);
}

/** Touches that sound the written note, or where the written note is the touch itself. */
function harmonicPlaces(string: number, open: Pitch, midi: number, player: Player, costs: PlaceCosts): Place[] {
  const { kind } = player.instrument;
  const above = midi - midiOf(open);
  const touches = harmonicTouches(isUpper(kind) ? 6 : 8);
  const sounding = touches.filter((touch) => Math.round(touch.sounds) === Math.round(above));
  const touched = touches.filter((touch) => Math.abs(touch.touch - above) < TOUCH_TOLERANCE && touch.partial <= 5);
  const chosen = sounding.length ? sounding : touched;
  const places: Place[] = [];
  for (const touch of chosen) {
    const stop = Math.round(touch.touch);
    if (stop < 1 || stop > player.instrument.highestStop + 4) continue;
    const seen = new Set<string>();
    const letters = Math.round((stop * 7) / 12);
    for (const place of stoppedPlaces(string, stop, transposed(open, letters, stop), open, player, costs)) {
      if (place.extension || seen.has(`${place.finger}`)) continue;
      seen.add(`${place.finger}`);
      places.push({ ...place, harmonic: touch.partial, frameCost: 0 });
    }
  }
  return places;
}

const HIGHEST_LETTER_POSITION = 14;

/** Two readings of one note may come to the same finger in the same frame: the more usual one stays. */
function letterPlaces(string: number, stop: number, pitch: Pitch, open: Pitch, instrument: Instrument, costs: PlaceCosts): Place[] {
  const places = new Map<string, Place>();
  const spelledDistance = letterIndex(pitch) - letterIndex(open);
  for (const reading of [0, -1, 1]) {
    const distance = spelledDistance + reading;
    if (distance < 0) continue;
    if (reading !== 0 && Math.abs(naturalStop(distance) - stop) > 1.01) continue;
    const readingCost = reading === 0 ? 0 : costs.enharmonic;
    for (let finger = 1; finger <= 4; finger++) {
      for (const reach of finger === 4 ? [0, 1] : finger === 1 ? [0, -1] : [0]) {
        const position = distance - finger + 1 - reach;
        if (position < 0 || position > HIGHEST_LETTER_POSITION) continue;
        const fit = letterFit(position, finger, reach, stop, costs);
        if (!fit) continue;
        const hand = frameStop(position);
        const shape = reach === 0 && !fit.extension ? 'closed' : reach < 0 ? 'extended back' : 'extended';
        const key = `${finger} ${position} ${shape}`;
        const known = places.get(key);
        if (known && known.frameCost + known.extensionCost <= fit.cost + readingCost + fit.extensionCost) continue;
        places.set(key, {
          string,
          stop,
          finger,
          hand: wholeHand(position, stop, finger),
          handMm: stopMm(instrument.lengthMm, hand),
          position: letterPositionName(position),
          shape,
          extension: fit.extension,
          harmonic: null,
          asked: false,
          frameCost: fit.cost + readingCost,
          extensionCost: fit.extensionCost,
          letter: letterIndex(open) + distance,
        });
      }
    }
  }
  return [...places.values()];
}

/** Mean stop of a letter above the open string: seven letters to the octave. */
function naturalStop(letters: number): number {
  return letters === 0 ? 0 : frameStop(letters);
}

/** Whole-number hand of a letter position that lies between two half steps: the one nearer to this note's key. */
function wholeHand(position: number, stop: number, finger: number): number {
  const frame = frameStop(position);
  if (Number.isInteger(frame)) return frame;
  const usual = stop - (frameStop(position + finger - 1) - frame);
  return usual <= frame ? Math.floor(frame) : Math.ceil(frame);
}

/**
 * Whether a finger of a letter frame can take a stop, and how unusual that is: fingers go half a step
 * low or high from their usual place, the fourth may reach one letter higher, the first one lower.
 */
function letterFit(
  position: number,
  finger: number,
  reach: number,
  stop: number,
  costs: PlaceCosts,
): { cost: number; extension: boolean; extensionCost: number } | null {
  const usual = frameStop(position + finger - 1);
  const away = stop - usual;
  const frame = frameStop(position);
  if (reach === 1) {
    const over = stop - frame;
    return over >= 5 && over <= 6.6 ? { cost: 0, extension: true, extensionCost: costs.fourthExtended } : null;
  }
  if (reach === -1) {
    const under = frame - stop;
    return position >= 2 && under >= 1 && under <= 2 ? { cost: 0, extension: true, extensionCost: costs.firstBack } : null;
  }
  if (Math.abs(away) > 1.01) return null;
  if (stop - frame > 6.6) return null;
  const plain = { extension: false, extensionCost: 0 };
  if (Math.abs(away) < 0.51) return { cost: 0, ...plain };
  if (finger === 1) return { cost: away < 0 ? costs.lowFirst : costs.highFirst, ...plain };
  if (finger === 3) return { cost: away > 0 ? costs.highThird : costs.oddAlteration / 2, ...plain };
  if (finger === 4) return away < 0 ? { cost: costs.lowFourth, ...plain } : { cost: 0, extension: true, extensionCost: costs.fourthExtended };
  return { cost: costs.oddAlteration, ...plain };
}

/** A hand that is drawn back is named by where its first finger lies, but by the nut: there it is first position, extended back. */
const namedBy = (shape: Shape, hand: number): number => (shape === 'extended back' && hand > 2 ? hand - 1 : hand);

/** The note under the first finger, spelled like the note that is played. */
function pitchOn(open: Pitch, hand: number, played: Pitch): string {
  return pitchName(spelled(midiOf(open) + hand, played.alter < 0 ? -3 : played.alter > 0 ? 3 : 0)).replace(/-?\d+$/, '');
}

function chromaticPlaces(string: number, stop: number, pitch: Pitch, open: Pitch, player: Player, costs: PlaceCosts): Place[] {
  const { instrument } = player;
  const places: Place[] = [];
  for (const shape of shapesOf(player)) {
    if (shape.shape === 'thumb' && !player.thumbPosition) continue;
    for (const [finger, offset] of shape.offsets) {
      const hand = stop - offset;
      if (hand < shape.from || hand > shape.to) continue;
      if (shape.shape === 'thumb' && hand - 2 < player.thumbFrom) continue;
      places.push({
        string,
        stop,
        finger,
        hand,
        handMm: stopMm(instrument.lengthMm, hand),
        position: chromaticPositionName(instrument.kind, namedBy(shape.shape, hand), shape.shape === 'thumb', () => pitchOn(open, hand, pitch)),
        shape: shape.shape,
        extension: shape.extension,
        harmonic: null,
        asked: false,
        frameCost: 0,
        extensionCost: shape.extension ? costs.extension : 0,
        letter: letterIndex(pitch),
      });
    }
  }
  return places;
}
