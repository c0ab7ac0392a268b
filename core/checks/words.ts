/** English sentences of the checks, made from typed values in this one place. */
import { timesAsFast } from '../bow-arm/reasons';
import { placeName } from '../bow-arm/stroke';
import type { Cause } from './intonation';
import type { HearIt } from './hear';
import type { TwoReferences } from './target';
import type { Unplayable } from '../left-hand/fingering';
import type { Shift } from '../left-hand/shift';

const percent = (share: number): string => `${Math.round(share * 100)} %`;
const seconds = (s: number): string => `${s.toFixed(2)} s`;
const cm = (value: number): string => `${Math.round(value)} cm`;

const ORDINALS = ['open string', 'first finger', 'second finger', 'third finger', 'fourth finger'];
export const fingerInWords = (finger: number): string => ORDINALS[finger] ?? 'thumb';

export function unplayableText(reason: Unplayable['reason'], pitches: string, instrument: string): string {
  switch (reason) {
    case 'below the lowest string':
      return `${pitches} lies below the lowest string of this ${instrument}.`;
    case 'above the fingerboard':
      return `${pitches} lies higher than this player goes on the ${instrument}.`;
    case 'no hand can hold it':
      return `${pitches} together: no hand holds all of it at once on neighbouring strings.`;
    case 'the marks contradict':
      return `${pitches}: the marked finger cannot play it on the marked string.`;
  }
}

export const heldText = (pitches: string): string => `Planned as if ${pitches} ${pitches.includes(' and ') ? 'are' : 'is'} held and the rest struck before.`;

export function shiftText(shift: Shift, load: number): string {
  const over = load >= 1.75 ? 'far too little time' : load >= 1.25 ? 'too little time' : 'hardly time enough';
  return `Shift of ${Math.round(shift.mm)} mm in ${seconds(shift.gapMs / 1000)}, ${shift.heard}: ${over} for this player.`;
}

export function reachText(mm: number, comfortable: number, limit: number, a: number, b: number): string {
  const how = mm > limit ? `beyond this hand's limit of ${Math.round(limit)} mm` : `more than the ${Math.round(comfortable)} mm that are comfortable`;
  return `${capital(fingerInWords(a))} to ${fingerInWords(b)} spans ${Math.round(mm)} mm, ${how}.`;
}

const CAUSES: Readonly<Record<Cause, string>> = {
  placement: 'placing the finger, where the distances are small',
  shift: 'the shift',
  extension: 'the extension',
  'cold entry': 'a cold entry',
  'fourth finger': 'the fourth finger',
  stretch: 'the stretch',
  'dissonant stop': 'a dissonance held with it',
  'changed frame': 'a finger that lay elsewhere a moment ago',
  'diminished fifth': 'fingers that lie close across two strings (a diminished fifth)',
};

export function outOfTuneText(chance: number, tolerance: number, error: number, main: Cause): string {
  return `${percent(chance)} risk of being more than ${tolerance} cents off (give or take ${Math.round(error)}), above all from ${CAUSES[main]}.`;
}

export const colourText = (from: string, to: string, halfSteps: number): string =>
  `The line goes over from ${from} to ${to} in mid-slur for ${halfSteps === 1 ? 'a half step' : `${halfSteps} half steps`}: another colour where it should sing on.`;

export const audibleShiftText = (mm: number, s: number): string =>
  `A shift of ${Math.round(mm)} mm inside the slur is heard as a slide of about ${seconds(s)}.`;

export const hearColourText = (string: string): string =>
  `Play both notes on ${string} first where they lie there, or sing them; then over the strings: the second must sound as if it went on.`;

export const hearShiftText = (guide: string | null): string =>
  `${guide ? `Sound the guide note ${guide}, the old finger at the new place, a few times` : 'Play the shift slowly, aloud, a few times'}, then make it silent: only the arrival is to be heard.`;

export const doubleBowText = (direction: string, planned: string): string =>
  `Marked ${direction}-bow after ${direction}-bow, with neither a hook nor a retake: planned as a ${planned}. Mark which.`;

const ALIKE_WORDS: Readonly<Record<string, string>> = {
  'same notes': 'The same notes',
  'other notes': 'The same tune on other notes',
  'same rhythm': 'The same rhythm',
};

export const differentlyText = (here: string, there: string, alike: string, marks: string): string =>
  `${ALIKE_WORDS[alike] ?? alike} in ${here} and in ${there} marked in two ways: ${marks}.`;

