/** Which notes one player can sound together: each on a string of its own, on neighbouring strings. */
import { midiOf } from '../score/pitch';
import type { InstrumentKind, Note } from '../score/score';
import { usualInstrument } from './instrument';

/** Open strings in half steps, low to high. */
const OPEN = new Map<InstrumentKind, number[]>();

function openStrings(kind: InstrumentKind): number[] {
  let open = OPEN.get(kind);
  if (!open) OPEN.set(kind, (open = usualInstrument(kind).strings.map(midiOf).reverse()));
  return open;
}

/** False where the tuning alone forbids it: two notes that both lie on the lowest string only, or more notes than strings. */
export function oneCanPlay(kind: InstrumentKind, notes: readonly Pick<Note, 'pitch'>[]): boolean {
  const open = openStrings(kind);
  const pitches = notes.map((note) => midiOf(note.pitch)).sort((a, b) => a - b);
  for (let first = 0; first + pitches.length <= open.length; first++) {
    // From low to high on neighbouring strings; a lower note on a higher string never helps.
    if (pitches.every((pitch, i) => pitch >= open[first + i]!)) return true;
  }
  return false;
}
