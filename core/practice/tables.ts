/** How one practises: values are judgement (j) or common practice (cp) as noted, each one an entry that can be changed. */

/** The tempo ladder (j). */
export const LADDER = {
  /** It begins at this share of the goal, or so far below the last clean tempo, whichever is higher. */
  startShare: 0.5,
  startBelow: 0.08,
  /** A step up, and the least one in beats per minute. */
  climb: 0.04,
  climbLeast: 2,
  /** Clean runs in a row that a step takes (cp); one miss and the count begins again (cp). */
  row: 4,
  /** Misses in a row that lead a step back. */
  missesBack: 2,
  /** Seconds of rest after each step. */
  restS: 30,
  /** The goal is reached when it stood four times, and once at this share of it. */
  over: 1.04,
} as const;

/**
 * What is lost in the days after (j): half of the last gain in so many days, at first; so many times longer for each further day of
 * practice. That practice on several days lasts longer is the spacing effect (Ebbinghaus 1885; Cepeda et al. 2006; from memory); the figures are ours.
 */
export const FORGETTING = { halfLifeDays: 2, spacing: 1.6 } as const;

/** What a block of practice brings (j). */
export const GAIN = {
  /** Minutes in which the gap to the goal shrinks to 1/e. */
  minutes: 20,
  /** Without any log the tempo now is this share of the ceiling that the check gives. */
  unknownShare: 0.75,
  /** Blocks from which on the minutes are fitted to the player, and how strongly they are held to the usual ones. */
  fitFrom: 10,
  fitPull: 0.05,
  fitLeast: 4,
  fitMost: 120,
} as const;

/** A day of practice. Minutes. */
export const DAY = {
  block: 5,
  blockLeast: 4,
  blockMost: 10,
  /** A rest in every half hour (cp). */
  halfHour: 30,
  rest: 5,
  /** The scale of the day at the beginning, what is only played through at the end (cp, j). */
  warmUpShare: 0.1,
  warmUpLeast: 5,
  playThroughShare: 0.1,
  /** With less than this a day has no playing through, and no more than a short warm-up. */
  short: 20,
  /** With more a caution stands beside the plan. */
  long: 120,
  shortWarmUp: 2,
} as const;

/** Which blocks a plan may have (j; that passages alternate is interleaving, from memory). */
export const PLANNING = {
  /** Blocks of one passage on a day, and what a further one brings of the first. */
  perDay: 2,
  again: 0.7,
  /** Days in a row with the same passage, but for an event that is so near. */
  daysInRow: 3,
  nearDays: 3,
  /** Days before an event when only whole runs are played and nothing new is begun. */
  lastDays: 2,
  /** A passage that will certainly fail counts as so much more than one without risk. */
  riskWeight: [1, 1.25, 1.6, 2],
  /** What a plan that is made anew gives for what it had before. */
  keep: 1.03,
  /** Beats per minute below the goal that are no shortfall. */
  near: 1,
} as const;
