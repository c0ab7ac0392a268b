/** A take against the part: when each note came, how far it was off, what was another pitch or left out; and where that cannot be told, why. */
import type { LineEvent } from '../instruments/lines';
import { isUpper } from '../instruments/instrument';
import { frequencyHz, midiOf } from '../score/pitch';
import type { InstrumentKind } from '../score/score';
import type { Clock } from '../score/time';
import { bad, good, type Result } from '../util/result';
import { Frames } from './frames';
import { follow, OTHER, SOUND, type Expected, type Followed, type Observed } from './follow';
import { resampled } from './resample';
import { MEASURING, SALIENCE, SIGNAL } from './tables';
import type { Sound } from './wav';

export interface TakeAsked {
  sound: Sound;
  /** What is played, in order. */
  events: readonly LineEvent[];
  /** `slurred[i]`: under the bow of the one before. */
  slurred: readonly boolean[];
  kind: InstrumentKind;
  /** At the tempo that is meant. */
  clock: Clock;
}

export interface HeardNote {
  /** Index of the event. */
  event: number;
  noteIds: string[];
  state: 'heard' | 'another pitch' | 'missed';
  /** Seconds from the beginning of the take; null for a missed one. */
  onsetS: number | null;
  endS: number | null;
  /** Against equal temperament in the tuning of the take; null where it was not measured. */
  cents: number | null;
  /** It is too short to be sure. */
  isHint: boolean;
  /** Why its pitch was not measured. */
  unmeasured: string | null;
}

export interface HeardTake {
  notes: HeardNote[];
  /** Cents that the whole take lies over 440 Hz. */
  tuning: number;
  snrDb: number;
  /** Share of the notes that were found. */
  matched: number;
  /** Times that one went back to the beginning of a bar: index of the event, and when. */
  restarts: Array<{ event: number; atS: number }>;
}

export function listen({ sound, events, slurred, kind, clock }: TakeAsked): Result<HeardTake> {
  const played = events.filter(({ grace }) => !grace);
  if (played.length === 0) return bad(null, 'There is nothing to listen for in these bars.', 'Choose bars with notes.');
  const rate = isUpper(kind) ? SIGNAL.upperRate : SIGNAL.lowerRate;
  const frames = new Frames(resampled(sound.samples, sound.rate, rate), rate, kind === 'bass' ? SIGNAL.bassWindow : SIGNAL.window);
  const { noise, snrDb } = noiseOf(frames.level);
  if (snrDb < MEASURING.snrDb)
    return bad(
      null,
      snrDb < 3 ? 'Nothing is heard in this take.' : `The room is too loud against the instrument (${Math.round(snrDb)} dB).`,
      'Come nearer to the microphone, or choose a quieter room.',
    );
  const midis = [...new Set(played.flatMap(({ notes }) => notes.map(({ pitch }) => midiOf(pitch))))].sort((a, b) => a - b);
  const sounds = Uint8Array.from(frames.level, (level) => (level > noise + MEASURING.overNoiseDb ? 1 : 0));
  const tuning = tuningOf(frames, sounds, midis);
  // All half steps around are heard, too: what is expected has to be the strongest of them, not only of what is expected.
  const asked = Array.from({ length: midis.at(-1)! - midis[0]! + 2 * AROUND + 1 }, (_, i) => midis[0]! - AROUND + i);
  const saliences = frames.saliences(asked.map((midi) => frequencyHz(midi) * 2 ** (tuning / 1_200)));
  const expected = expectedOf(played, slurred, asked, clock, sounds);
  const observed = { count: frames.count, saliences, sounds, attacks: attacksOf(frames.level) };
  const followed = follow(expected, observed);
  if (!followed) return bad(null, 'The take is empty.', 'Record it again.');
  const heard = notesOf(followed, expected, observed);
  const notes = heard.map((note, event): HeardNote => measured(note, event, played[event]!, frames, tuning));
  const matched = notes.filter(({ state }) => state === 'heard').length / notes.length;
  if (matched < MEASURING.matched)
    return bad(
      null,
      `Only ${Math.round(matched * 100)} % of the notes were found: this seems to be other music, another octave, or another tuning.`,
      'Check the part and the bars, and tune the instrument.',
    );
  const centred = median(notes.flatMap(({ cents, isHint }) => (cents === null || isHint ? [] : [cents]))) ?? 0;
  return good({
    notes: notes.map((note) => ({ ...note, cents: note.cents === null ? null : note.cents - centred })),
    tuning: tuning + centred,
    snrDb,
    matched,
    restarts: restartsOf(followed),
  });
}