export function hearText(hear: HearIt): string {
  const against =
    hear.interval === 'unison'
      ? 'must be one with'
      : hear.interval === 'two octaves'
        ? 'two octaves above'
        : hear.interval === 'octave'
          ? 'an octave from'
          : `a pure ${hear.interval} with`;
  return `Check it ${hear.interval === 'unison' ? `against the open ${hear.stringName}: it ${against} it` : `as ${against} the open ${hear.stringName}`}${hear.rings ? ', which rings when it is in tune' : ''}.`;
}

const TOUCHES: ReadonlyArray<readonly [touch: number, words: string]> = [
  [12, 'at the octave'],
  [7.02, 'a fifth above the open string'],
  [19.02, 'an octave and a fifth up'],
  [4.98, 'a fourth above the open string'],
  [24, 'two octaves up'],
];

export const harmonicText = (string: string, touch: number, octave: boolean): string => {
  const where = TOUCHES.find(([at]) => Math.abs(at - touch) < 0.1)?.[1] ?? `${touch.toFixed(1)} half steps up`;
  return `Compare it with the harmonic on ${string}, touched ${where}: it sounds ${octave ? 'an octave above it' : 'the same note'}.`;
};

export const twoReferencesText = ({ lower, upper, cents }: TwoReferences, lowerName: string, upperName: string): string =>
  `Two open strings disagree about it: pure as a ${upper.interval} with ${upperName} it is ${Math.abs(cents).toFixed(1)} cents ${cents > 0 ? 'higher' : 'lower'} than as a ${lower.interval} over ${lowerName}. Decide which one is heard with it.`;

export const doubleStopText = (other: string, when: 'before' | 'after'): string =>
  `Hold it together with ${other}, the note ${when}, as a double stop, softly, and listen for the beats.`;

export const sameNoteText = (bar: string, before: number, now: number): string =>
  before === now
    ? `It is the same note as in bar ${bar}: does it come to the same place?`
    : `It is the same note as in bar ${bar}, there with the ${fingerInWords(before)}: play both and compare.`;

const STEPS: Readonly<Record<number, string>> = { 1: 'half a step', 2: 'a whole step' };

export const patternText = (finger: number, other: number, halfSteps: number): string => {
  if (finger === other)
    return `The ${fingerInWords(finger)} moves ${STEPS[Math.abs(halfSteps)] ?? 'a little'} ${halfSteps > 0 ? 'up' : 'down'} from where it lay: sing both notes, then play them.`;
  const step = STEPS[Math.abs(halfSteps)] ?? 'no distance';
  const touches = Math.abs(halfSteps) === 1 ? 'they touch' : 'with room between';
  return `Say the pattern: the ${fingerInWords(finger)} ${halfSteps > 0 ? `${step} above` : `${step} below`} the ${fingerInWords(other)}, ${touches}.`;
};

export const octaveLowerText = (octaves: number): string =>
  `Play it ${octaves === 2 ? 'two octaves' : 'an octave'} lower first, in a low position, and keep that sound in the ear.`;

export const aimText = (cents: number, root: string | null): string =>
  `Aim ${Math.abs(cents).toFixed(1)} cents ${cents > 0 ? 'higher' : 'lower'} than equal temperament: ${root ? `pure over ${root}, which sounds with it` : 'as the chain of pure fifths from A has it, melodically'}.`;

export const cueText = (cues: ReadonlyArray<{ name: string; bar: string; beat: number; pitch: string }>): string =>
  `Listen for ${cues.map(({ name, bar, beat, pitch }) => `${name}, ${bar}/${Math.round(beat * 100) / 100} ${pitch}`).join(', and ')}; then it is your turn.`;

export const acrossText = (here: string, other: string, there: string, how: 'together' | 'same tune', marks: string): string =>
  how === 'together'
    ? `${other} has the rhythm of ${here} at the same time, bowed otherwise: ${marks}.`
    : `${other} has the tune of ${here} in ${there}, bowed otherwise: ${marks}.`;

export const droneText = (tonic: string): string => `Play it slowly over a drone on ${tonic}.`;

export function runsOutText(needed: number, hair: number, slowest: number, held: number): string {
  return `This bow has to last ${seconds(held)} and needs at least ${cm(needed)} of bow to speak (${slowest.toFixed(0)} cm/s); ${needed < hair ? `of ${cm(hair)} not quite all can be used` : `there are ${cm(hair)}`}.`;
}

/** @param before cm a second of the stroke before @param after of this one */
export function racesText(before: number, after: number, direction: string): string {
  return `The ${direction}-bow must bring back in a shorter note what the one before used: ${timesAsFast(after / before)}, so it will bump.`;
}

