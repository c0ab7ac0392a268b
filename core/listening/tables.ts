/** How takes are heard: values found on takes made for the tuning (other seeds than those that are reported), unless noted. */

/** Signal. */
export const SIGNAL = {
  /** Samples per second that are analysed: upper instruments, lower ones. */
  upperRate: 24_000,
  lowerRate: 12_000,
  /** Samples of a window, and of the transform it is padded to. */
  window: 1_024,
  bassWindow: 1_536,
  transform: 4_096,
  /** Seconds from frame to frame. */
  hopS: 0.01,
  /** Seconds of the room before the first note that is taken for its noise. */
  roomS: 0.5,
} as const;

/** How strongly a pitch is there. */
export const SALIENCE = {
  harmonics: 10,
  /** Weight of each further harmonic. */
  fading: 0.85,
  /** Of what lies half-way between harmonics so much is taken away: that ends octave errors. */
  between: 0.8,
  /** Cents around a harmonic in which it may lie. */
  width: 62,
} as const;

/** Following the score; costs in nats. */
export const FOLLOWING = {
  /** A frame with nothing of the pitch that is expected. */
  wrong: 5,
  /** Under the strongest pitch by so much of it a pitch is not there at all. */
  far: 0.5,
  /** A frame of silence where a note is expected, and the other way round. */
  silent: 4,
  /** Frames of silence between two notes without a rest. */
  gap: 8,
  /** Another pitch in the place of the note: to begin it, and what each frame of it counts of `wrong`. */
  other: 6,
  otherShare: 0.55,
  /** A note left out; back to the beginning of a bar, and for each bar that lies between. */
  skip: 12,
  jump: 22,
  jumpBar: 0.6,
  /** The same pitch again without a new attack. */
  noAttack: 2.5,
  attack: 3,
} as const;

/** What is said of a note. */
export const MEASURING = {
  /** Seconds after the attack and before the end that are no steady pitch. */
  attackS: 0.06,
  endS: 0.03,
  /** Seconds by which a tone has begun before it is seen. */
  leadS: 0.013,
  /** Frames that a pitch takes at least. */
  leastFrames: 3,
  /** Seconds of a note under which its pitch is only a hint. */
  sureS: 0.2,
  least: 0.08,
  /** Share of the strongest pitch that a note has on the average, to be the note that is expected. */
  leastFit: 0.6,
  /** dB over the room that a take needs, and the share of the notes that have to be found. */
  snrDb: 12,
  matched: 0.6,
  /** dB over the room's noise from which something sounds. */
  overNoiseDb: 9,
} as const;
