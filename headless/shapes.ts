/** The JSON that bin/omaggio prints, as Zod schemas. Field names are a promise to programs outside. */
import { INSTRUMENT_KINDS } from '../core/instruments/instrument';
import { z } from 'zod';
import { ROLES } from '../core/ensemble/roles';
import { COMPARED } from '../core/ensemble/groups';
import { ADVICE_KINDS } from '../core/left-hand/advice';

const warning = z.object({ place: z.string(), text: z.string() });
const at = { bar: z.string(), barIndex: z.int().nonnegative(), beat: z.number() };

export const partsShape = z.object({
  parts: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      instrument: z.enum(INSTRUMENT_KINDS).nullable(),
      bars: z.int(),
      notes: z.int(),
      voices: z.int(),
      because: z.string(),
      /** Bars in the order of playing: "1–8, 1–7, 9". */
      played: z.string(),
    }),
  ),
  warnings: z.array(warning),
});

export const notesShape = z.object({
  notes: z.array(z.object({ id: z.string(), ...at, onset: z.number(), duration: z.number(), pitch: z.string() })),
});

export const drillShape = z.object({
  drills: z.array(
    z.object({
      kind: z.string(),
      name: z.string(),
      listenFor: z.string(),
      caution: z.string().nullable(),
      steps: z.array(z.string()).min(1),
      /** How long it is, without the rests that fill up bars. */
      quarters: z.number().positive(),
      musicXml: z.string(),
    }),
  ),
});

export const listenShape = z.object({
  /** Cents that the instrument is tuned over 440 Hz. */
  tuning: z.number(),
  snrDb: z.number(),
  /** Share of the notes that were found. */
  matched: z.number().min(0).max(1),
  /** Where one went back to. */
  restarts: z.array(z.object({ ...at, atS: z.number() })),
  notes: z.array(
    z.object({
      id: z.string(),
      ...at,
      pitch: z.string(),
      state: z.enum(['heard', 'another pitch', 'missed']),
      onsetS: z.number().nullable(),
      endS: z.number().nullable(),
      /** Against equal temperament in the tuning of the take. */
      cents: z.number().nullable(),
      /** Too short, or one of several at once: not sure. */
      isHint: z.boolean(),
      unmeasured: z.string().nullable(),
    }),
  ),
});

const day = z.iso.date();
const passage = { passage: z.string(), bars: z.string() };

export const planShape = z.object({
  until: day,
  /** Said where a day is long. */
  caution: z.string().nullable(),
  /** Quarters per minute, as all tempi here. */
  wanted: z.number(),
  /** Passages whose marking does not allow the wanted tempo. */
  capped: z.array(z.object({ ...passage, ceiling: z.number() })),
  days: z.array(
    z.object({
      day,
      /** Minutes. */
      warmUp: z.int(),
      rests: z.int(),
      playThrough: z.int(),
      wholeRuns: z.array(z.string()),
      blocks: z.array(z.object({ ...passage, minutes: z.int().min(4).max(10), why: z.string() })),
    }),
  ),
  shortfalls: z.array(z.object({ ...passage, short: z.number().positive(), reaches: z.number(), text: z.string() })),
});

export const scoreShape = z.object({
  groups: z.array(
    z.object({
      bars: z.string(),
      fromBar: z.int().nonnegative(),
      toBar: z.int().nonnegative(),
      parts: z.array(z.string()).min(2),
      agreement: z.enum(['agree', 'print differs', 'opposite bows']),
      /** Why it was left apart; null where it was not. */
      left: z.string().nullable(),
      differences: z.array(
        z.object({
          what: z.enum(COMPARED),
          at: z.string(),
          text: z.string(),
          says: z.array(z.object({ value: z.string(), parts: z.array(z.string()) })),
        }),
      ),
    }),
  ),
  /** Quarters per minute at the first tempo mark; null where nothing limits. */
  tempo: z.object({
    text: z.string(),
    floor: z.number().nullable(),
    ceiling: z.number().nullable(),
    floorBy: z.string().nullable(),
    ceilingBy: z.string().nullable(),
    none: z.boolean(),
    wanted: z.number(),
    sections: z.array(
      z.object({ name: z.string(), bars: z.string(), text: z.string(), floor: z.number().nullable(), ceiling: z.number().nullable(), none: z.boolean() }),
    ),
    /** Spots in the way of the wanted tempo. */
    against: z.array(z.object({ part: z.string(), barIndex: z.int().nonnegative(), kind: z.string(), tempo: z.number() })),
    /** Where the fewest are in the way; null where none is in the way of the wanted one. */
    opening: z.object({ tempo: z.number(), spots: z.int().nonnegative() }).nullable(),
  }),
  roles: z.array(
    z.object({
      part: z.string(),
      role: z.enum(ROLES),
      bars: z.string(),
      fromBar: z.int().nonnegative(),
      toBar: z.int().nonnegative(),
      sure: z.number().min(0).max(1),
    }),
  ),
  /** From bar and beat to the next one. */
  chords: z.array(z.object({ at: z.string(), chord: z.string() })),
  tunes: z.array(z.object({ bars: z.string(), who: z.array(z.string()) })),
  entries: z.array(z.object({ at: z.string(), who: z.string(), silent: z.string(), cue: z.string(), printed: z.boolean() })),
  /** Longer than any bow: where the desks of a section change in turn. */
  heldLong: z.array(z.object({ bars: z.string(), who: z.string(), desks: z.string() })),
  rehearsal: z.object({
    spots: z.array(
      z.object({
        places: z.array(z.string()).min(1),
        who: z.array(z.string()).min(1),
        kind: z.string(),
        severity: z.int().min(1).max(3),
        text: z.string(),
        hearIt: z.string().nullable(),
        tryIt: z.string().nullable(),
      }),
    ),
    more: z.int().nonnegative(),
  }),
});