/** Half steps that are heard around what is expected. */
const AROUND = 12;

/** The room before the first note, and the loud part of the take, in dB. */
function noiseOf(level: Float64Array): { noise: number; snrDb: number } {
  const room = [...level.slice(0, Math.round(SIGNAL.roomS / SIGNAL.hopS))];
  const sorted = [...level].sort((a, b) => a - b);
  const quiet = sorted[Math.floor(sorted.length * 0.02)]!;
  const loud = sorted[Math.floor(sorted.length * 0.7)]!;
  const before = median(room) ?? quiet;
  const noise = Math.max(-90, Math.min(before, loud - MEASURING.snrDb / 2 < before ? quiet : before));
  return { noise, snrDb: loud - noise };
}

const OFFSETS = Array.from({ length: 21 }, (_, i) => (i - 10) * 5);
/** Frames that the tuning is looked for in. */
const TUNED_IN = 240;

/** Cents that the take lies over 440 Hz: where the pitches of the part fit best. */
function tuningOf(frames: Frames, sounds: Uint8Array, midis: readonly number[]): number {
  const loud = [...sounds.keys()].filter((frame) => sounds[frame] === 1);
  const some = loud.filter((_, i) => i % Math.max(1, Math.floor(loud.length / TUNED_IN)) === 0);
  let best = { cents: 0, fit: -Infinity };
  for (const cents of OFFSETS) {
    const fit = frames.fit(
      midis.map((midi) => frequencyHz(midi) * 2 ** (cents / 1_200)),
      some,
    );
    if (fit > best.fit) best = { cents, fit };
  }
  return best.cents;
}

function expectedOf(played: readonly LineEvent[], slurred: readonly boolean[], asked: readonly number[], clock: Clock, sounds: Uint8Array): Expected[] {
  const seconds = (event: LineEvent) => clock.secondsAt(event.end) - clock.secondsAt(event.onset);
  const all = played.reduce((sum, event) => sum + seconds(event), 0);
  // As quick as the take was on the whole.
  const times = Math.max(0.25, Math.min(4, (sounds.reduce((sum, each) => sum + each, 0) * SIGNAL.hopS) / Math.max(0.1, all)));
  return played.map((event, i) => {
    const pitches = event.notes.map(({ pitch }) => asked.indexOf(midiOf(pitch)));
    const before = played[i - 1]?.notes.map(({ pitch }) => midiOf(pitch)).join();
    const next = played[i + 1];
    const rest = next ? Math.max(0, clock.secondsAt(next.onset) - clock.secondsAt(event.end)) : 0;
    return {
      pitches,
      frames: (seconds(event) * times) / SIGNAL.hopS,
      rest: (rest * times) / SIGNAL.hopS,
      barIndex: event.notes[0]!.barIndex,
      again: before === event.notes.map(({ pitch }) => midiOf(pitch)).join(),
      slurred: slurred[i] ?? false,
    };
  });
}

/** dB in which the level rises at an attack. */
const RISE_DB = 9;
const RISE_FRAMES = 4;

function attacksOf(level: Float64Array): Float64Array {
  return Float64Array.from(level, (now, frame) => {
    let low = now;
    for (let back = 1; back <= RISE_FRAMES; back++) low = Math.min(low, level[Math.max(0, frame - back)]!);
    return Math.max(0, Math.min(1, (now - low) / RISE_DB));
  });
}

interface Stretch {
  what: 'heard' | 'another pitch' | 'joined';
  from: number;
  to: number;
}

