/** What can be done about a finding, in English: for remedies that are said, and for those that are marks and can be tried. */

const quarters = (tempo: number): number => Math.floor(tempo);
const cm = (value: number): string => `${Math.round(value)} cm`;

export const inTime = (tempo: number): string => `In time at quarter = ${quarters(tempo)} or slower.`;
export const comesOff = (tempo: number): string => `Comes off at quarter = ${quarters(tempo)} or slower.`;
export const comesOffOpen = (tempo: number): string => `Comes off at quarter = ${quarters(tempo)}; first on the open strings alone.`;
export const oneBowLasts = (tempo: number): string => `One bow lasts from quarter = ${Math.ceil(tempo)} on.`;

/* Chords and marks that contradict. */
export const OTHER_INSTRUMENT = 'Choose another instrument or tuning, or move the note by an octave.';
export const DIVIDE = 'Divide the chord between players or break it.';
export const TAKE_ONE_AWAY = 'Take one of the marks away.';
export const TAKE_ONE_OF_TWO = 'Take one of them away; the others can be met.';
export const TAKE_ONE_HERE = 'Take one of the marks here or on the note before away.';
export const markIt = (kind: 'hook' | 'retake'): string => `Mark a ${kind}.`;
export const without = (what: string, value: string | null, place: string): string => `Without the ${what}${value === null ? '' : ` ${value}`} at ${place}.`;
export const withoutWish = (value: string): string => `Without the wish “${value}”.`;

/* The left hand. */
export const releaseFinger = (together: boolean): string => `Take another fingering, or release the ${together ? 'lower' : 'first'} finger.`;
export const octave = (up: boolean): string => `An octave ${up ? 'higher' : 'lower'}.`;
export const DIVIDED = 'Divided between the players of the section from here.';
export const shorterTrill = (ending: boolean): string =>
  ending ? 'Leave the ending out, or play a mordent of three notes.' : 'Play it as an appoggiatura, or leave it out.';
export const simplerFigure = (turn: boolean): string => (turn ? 'Play it as a mordent, two notes before the main note.' : 'Leave it out.');

/* Bow that runs out, comes back, is set anew. */
export const splitIn = (bows: number): string => `Split it in ${bows === 2 ? 'two' : bows} bows.`;
export const newBowAt = (places: readonly string[]): string => `New bow at ${places.join(' and ')}.`;
export const lessOnBoth = (fairCm: number): string =>
  `Less bow on the long one: ${cm(fairCm)} for both, then the long one is a little softer and the short one a little louder than their level.`;
export const HOOK_IT = 'Hook the short one to the long one with a stop between: nothing to bring back.';
export const retakeIt = (backS: number, backCm: number, heldS: number): string =>
  `Retake: ${backS.toFixed(2)} s to bring ${cm(backCm)} back, out of the long one's ${heldS.toFixed(2)} s.`;
export const lessOnLong = (lengthCm: number, times: number): string => `Less bow on the long one: ${lengthCm} cm${allTimes(times)}.`;
export const hookThem = (times: number): string => `Hook the short one to the long one with a stop between${allTimes(times)}: nothing to bring back.`;
const allTimes = (times: number): string => (times > 1 ? `, all ${times} times` : '');

/* Sound and evenness. */
export const moreBow = (neededCm: number, lane: string, fits: boolean): string =>
  fits ? `More bow for it: ${neededCm} cm ${lane}, or a softer level.` : `It would take ${neededCm} cm of bow: split it, or take a softer level.`;
export const moreBowMarked = (neededCm: number): string => `More bow for it: ${neededCm} cm.`;
export const softerLevel = (name: string): string => `Softer: ${name} from here.`;
export const twoAndTwo = (pairs: number): string => `Slur two and two: ${pairs} pairs.`;
export const evenSingles = (singleCm: number, slurCm: number): string =>
  `More bow for the single notes than the hand likes to give, ${cm(singleCm)} each, and no more than ${cm(slurCm)} for the slur.`;
export const EVEN_BOW = 'One slow bow on an open string for as long as the slur lasts; then the fingers over it, and the bow does not notice them.';
export const LIFT = 'Lift, and set the bow anew before it.';
export const ANOTHER_END = 'Save bow on the held note, change in the middle of it, or lift and set the bow anew.';

export const changeInTurn = (who: string): string => `In a section change in turn, between the beats and never with the desk beside: ${who}.`;

/* Lines of strokes. */
export const WITHOUT_WISH = 'Take the wish away, mark a retake before it, or wish less bow on the notes before.';
export const MARK_ALIKE = 'Mark the first bow of both alike, or leave it and listen that the accents fall alike.';
export const COME_ROUND = 'Split or join a slur before the repeat, or take the first bow of the second time the other way.';
export const SAY_IN_CHOICES = 'Say it in Choices, at the first note of the slur.';
export const PLUCK_SOONER = 'Shorten the last note before it, end up-bow at the frog, or pluck with the left hand.';
export const SPLIT_LEAP = 'Split the slur here, or finger it so that the strings are neighbours.';
export const phraseOrBow = (is: 'phrase' | 'bow'): string => (is === 'phrase' ? 'It is a phrase: bowed in pieces.' : 'It is one bow.');

/* The same music in two places. */
export const markLike = (place: string, model: string): string => `Mark ${place} like ${model}.`;

export const printCueText = (name: string, bar: string): string => `Print the cue small: ${name} from bar ${bar}.`;
