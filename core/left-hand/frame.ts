/** The hand frame at a note: what each finger does on each string while the hand stays, in half and whole steps. */
import { centsPerMm, stopMm } from '../instruments/geometry';
import { isUpper, stringName, type Instrument } from '../instruments/instrument';
import { fingerName, spreadMm, THUMB, type Player } from '../instruments/player';
import { TARGET_WIDTH_CENTS, SAME_PLACE_MM } from './shift';
import type { FingeredNote } from './fingering';

export interface FrameFinger {
  finger: number;
  string: number;
  stop: number;
  /** mm from the nut, and the width of ±10 cents there. */
  mm: number;
  toleranceMm: number;
  noteIds: string[];
}

export interface HandFrame {
  position: string | null;
  /** mm from the nut to where the first finger lies. */
  handMm: number;
  fingers: FrameFinger[];
  /** In words: "On D: 1 and 2 a whole step apart, 2 and 3 touching." */
  words: string[];
}

/** The stretch around a note in which the hand stays; null where no finger is down. */
export function frameAt({ notes }: { notes: readonly FingeredNote[] }, noteId: string, player: Player): HandFrame | null {
  const at = notes.findIndex((note) => note.id === noteId);
  const here = notes[at];
  if (!here || here.place.finger === 0) return null;
  const { handMm } = here.place;
  const stays = (note: FingeredNote | undefined) => note !== undefined && (note.place.finger === 0 || Math.abs(note.place.handMm - handMm) < SAME_PLACE_MM);
  let from = at;
  while (stays(notes[from - 1])) from--;
  let to = at;
  while (stays(notes[to + 1])) to++;
  const { lengthMm } = player.instrument;
  const fingers = new Map<string, FrameFinger>();
  for (const { id, place } of notes.slice(from, to + 1)) {
    if (place.finger === 0) continue;
    const key = `${place.string} ${place.finger} ${place.stop}`;
    const known = fingers.get(key);
    if (known) known.noteIds.push(id);
    else {
      const toleranceMm = TARGET_WIDTH_CENTS / centsPerMm(lengthMm, place.stop);
      fingers.set(key, { finger: place.finger, string: place.string, stop: place.stop, mm: stopMm(lengthMm, place.stop), toleranceMm, noteIds: [id] });
    }
  }
  const all = [...fingers.values()].sort((a, b) => b.string - a.string || a.stop - b.stop);
  return { position: here.place.position, handMm, fingers: all, words: wordsOf(all, here.place.position, player) };
}

const rank = (finger: number): number => (finger === THUMB ? 0.5 : finger);

function wordsOf(fingers: readonly FrameFinger[], position: string | null, player: Player): string[] {
  const { instrument } = player;
  const words: string[] = [];
  for (const string of new Set(fingers.map((each) => each.string))) {
    const own = fingers.filter((each) => each.string === string).sort((a, b) => rank(a.finger) - rank(b.finger) || a.stop - b.stop);
    const parts: string[] = [];
    own.forEach((each, i) => {
      const named = nameOf(each, position, instrument);
      if (named) parts.push(named);
      const next = own[i + 1];
      if (!next || next.finger === each.finger) return;
      parts.push(`${fingerName(each.finger)} and ${fingerName(next.finger)} ${apart(next.stop - each.stop, instrument)}`);
      const spread = spreadMm(player.hand, each.finger, next.finger);
      if (spread && next.mm - each.mm > spread.comfortable) parts.push(`a stretch of ${Math.round(next.mm - each.mm)} mm`);
    });
    if (parts.length) words.push(`On ${stringName(instrument, string)}: ${parts.join(', ')}.`);
  }
  return words;
}

const STEPS = ['on one spot', 'a half step apart', 'a whole step apart', 'a step and a half apart', 'two whole steps apart'];
/** On violin and viola the fingers of a half step touch. */
const apart = (halfSteps: number, { kind }: Instrument): string =>
  halfSteps === 1 && isUpper(kind) ? 'touching, a half step' : (STEPS[halfSteps] ?? `${halfSteps} half steps apart`);

/** Where the fingers of violin and viola usually lie in first position, half steps above the open string (methods). */
const USUAL: Readonly<Record<number, number>> = { 1: 2, 2: 4, 3: 5, 4: 7 };

/** "2 low", "1 close to the nut": against the usual place of a finger in first position. */
function nameOf({ finger, stop }: FrameFinger, position: string | null, { kind }: Instrument): string | null {
  if (stop === 1) return `${fingerName(finger)} close to the nut`;
  if (position !== 'first' || (kind !== 'violin' && kind !== 'viola')) return null;
  const usual = USUAL[finger];
  if (usual === undefined || stop === usual) return null;
  return `${fingerName(finger)} ${stop < usual ? 'low' : 'high'}`;
}
