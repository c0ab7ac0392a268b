/**
 * What each price of the fingering model comes to in the smallest music that asks for it: fingers and strings are marked, so that
 * nothing is chosen, and the terms of the way are what the table says. Whoever changes the table sees here what it changes.
 */
import { firstLine, makeScore, type MakeOptions } from '../testing/make';
import { clockFor } from '../score/time';
import type { InstrumentKind } from '../score/score';
import { markKey, type Mark } from '../marking/mark';
import { usualPlayer } from '../instruments/player';
import type { Term } from './costs';
import { planFingering } from './fingering';

/** @param fingers finger and string of each note: "1/2" is the first finger on the second string */
function terms(kind: InstrumentKind, music: string, fingers: string, options: MakeOptions = {}): Partial<Record<Term, number>> {
  const { score, part } = makeScore(kind, music, options);
  const marking: Record<string, Mark> = {};
  fingers.split(' ').forEach((said, i) => {
    const [finger, string] = said.split('/') as [string, string];
    marking[markKey(part.notes[i]!.id, 'finger')] = { value: finger, origin: 'coach' };
    marking[markKey(part.notes[i]!.id, 'string')] = { value: string, origin: 'coach' };
  });
  const player = { ...usualPlayer(kind), thumbPosition: kind === 'cello' };
  const request = { score, part, line: firstLine(part), player, clock: clockFor(part, null), marking, alternatives: 1 };
  return planFingering(request).alternatives[0]!.terms;
}

type Row = [what: string, music: string, fingers: string, terms: Partial<Record<Term, number>>, options?: MakeOptions];

