/**
 * Artificial harmonics: one finger stops the string, another touches it a fourth, a fifth or a third above. Sound above the
 * stop (physics of the string): touched a fourth above two octaves, a fifth above a twelfth, a major third above two octaves
 * and a major third, a minor third above two octaves and a fifth.
 */
import { isUpper } from '../instruments/instrument';
import { midiOf, type Pitch } from '../score/pitch';
import type { Note } from '../score/score';
import { stopMm } from '../instruments/geometry';
import { spreadMm, THUMB, type Player } from '../instruments/player';
import { chromaticPositionName } from '../instruments/positions';
import type { LeftHandCosts } from './costs';
import { placesFor, type Place } from './places';

interface Touch {
  /** Half steps above the stop. */
  above: number;
  partial: number;
  /** Half steps that it sounds above the stop. */
  sounds: number;
}

export const TOUCHES: readonly Touch[] = [
  { above: 5, partial: 4, sounds: 24 },
  { above: 7, partial: 3, sounds: 19 },
  { above: 4, partial: 5, sounds: 28 },
  { above: 3, partial: 6, sounds: 31 },
];

/** A grip (grip.ts) with a place for every head. */
export interface ArtificialGrip {
  places: Place[];
  lead: Place;
  open: boolean;
  togetherCost: number;
  string: number;
  unlike: 0;
}

export const isArtificial = (notes: readonly Pick<Note, 'harmonic'>[]): boolean => notes.some((note) => note.harmonic === 'artificial');

/** What an event of artificial-harmonic heads asks for: the stop, and where it is touched; null where the heads make no sense together. */
export function artificialOf(notes: readonly Note[]): { base: Pitch; touch: Touch } | null {
  const heads = notes.filter((note) => note.harmonicShows !== 'sounding').map((note) => ({ note, midi: midiOf(note.pitch) }));
  const base = heads.find(({ note }) => note.harmonicShows === 'base') ?? heads.find(({ note }) => note.harmonicShows !== 'touching');
  if (heads.length >= 2 && base) {
    const touched = heads.find(({ note, midi }) => note !== base.note && midi > base.midi);
    const touch = touched && TOUCHES.find(({ above }) => above === touched.midi - base.midi);
    return touch ? { base: base.note.pitch, touch } : null;
  }
  // One head alone shows what sounds; the touch at the fourth is the usual way to it.
  const [only] = notes;
  const fourth = TOUCHES[0]!;
  return notes.length === 1 && only ? { base: { ...only.pitch, octave: only.pitch.octave - fourth.sounds / 12 }, touch: fourth } : null;
}

/** The finger that touches, by the finger that stops: in a violin's hand the letters say it, beside the thumb the third reaches a fourth. */
function touchingFinger(stopping: number, above: number): number {
  if (stopping === THUMB) return above <= 4 ? 2 : 3;
  return above <= 4 ? 3 : 4;
}

/** The thumb is not brought over the edge of the fingerboard below this stop (judgement). */
const LOWEST_THUMB = 3;

/** Grips of an artificial harmonic: the same place for every head of it, the stopping finger leading. */
export function artificialGrips(notes: readonly Note[], player: Player, costs: LeftHandCosts): ArtificialGrip[] {
  const asked = artificialOf(notes);
  if (!asked) return [];
  const { base, touch } = asked;
  const withThumb = !isUpper(player.instrument.kind);
  const stopping = placesFor({ pitch: base, harmonic: null }, player, costs)
    .filter((place) => place.finger === 1 && !place.extension && place.harmonic === null)
    .map((place) => (withThumb ? thumbInstead(place, player) : place))
    .filter((place): place is Place => place !== null && (!withThumb || player.thumbPosition));
  const { lengthMm } = player.instrument;
  const seen = new Set<string>();
  return stopping.flatMap((stop): ArtificialGrip[] => {
    const finger = touchingFinger(stop.finger, touch.above);
    const key = `${stop.string} ${stop.position}`;
    if (seen.has(key)) return [];
    seen.add(key);
    const span = stopMm(lengthMm, stop.stop + touch.above) - stopMm(lengthMm, stop.stop);
    const spread = spreadMm(player.hand, stop.finger, finger);
    if (spread && span > spread.limit) return [];
    const over = spread ? Math.max(0, span - spread.comfortable) : 0;
    const touching: Place = { ...stop, stop: stop.stop + touch.above, finger, harmonic: touch.partial, frameCost: 0 };
    const places = notes.map((note) => (note.harmonicShows === 'base' || midiOf(note.pitch) === midiOf(base) ? stop : touching));
    return [
      {
        places: notes.length === 1 ? [{ ...stop, harmonic: touch.partial }] : places,
        lead: stop,
        open: false,
        togetherCost: costs.harmonic + (over > 0 ? costs.stretch * (1 + over / 10) : 0),
        string: stop.string,
        unlike: 0,
      },
    ];
  });
}

/** The thumb where the first finger would stop; the hand lies a tone above it. */
function thumbInstead(place: Place, { instrument }: Player): Place | null {
  if (place.stop < LOWEST_THUMB) return null;
  const hand = place.stop + 2;
  return {
    ...place,
    finger: THUMB,
    shape: 'thumb',
    hand,
    handMm: stopMm(instrument.lengthMm, hand),
    position: chromaticPositionName(instrument.kind, hand, true, () => ''),
  };
}