/** What every alternative carries: its cost taken apart, and what it is after. */
const costed = { total: z.number(), terms: z.record(z.string(), z.number()), strategy: z.string(), aim: z.string() };

const unplayable = z.array(z.object({ noteIds: z.array(z.string()), ...at, reason: z.string() }));

export const fingerShape = z.object({
  alternatives: z.array(
    z.object({
      ...costed,
      notes: z.array(
        z.object({
          id: z.string(),
          ...at,
          pitch: z.string(),
          string: z.int(),
          finger: z.enum(['0', '1', '2', '3', '4', 'T']),
          stop: z.number(),
          hand: z.number().nullable(),
          position: z.string().nullable(),
          shift: z
            .object({
              mm: z.number(),
              gapMs: z.number(),
              bits: z.number(),
              bitsPerS: z.number(),
              kind: z.string(),
              guideNote: z.string().nullable(),
              heard: z.string(),
            })
            .nullable(),
          extension: z.boolean(),
          harmonic: z.number().nullable(),
          covered: z.array(z.string()).nullable(),
        }),
      ),
    }),
  ),
  /** What else there is to say about the best one. */
  advice: z.array(z.object({ kind: z.enum(ADVICE_KINDS), bar: z.string(), barIndex: z.int(), noteIds: z.array(z.string()), text: z.string() })),
  /** Another player with the same music: notes that are fingered otherwise, and those that made the difference. */
  against: z
    .object({
      differing: z.array(z.string()),
      decisive: z.array(
        z.object({
          whose: z.enum(['first', 'second']),
          bar: z.string(),
          barIndex: z.int(),
          noteIds: z.array(z.string()),
          mm: z.number().nullable(),
          comfortableMm: z.number().nullable(),
          limitMm: z.number().nullable(),
          text: z.string(),
        }),
      ),
      caution: z.string(),
    })
    .nullable(),
  unplayable,
});

const bowLimit = z.object({ tempo: z.number(), bar: z.string(), kind: z.string() }).nullable();

export const bowShape = z.object({
  alternatives: z.array(
    z.object({
      ...costed,
      feasible: z.boolean(),
      strokes: z.array(
        z.object({
          noteIds: z.array(z.string()),
          ...at,
          direction: z.enum(['down', 'up']),
          from: z.number(),
          to: z.number(),
          cm: z.number(),
          cmPerS: z.number(),
          stepDb: z.number(),
          retake: z.boolean(),
          hooked: z.boolean(),
          zone: z.string(),
          kind: z.string(),
          seconds: z.number(),
          /** 1 for a plain stroke, more for a measured tremolo, 0 for an unmeasured one. */
          strokes: z.int(),
          retakeTime: z.object({ free: z.number(), needed: z.number() }).nullable(),
          sound: z.object({
            contact: z.number(),
            lane: z.string(),
            weight: z.string(),
            vibrato: z.string(),
            missingDb: z.number(),
          }),
        }),
      ),
      tempo: z.object({ floor: bowLimit, ceiling: bowLimit }),
      unlike: z.array(z.object({ bars: z.string(), like: z.string(), why: z.string() })),
      resets: z.array(z.object({ bar: z.string(), toBar: z.string(), direction: z.enum(['down', 'up']) })),
      changes: z.array(z.object({ kind: z.enum(['split', 'join', 'hook', 'retake', 'start-up', 'remove-slur']), ...at, why: z.string(), noteId: z.string() })),
    }),
  ),
});

export const checkShape = z.object({
  tempo: z.object({
    wanted: z.number(),
    floor: z.number().nullable(),
    ceiling: z.number().nullable(),
    /** Why there is no tempo at all; then neither floor nor ceiling promises anything. */
    none: z.enum(['unplayable', 'too slow and too quick']).nullable(),
    limitedBy: z.object({ kind: z.string(), bar: z.string(), beat: z.number(), noteIds: z.array(z.string()) }).nullable(),
  }),
  passages: z.array(
    z.object({
      name: z.string(),
      bars: z.string(),
      tempo: z.object({ ceiling: z.number().nullable(), floor: z.number().nullable(), none: z.enum(['unplayable', 'too slow and too quick']).nullable() }),
    }),
  ),
  findings: z.array(
    z.object({
      id: z.string(),
      kind: z.string(),
      ...at,
      noteIds: z.array(z.string()),
      severity: z.union([z.literal(1), z.literal(2), z.literal(3)]),
      numbers: z.record(z.string(), z.union([z.number(), z.string()])),
      text: z.string(),
      hearIt: z.string().nullable(),
      hear: z.array(z.object({ kind: z.string(), text: z.string() })),
      remedies: z.array(
        z.object({
          kind: z.enum(['fingering', 'bowing', 'earlier', 'edit', 'tempo', 'marks', 'advice']),
          text: z.string(),
          before: z.number().nullable(),
          after: z.number().nullable(),
          solved: z.boolean(),
          brings: z.array(z.string()),
          tempo: z.number().optional(),
          marks: z.array(z.object({ id: z.string(), kind: z.string(), value: z.string() })),
        }),
      ),
    }),
  ),
});
