/**
 * Drills: from a passage to something playable. Each keeps the fingers and strings of the plan, unless it is about something else, and is
 * offered only where it fits. What teachers do is common practice; the figures are judgement.
 */
import { madePart } from '../formats/musicxml/made-part';
import type { MadeStep } from '../formats/musicxml/made-part';
import { quartersOf } from '../score/ticks';
import { ofTheBow } from './drills-bow';
import { ofTheHand } from './drills-hand';
import { ofTheRhythm } from './drills-rhythm';
import type { Passage } from './passage';
import { ofTheScale } from './scale';

export interface DrillOptions {
  /** The tempo that the passage is wanted at. */
  quartersPerMinute: number;
}

export interface DrillKind {
  name: string;
  /** In one sentence. */
  listenFor: string;
  /** What is said beside a drill that stretches, repeats quickly or is loud. */
  caution: string | null;
  /** Null where the passage has not what it is for. */
  steps(passage: Passage, options: DrillOptions): MadeStep[] | null;
}

export const DRILLS = { ...ofTheRhythm, ...ofTheBow, ...ofTheHand, ...ofTheScale } satisfies Record<string, DrillKind>;
export type DrillName = keyof typeof DRILLS;
export const DRILL_NAMES = Object.keys(DRILLS) as DrillName[];

export interface Drill {
  kind: DrillName;
  name: string;
  listenFor: string;
  caution: string | null;
  /** What each of its parts is, in their order. */
  steps: string[];
  /** A part of its own, with fingers and slurs. */
  musicXml: string;
  /** Without the rests that fill up bars. */
  quarters: number;
}

/** Null where it does not fit this passage, or note values cannot write it. */
export function drillOf(kind: DrillName, passage: Passage, options: DrillOptions): Drill | null {
  const { name, listenFor, caution, steps: make } = DRILLS[kind];
  const steps = make(passage, options);
  if (!steps || steps.every(({ notes }) => notes.length === 0)) return null;
  const { part, bar, fifths, clef } = passage;
  const musicXml = madePart({
    title: `${name}, from bar ${bar.label}`,
    name: part.instrument ?? part.name,
    fifths,
    beats: bar.beats,
    beatType: bar.beatType,
    clef,
    soundsHalfSteps: part.soundsHalfSteps,
    quartersPerMinute: null,
    steps,
  });
  if (musicXml === null) return null;
  const ticks = steps.reduce((sum, { notes }) => sum + notes.reduce((each, note) => each + note.ticks, 0), 0);
  return { kind, name, listenFor, caution, steps: steps.map(({ words }) => words), musicXml, quarters: quartersOf(ticks) };
}

/** Those that fit, in the order of the table. */
export const drillsFor = (passage: Passage, options: DrillOptions): Drill[] =>
  DRILL_NAMES.flatMap((kind) => {
    const drill = drillOf(kind, passage, options);
    return drill ? [drill] : [];
  });