/** Of each note the stretch of frames that is its own: of several, after going back, the last. */
function notesOf({ note, what }: Followed, expected: readonly Expected[], { count, sounds, saliences, attacks }: Observed): Array<Stretch | null> {
  const found: Array<Stretch | null> = expected.map(() => null);
  for (let frame = 0; frame < count;) {
    const [at, is] = [note[frame]!, what[frame]!];
    let to = frame;
    while (to + 1 < count && note[to + 1] === at && what[to + 1] === is) to++;
    if (at >= 0 && (is === SOUND || is === OTHER) && to - frame + 1 >= MEASURING.leastFrames) {
      const from = is === SOUND ? sharpened(frame, at, expected, sounds, saliences) : frame;
      const stretch = { from, to: Math.max(from, to) };
      const isIt = is === SOUND && fitOf(stretch, expected[at]!, saliences) >= MEASURING.leastFit;
      found[at] = { what: isIt ? 'heard' : 'another pitch', ...stretch };
    }
    frame = to + 1;
  }
  return found.map((stretch, i) => joined(found, expected, attacks, i) ?? stretch);
}

/** How much of the strongest pitch the expected one has, on the average. */
function fitOf({ from, to }: Pick<Stretch, 'from' | 'to'>, { pitches }: Expected, saliences: readonly Float64Array[]): number {
  let sum = 0;
  for (let frame = from; frame <= to; frame++) sum += Math.min(...pitches.map((pitch) => saliences[pitch]![frame]!));
  return sum / (to - from + 1);
}

/**
 * The same pitch played again without a new attack cannot be told from what is beside it: where such notes last for all of them together
 * they are taken for heard. Null where each has its own attack.
 */
function joined(found: ReadonlyArray<Stretch | null>, expected: readonly Expected[], attacks: Float64Array, note: number): Stretch | null {
  let [first, last] = [note, note];
  while (first > 0 && expected[first]!.again) first--;
  while (expected[last + 1]?.again) last++;
  if (first === last) return null;
  const own = found.slice(first, last + 1);
  const isAttacked = (stretch: Stretch | null) =>
    stretch !== null && Math.max(...attacks.slice(Math.max(0, stretch.from - NEAR), stretch.from + NEAR + 1)) >= CLEAR;
  if (own.slice(1).every(isAttacked)) return null;
  const run = own.filter((stretch) => stretch?.what === 'heard');
  const lasts = run.reduce((sum, stretch) => sum + stretch!.to - stretch!.from + 1, 0);
  const wanted = expected.slice(first, last + 1).reduce((sum, { frames }) => sum + frames, 0);
  return lasts >= JOINED * wanted ? { from: run[0]!.from, to: run.at(-1)!.to, what: 'joined' } : null;
}

/** Frames around the beginning of a note in which its attack is looked for, and how much of one is clear. */
const NEAR = 4;
const CLEAR = 0.35;

/** Of the time of all of them. */
const JOINED = 0.6;

const LOOK = 6;

/** Where the new pitch is stronger than the one before, near where the way through the score has it. */
function sharpened(frame: number, note: number, expected: readonly Expected[], sounds: Uint8Array, saliences: readonly Float64Array[]): number {
  const before = expected[note - 1];
  if (!before || expected[note]!.again || sounds[Math.max(0, frame - 2)] === 0) {
    let first = frame;
    while (first > 0 && frame - first < LOOK && sounds[first - 1] === 1 && sounds[frame - 1] !== 1) first--;
    return first;
  }
  const strength = (pitches: readonly number[], at: number) => Math.min(...pitches.map((pitch) => saliences[pitch]![at] ?? 0));
  for (let at = Math.max(0, frame - LOOK); at <= frame + LOOK; at++)
    if (strength(expected[note]!.pitches, at) > strength(before.pitches, at) && strength(expected[note]!.pitches, at + 1) > strength(before.pitches, at + 1))
      return at;
  return frame;
}