/** @param end where the bow is when there is none left to go on with */
export const driftText = (times: number, ratio: number, until: number | null, end: 'tip' | 'frog'): string =>
  `The figure comes ${times} times: bowed there and back for good, the short one goes ${timesAsFast(ratio)}${until ? `; with the bow that each of them wants, the bow is at the ${end} after ${until} of them` : ''}.`;

export const retakeText = (needed: number, free: number): string => `The retake needs ${seconds(needed)}, the music leaves ${seconds(free)}.`;

export const trillText = (notes: number, held: number, perS: number, most: number): string =>
  `The trill has ${seconds(held)}: even ${notes} notes are ${perS.toFixed(1)} a second; this level manages about ${most}.`;

export const turnText = (kind: string, held: number, needed: number): string =>
  `The ${kind} needs ${seconds(needed)} of a note that lasts ${seconds(held)}: hardly anything of the note itself is left.`;

export const quickText = (rate: number, most: number): string => `${rate.toFixed(1)} separate strokes a second; this level manages about ${most}.`;

export const clashText = (marks: readonly string[]): string => `No bow can do all of this: ${marks.join('; ')}.`;

export const crossingText = (perS: number, most: number, where: string): string =>
  `${perS.toFixed(1)} string changes a second; this level manages about ${most}. Easiest ${where}.`;

export const leapText = (strings: number, gap: number): string =>
  `The slur leaps over ${strings > 2 ? 'two strings' : 'a string'} in ${seconds(gap)}: the string between will sound.`;

export const missingText = (level: string, missing: number, speed: number): string =>
  `${level} cannot be had with the bow that is left: at ${speed.toFixed(0)} cm/s it is ${Math.abs(missing) >= 6 ? 'much' : Math.abs(missing) >= 3 ? 'clearly' : 'a little'} too soft, even as near the bridge as it goes.`;

/** @param slurred notes of the first slur @param slurCm bow that the plan has for it, and for a single note */
export const mixedText = (singles: number, slurred: number, slurCm: number, singleCm: number): string =>
  `${singles} single notes beside slurs of ${slurred}: here slurs like to hurry, and single notes to vanish. ${cm(slurCm)} for the slur leave ${cm(singleCm)} for each of them.`;

export const HEAR_MIXED = 'Play the row with a bow for every note, then with the slurs over the same click: rhythm and loudness must stay as they were.';

/** @param ratio long over short @param shortCm bow of a short note where the bow stays even */
export const rhythmText = (ratio: number, shortCm: number, times: number): string =>
  `A rhythm under one bow${times > 1 ? ` (${times} times)` : ''}: the fingers go ${ratio.toFixed(0)} to 1, the bow has to stay even, ${shortCm < 1 ? 'less than 1 cm' : cm(shortCm)} for the short note. An arm that goes with the fingers swallows it or bumps.`;

export const HEAR_RHYTHM = 'Play the slur on an open string while the left hand fingers its rhythm silently: no bump is to be heard.';

/** @param place where the held note leaves the bow, 0 frog to 1 tip @param kind the stroke that cannot be made there; null: there is no room for it */
export const wrongEndText = (place: number, awayCm: number, kind: string | null): string =>
  `The held note leaves the bow ${placeName(place)}: ${kind === null ? `what follows lacks ${cm(awayCm)} of bow` : `the ${kind} that follows lies ${cm(awayCm)} away`}.`;

export const HEAR_WRONG_END = 'Play only the end of the held note and what follows: does the bow arrive where the next stroke begins?';

export const wishMissedText = (wish: string, is: string): string => `You wished ${wish}; around what is marked and printed the bow comes out ${is}.`;

export const unlikeText = (here: string, there: string, why: string): string =>
  `The same music is bowed otherwise in ${here} than in ${there}: ${why}. Make the two sound alike.`;

export const hearUnlike = (here: string, there: string): string => `Play ${here} and ${there} one after the other: do the accents fall alike?`;

export const resetText = (direction: string, cmBack: number): string =>
  `At the repeat the bow must go ${direction} again without time to set it anew${cmBack >= 5 ? `, and lies ${cm(cmBack)} away` : ''}.`;

export const pizzicatoText = (gap: number, needed: number, way: string): string => `${seconds(gap)} to ${way}; it takes about ${seconds(needed)}.`;

export const phraseText = (bows: number): string =>
  `This slur is longer than any bow: taken for a phrase over ${bows} bows. Is it a phrase, or one bow after all?`;

export const unmetText = (marks: readonly string[]): string => `Marked ${marks.join(' and ')}: not to be met together with the marks around it.`;

/** Goes with every advice that stretches the hand. */
export const REACH_CAUTION = 'No pain, ever: a smaller hand takes another fingering, not a bigger stretch.';

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