const ON_VIOLIN: Row[] = [
  ['neighbours on one string are free', 'E4/.5 F4/.5', '1/3 2/3', {}],
  ['a low second finger is free', 'B4/.5 C5/.5', '1/2 2/2', {}],
  ['the next string', 'E5/.5 B4/.5', '1/1 1/2', { crossing: 0.07, 'open string': -0.02 }],
  ['over a string, detached', 'F5/.5 B3/.5', '1/1 2/4', { crossing: 0.07, leap: 1, frame: 0.42, reach: 0.213 }],
  ['over a string in a slur', '(F5/.5 B3/.5)', '1/1 2/4', { crossing: 0.18, leap: 1.6, frame: 0.42, reach: 0.213 }],
  ['one finger over on the same stop', 'E4/.5 B4/.5', '1/3 1/2', { crossing: 0.07, hop: 0.15 }],
  ['the fourth finger does not lie across', 'A4/.5 E5/.5', '4/3 4/2', { crossing: 0.07, hop: 0.55, 'weak finger': 0.14, height: 0.048 }],
  ['one finger over and half a step on', 'E4/.5 C5/.5', '1/3 1/2', { crossing: 0.07, hop: 0.7, frame: 0.5 }],
  ['in a rest it has time', 'E4/.5 r/.5 B4/.5', '1/3 1/2', { crossing: 0.07 }],
  ['a slide on one letter', 'F4/.5 F#4/.5', '2/3 2/3', { slide: 0.3 }],
  [
    'a slide to another letter, onto the fourth finger',
    'A4/.5 Bb4/.5',
    '4/3 4/3',
    { landing: 0.4, slide: 1.45, 'weak finger': 0.14, height: 0.078, position: 0.06 },
  ],
  ['a shift of a tone with one finger', 'E4/.5 F#4/.5', '1/3 1/3', { shift: 0.772, 'long shift': 0.014, position: 0.06 }],
  ['a shift onto the second finger', 'B4/.5 E5/.5', '1/2 2/2', { shift: 1.071, 'long shift': 0.072, landing: 0.1, height: 0.024 }],
  ['the same in a slur', '(B4/.5 E5/.5)', '1/2 2/2', { shift: 1.591, 'long shift': 0.072, landing: 0.1, height: 0.024 }],
  ['the same in a rest', 'B4/.5 r/.5 E5/.5', '1/2 2/2', { shift: 0.325, 'long shift': 0.008, landing: 0.1, height: 0.024 }],
  ['a rest of .06 s hides nothing', 'B4/.5 r/.1 E5/.5', '1/2 2/2', { shift: 0.912, 'long shift': 0.036, landing: 0.1, height: 0.024 }],
  [
    'while an open string sounds',
    'B4/.5 E5/.5 E5/.5',
    '1/2 0/1 2/2',
    { shift: 0.525, 'long shift': 0.008, landing: 0.1, crossing: 0.14, 'open string': -0.02, height: 0.024 },
  ],
  ['onto the third finger, hurried', 'B4/.25 B5/.25', '1/2 3/2', { shift: 3.075, 'long shift': 2.7, landing: 0.2, height: 0.486 }, { tempo: 144 }],
  ['the same with time', 'B4/2 B5/2', '1/2 3/2', { shift: 0.83, 'long shift': 0.087, landing: 0.2, height: 0.486 }, { tempo: 60 }],
  ['the fourth finger', 'D5/.5 E5/.5', '3/2 4/2', { 'weak finger': 0.07, height: 0.024 }],
  ['on a long note', 'E5/4', '4/2', { 'weak finger': 0.07, 'long fourth finger': 0.26, height: 0.024 }, { tempo: 60 }],
  ['on one half as long', 'E5/1.5', '4/2', { 'weak finger': 0.07, 'long fourth finger': 0.13, height: 0.024 }, { tempo: 100 }],
  ['a long open string', 'A4/4', '0/2', { 'open string': 0.23 }, { tempo: 60 }],
  ['a quick open string', 'A4/.25 B4/.25', '0/2 1/2', { 'open string': -0.1 }, { tempo: 120 }],
  ['a usual open string', 'A4/1 B4/1', '0/2 1/2', { 'open string': -0.01 }, { tempo: 96 }],
  ['high on a low string, from nowhere', 'E5/1', '1/3', { height: 0.486, start: 1.56 }],
  ['high on the top string, from nowhere', 'D6/1', '1/1', { height: 0.042, start: 1.04 }],
  ['a high third finger', 'D#5/.5', '3/2', { height: 0.006, frame: 0.1 }],
  ['a low fourth finger', 'Eb5/.5', '4/2', { 'weak finger': 0.07, height: 0.006, frame: 0.1 }],
  ['a low first finger', 'Bb4/.5', '1/2', { frame: 0.06 }],
  ['fingers closer than any pattern', 'C#5/.5 Eb5/.5', '2/2 4/2', { 'weak finger': 0.07, height: 0.006, frame: 0.46 }],
  ['a high first finger', 'B#4/.5', '1/2', { frame: 0.3 }],
  ['too wide to be drawn back to: the hand moves', 'B4/.5 F5/.5', '1/2 3/2', { height: 0.054, shift: 1.088, 'long shift': 0.081, landing: 0.2 }],
  ['the fourth finger stretched out', 'B4/.5 F5/.5', '1/2 4/2', { 'weak finger': 0.07, height: 0.054, extension: 0.45, reach: 0.082 }],
  ['wider still: it moves too', 'B4/.5 G5/.5', '1/2 4/2', { 'weak finger': 0.07, height: 0.15, shift: 1.124, 'long shift': 0.102, landing: 0.4 }],
  ['two strings at once', 'E4+C5/1', '1/3 2/2', { reach: 0.2 }],
  [
    'two strings with the fourth finger stretched',
    'B3+D5/1',
    '1/4 4/3',
    { 'weak finger': 0.07, 'long fourth finger': 0.011, height: 0.294, extension: 0.45, reach: 1.392, start: 0.26, position: 0.12 },
  ],
  ['an octave in the frame of the hand', 'A3+A4/1', '1/4 4/3', { 'weak finger': 0.07, 'long fourth finger': 0.011, height: 0.024, reach: 0.2 }],
  [
    'an octave that is not: the first finger drawn back for it',
    'B4+B5/1',
    '1/2 3/1',
    { height: 0.007, extension: 0.5, reach: 2.415, start: 0.13, position: 0.12 },
  ],
];

test.each(ON_VIOLIN)('violin: %s', (...[, music, fingers, expected, options]) => expect(terms('violin', music, fingers, options)).toEqual(expected));

const ON_CELLO: Row[] = [
  ['first and third in an open hand', 'E3/.5 G3/.5', '1/2 3/2', { extension: 0.18, reach: 0.117, start: 0.13 }],
  ['first and fourth in an open hand', 'B2/.5 D#3/.5', '1/3 4/3', { 'weak finger': 0.06, height: 0.054, extension: 0.18, reach: 0.066, start: 0.39 }],
  ['the first finger drawn back', 'Bb2/.5 C3/.5', '1/3 2/3', { extension: 0.18, reach: 0.152, start: 0.26 }],
  ['two fingers squeezed on one spot', 'F#3/.5 B2/.5', '2/2 3/3', { crossing: 0.12, extension: 0.18, hop: 0.6 }],
  ['the thumb, and a finger after it', 'D4/.5 E4/.5', 'T/1 1/1', { shift: 0.838, 'long shift': 0.024, height: 0.007, start: 0.39 }],
];

test.each(ON_CELLO)('cello: %s', (...[, music, fingers, expected, options]) => expect(terms('cello', music, fingers, options)).toEqual(expected));
