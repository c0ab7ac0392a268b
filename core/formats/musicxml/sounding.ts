/** Who plays a part, and how its written notes sound. */
import { midiOf, pitchName, transposed } from '../../score/pitch';
import type { Note, Part, Warning } from '../../score/score';
import { usualTransposition } from '../../instruments/as-told';
import { recognise } from '../../instruments/recognise';
import { child, childNumber, childText, type XmlElement } from '../raw/xml';
import type { InForce } from './attributes';

export function recogniseInstrument(scorePart: XmlElement, name: string, { clefs }: InForce, notes: readonly Note[]) {
  const instrument = child(scorePart, 'score-instrument');
  const written = notes.map((note) => midiOf(note.written));
  const clef = clefs[0]?.clef;
  return recognise({
    name,
    sound: childText(instrument, 'instrument-sound'),
    program: childNumber(child(scorePart, 'midi-instrument'), 'midi-program'),
    clef: clef ? `${clef.sign}${clef.line}` : null,
    lowest: written.length ? written.reduce((a, b) => Math.min(a, b)) : null,
    highest: written.length ? written.reduce((a, b) => Math.max(a, b)) : null,
  });
}

/** Says how a bass part that does not transpose itself is read, and sets its sounding pitches; returns the half steps. */
export function inferTransposition(kind: Part['instrument'], name: string, { clefs }: InForce, notes: Note[], warnings: Warning[]): number {
  // An 8 at the clef says that the pitches in the file are the sounding ones.
  if (kind !== 'bass' || notes.length === 0 || clefs[0]?.clef.octave === -1) return 0;
  const halfSteps = usualTransposition(kind, notes);
  if (halfSteps === 0) {
    const lowest = notes.reduce((least, note) => (midiOf(note.written) < midiOf(least.written) ? note : least));
    warnings.push({
      place: name,
      text: `The file does not transpose this bass part and its lowest note is ${pitchName(lowest.written)}: it is read as written at sounding pitch. The part's settings can say otherwise.`,
    });
    return 0;
  }
  warnings.push({
    place: name,
    text: "The file does not transpose this bass part: it is read as sounding an octave below the written notes. The part's settings can say otherwise.",
  });
  for (const note of notes) note.pitch = transposed(note.written, -7, -12);
  return halfSteps;
}
