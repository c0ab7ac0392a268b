/** A fingered note in the words and figures that go out. */
import { rounded } from '../util/round';
import { beatOf } from '../score/beat';
import { midiOf, pitchName, spelled } from '../score/pitch';
import type { Instrument } from '../instruments/instrument';
import type { Note, Part } from '../score/score';
import { fingerName } from '../instruments/player';
import type { Shift } from './shift';
import type { FingeredNote } from './fingering';

/** A fingered note as the headless door prints it. */
export function fingeredNoteJson(part: Part, fingered: FingeredNote, note: Note, instrument: Instrument) {
  const bar = part.bars[note.barIndex]!;
  const { place, shift } = fingered;
  return {
    id: note.id,
    bar: bar.label,
    barIndex: note.barIndex,
    beat: beatOf(bar, note.tick),
    pitch: pitchName(note.pitch),
    string: place.string,
    finger: fingerName(place.finger),
    stop: place.stop,
    hand: place.hand,
    position: place.position,
    shift: shift && {
      mm: rounded(shift.mm, 1),
      gapMs: Math.round(shift.gapMs),
      bits: rounded(shift.bits, 2),
      bitsPerS: rounded(shift.bitsPerS, 1),
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
