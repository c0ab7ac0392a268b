/** New clefs: the first note after one, and what it would be by mistake in the clef before. */
import { sayNote } from '../score/address';
import { clefName } from '../score/clef';
import { keyAlter, letterIndex, midiOf, naturalAt, transposed, type Pitch } from '../score/pitch';
import type { Clef, Note, Part } from '../score/score';
import { THUMB, type Player } from '../instruments/player';
import { stringName } from '../instruments/instrument';
import { DEFAULT_COSTS } from '../left-hand/costs';
import { placesFor } from '../left-hand/places';
import type { ReadingAid } from './aid';
import { noteName } from './words';

/** Letter index of the note on the lowest line. A treble clef's G4 lies on its line, a bass clef's F3, a C clef's C4. */
export function lowestLine({ sign, line, octave }: Clef): number | null {
  const note: Pitch | null = sign === 'G' ? at('G', 4) : sign === 'F' ? at('F', 3) : sign === 'C' ? at('C', 4) : null;
  return note && letterIndex(note) - 2 * (line - 1) + 7 * octave;
}
const at = (step: Pitch['step'], octave: number): Pitch => ({ step, alter: 0, octave });

export function clefAids(part: Part, player: Player): ReadingAid[] {
  const aids: ReadingAid[] = [];
  const current = new Map<number, Clef>();
  for (const { tick, staff, clef } of part.clefs) {
    const before = current.get(staff);
    current.set(staff, clef);
    if (!before || clefName(before) === clefName(clef)) continue;
    const note = part.notes.find((candidate) => candidate.staff === staff && candidate.onset >= tick && !candidate.cue);
    const next = part.clefs.find((other) => other.staff === staff && other.tick > tick);
    const newLine = lowestLine(clef);
    const oldLine = lowestLine(before);
    if (!note || (next && next.tick <= note.onset) || newLine === null || oldLine === null) continue;
    aids.push(clefAid(part, player, note, before, clef, oldLine - newLine));
  }
  return aids;
}

function clefAid(part: Part, player: Player, note: Note, before: Clef, clef: Clef, letters: number): ReadingAid {
  const natural = naturalAt(letterIndex(note.written) + letters);
  const fifths = part.bars[note.barIndex]!.fifths;
  const wrong: Pitch = { ...natural, alter: note.accidental ? note.accidental.alter : keyAlter(fifths, natural.step) };
  const sounding = transposed(wrong, letterIndex(note.pitch) - letterIndex(note.written), midiOf(note.pitch) - midiOf(note.written));
  const mistake = lowPlace(sounding, player);
  const right = lowPlace(note.pitch, player);
  const where = (place: string | null) => (place ? ` (${place})` : ' (not on this instrument)');
  return {
    id: `new clef ${note.id}`,
    kind: 'new clef',
    noteIds: [note.id],
    barIndex: note.barIndex,
    onset: note.onset,
    text: `${clefName(clef)} from ${sayNote(part, note)}: ${named(note.written)}${where(right)}. Read in the ${clefName(before)} it would be ${named(wrong)}${where(mistake)}.`,
    count: null,
    remedy: null,
  };
}

const named = (pitch: Pitch): string => `${noteName(pitch)} ${pitch.octave}`;

/** First position lies two half steps above the open string on every bowed instrument here. */
const FIRST_POSITION = 2;

/** Where a player would reach first: open, or nearest to first position. */
function lowPlace(pitch: Pitch, player: Player): string | null {
  const places = placesFor({ pitch, harmonic: null }, player, DEFAULT_COSTS).filter((place) => place.harmonic === null);
  const far = ({ hand, frameCost }: (typeof places)[number]) => (hand === null ? -1 : Math.abs(hand - FIRST_POSITION) + frameCost);
  const nearest = places.reduce<(typeof places)[number] | null>((best, place) => (best === null || far(place) < far(best) ? place : best), null);
  if (!nearest) return null;
  const finger = nearest.finger === 0 ? 'open' : nearest.finger === THUMB ? 'thumb' : `finger ${nearest.finger}`;
  return `${finger}, ${stringName(player.instrument, nearest.string)} string`;
}
