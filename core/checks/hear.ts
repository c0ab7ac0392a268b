/** How to hear whether a note is in tune: the open string that rings or sounds pure with it. */
import { midiOf, pitchLetter, pitchName, type Pitch } from '../score/pitch';
import { harmonicTouches } from '../instruments/geometry';
import { stringName, type Instrument } from '../instruments/instrument';
import type { Place } from '../left-hand/places';
import { tonicOf, twoReferences } from './target';
import { doubleStopText, droneText, harmonicText, hearText, octaveLowerText, patternText, sameNoteText, twoReferencesText } from './words';

export type Consonance = 'unison' | 'octave' | 'two octaves' | 'fifth' | 'fourth';

export interface HearIt {
  interval: Consonance;
  string: number;
  stringName: string;
  /** The open string vibrates with the note on its own. */
  rings: boolean;
}

/** Best open string to check against: unison, octaves, then fifth and fourth; never the string that is being played. */
export function hearAgainst(pitch: Pitch, onString: number | null, instrument: Instrument): HearIt | null {
  const midi = midiOf(pitch);
  let best: (HearIt & { rank: number }) | null = null;
  instrument.strings.forEach((open, index) => {
    const string = index + 1;
    if (string === onString) return;
    const above = midi - midiOf(open);
    const found: readonly [Consonance, number, boolean] | null =
      above === 0
        ? ['unison', 0, true]
        : Math.abs(above) === 12
          ? ['octave', 1, above > 0]
          : above === 24
            ? ['two octaves', 2, true]
            : Math.abs(above) === 7
              ? ['fifth', 3, false]
              : Math.abs(above) === 5
                ? ['fourth', 4, false]
                : null;
    if (!found) return;
    const neighbour = onString !== null && Math.abs(onString - string) === 1;
    const rank = found[1] + (neighbour ? 0 : found[2] ? 0.5 : 5);
    if (rank < 5 && (!best || rank < best.rank)) best = { interval: found[0], string, stringName: stringName(instrument, string), rings: found[2], rank };
  });
  if (!best) return null;
  const { interval, string, stringName: name, rings } = best as HearIt;
  return { interval, string, stringName: name, rings };
}

export type HearKind =
  'open string' | 'harmonic' | 'double stop' | 'finger pattern' | 'same note before' | 'octave lower' | 'drone' | 'two references' | 'target';

/** A way to hear whether a note is in tune. */
export interface HearWay {
  kind: HearKind;
  text: string;
}

export interface HearQuestion {
  pitch: Pitch;
  place: Pick<Place, 'string' | 'stop' | 'finger'>;
  instrument: Instrument;
  /** Sharps (positive) or flats of the key. */
  fifths: number;
  /** The note before and after under the same hand, on a neighbouring string. */
  neighbours: ReadonlyArray<{ pitch: Pitch; string: number; when: 'before' | 'after' }>;
  /** The same pitch a little earlier. */
  earlier: { bar: string; finger: number } | null;
  /** A finger that has just been down beside it on its string, at most a whole step away, or the same finger half a step away. */
  pattern: { finger: number; halfSteps: number } | null;
}

/** From this stop on a note is found more surely when it was heard an octave lower first (judgement). */
const HIGH_STOP = 10;

/** Partials that are easily touched. */
const HEARD_PARTIALS = 5;

/** Every way that there is, the surest first. */
export function waysToHear(question: HearQuestion): HearWay[] {
  const { pitch, place, instrument, fifths, neighbours, earlier, pattern } = question;
  const ways: HearWay[] = [];
  const open = hearAgainst(pitch, place.string, instrument);
  if (open) ways.push({ kind: 'open string', text: hearText(open) });
  const references = twoReferences(pitch, place.string, instrument.strings);
  if (references)
    ways.push({
      kind: 'two references',
      text: twoReferencesText(references, stringName(instrument, references.lower.string), stringName(instrument, references.upper.string)),
    });
  const harmonic = harmonicOf(pitch, instrument);
  if (harmonic) ways.push({ kind: 'harmonic', text: harmonicText(stringName(instrument, harmonic.string), harmonic.touch, harmonic.octave) });
  const neighbour = neighbours.find(({ string }) => Math.abs(string - place.string) === 1);
  if (neighbour) ways.push({ kind: 'double stop', text: doubleStopText(pitchName(neighbour.pitch), neighbour.when) });
  if (pattern) ways.push({ kind: 'finger pattern', text: patternText(place.finger, pattern.finger, pattern.halfSteps) });
  if (earlier) ways.push({ kind: 'same note before', text: sameNoteText(earlier.bar, earlier.finger, place.finger) });
  if (place.stop >= HIGH_STOP) ways.push({ kind: 'octave lower', text: octaveLowerText(place.stop >= HIGH_STOP + 12 ? 2 : 1) });
  ways.push({ kind: 'drone', text: droneText(pitchLetter(tonicOf(fifths))) });
  return ways;
}

/** A natural harmonic that sounds the note, or its octave. */
function harmonicOf(pitch: Pitch, { strings }: Instrument): { string: number; touch: number; octave: boolean } | null {
  const midi = midiOf(pitch);
  for (const away of [0, 12]) {
    for (const [index, open] of strings.entries()) {
      const touch = harmonicTouches(HEARD_PARTIALS).find((each) => each.partial !== 5 && Math.round(each.sounds) === midi + away - midiOf(open));
      if (touch) return { string: index + 1, touch: touch.touch, octave: away > 0 };
    }
  }
  return null;
}