function measured(stretch: Stretch | null, event: number, { ids, notes }: LineEvent, frames: Frames, tuning: number): HeardNote {
  const base = { event, noteIds: [...ids] };
  if (!stretch) return { ...base, state: 'missed', onsetS: null, endS: null, cents: null, isHint: false, unmeasured: 'it was not heard' };
  const { what, from, to } = stretch;
  if (what === 'joined')
    return { ...base, state: 'heard', onsetS: null, endS: null, cents: null, isHint: false, unmeasured: 'it cannot be told from the same note beside it' };
  const [onsetS, endS] = [Math.max(0, from * SIGNAL.hopS - MEASURING.leadS), (to + 1) * SIGNAL.hopS];
  const seconds = endS - onsetS;
  const unmeasured = what === 'another pitch' ? 'another pitch was heard in its place' : seconds < MEASURING.least ? 'it is too short' : null;
  if (unmeasured) return { ...base, state: what, onsetS, endS, cents: null, isHint: false, unmeasured };
  const first = Math.min(to, from + Math.round(Math.min(MEASURING.attackS, seconds / 3) / SIGNAL.hopS));
  const last = Math.max(first, to - Math.round(MEASURING.endS / SIGNAL.hopS));
  const hertz = notes.map(({ pitch }) => frequencyHz(midiOf(pitch)) * 2 ** (tuning / 1_200));
  const cents = hertz.map((f) => median(Array.from({ length: last - first + 1 }, (_, i) => centsAt(frames, first + i, f, hertz)).flat()));
  const known = cents.filter((each) => each !== null);
  const value = known.length === cents.length ? known.reduce((sum, each) => sum + each, 0) / known.length : null;
  return {
    ...base,
    state: what,
    onsetS,
    endS,
    cents: value,
    isHint: seconds < MEASURING.sureS || notes.length > 1,
    unmeasured: value === null ? 'its pitch was not clear' : null,
  };
}

const MEASURED_HARMONICS = 6;

/** Cents of the harmonics near the expected pitch, each by the peak of its bins (parabola through the logarithms); those of a note that sounds with it are left out. */
function centsAt(frames: Frames, frame: number, hertz: number, together: readonly number[]): number[] {
  const spectrum = frames.spectrum(frame);
  const found: number[] = [];
  const width = 2 ** (SALIENCE.width / 1_200);
  let strongest = 0;
  const peaks: Array<{ cents: number; magnitude: number }> = [];
  for (let h = 1; h <= MEASURED_HARMONICS; h++) {
    const f = h * hertz;
    if (together.some((other) => other !== hertz && Math.abs(Math.log2(f / other) - Math.log2(Math.max(1, Math.round(f / other)))) < 0.03)) continue;
    const [from, to] = [Math.max(1, Math.floor(f / width / frames.binHz)), Math.min(frames.bins - 2, Math.ceil((f * width) / frames.binHz))];
    let peak = from;
    for (let bin = from; bin <= to; bin++) if (spectrum[bin]! > spectrum[peak]!) peak = bin;
    // A slope is no peak.
    if (spectrum[peak]! <= spectrum[peak - 1]! || spectrum[peak]! < spectrum[peak + 1]!) continue;
    const [a, b, c] = [spectrum[peak - 1]!, spectrum[peak]!, spectrum[peak + 1]!].map((value) => Math.log(value + 1e-15)) as [number, number, number];
    const at = peak + (0.5 * (a - c)) / (a - 2 * b + c);
    peaks.push({ cents: 1_200 * Math.log2((at * frames.binHz) / f), magnitude: spectrum[peak]! });
    strongest = Math.max(strongest, spectrum[peak]!);
  }
  for (const { cents, magnitude } of peaks) if (magnitude > strongest * FAINT) found.push(cents);
  return found;
}

/** Of the strongest harmonic: fainter ones say nothing. */
const FAINT = 0.08;

function median(values: readonly number[]): number | null {
  if (values.length === 0) return null;
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
}

function restartsOf({ note }: Followed): HeardTake['restarts'] {
  const restarts: HeardTake['restarts'] = [];
  note.forEach((at, frame) => {
    const before = note[frame - 1] ?? -1;
    if (at >= 0 && before >= 0 && at < before) restarts.push({ event: at, atS: frame * SIGNAL.hopS });
  });
  return restarts;
}
