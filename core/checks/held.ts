/**
 * A plan held as it is, checked for another tempo, hand or tolerance: what the tempo ranges promise. A new plan for the other
 * conditions may find a better way.
 */
import type { Line } from '../instruments/lines';
import { clockFor } from '../score/time';
import type { Player } from '../instruments/player';
import type { Fingering } from '../left-hand/fingering';
import { stringsOf } from '../left-hand/strings';
import type { Bowing } from '../bow-arm/describe';
import type { CheckRequest } from './check';
import { aimOf, placeOf, type LineContext } from './context';
import { foundIn, type Found } from './found';
import { gapAt } from './hand';

export interface HeldPlan {
  line: Line;
  fingering: Fingering | null;
  bowing: Bowing | null;
  /** Quarters per minute that it was made for. */
  tempo: number;
}

/** @param other what is different from the plan's own conditions: the tempo in quarters per minute, the player, the tolerance in cents */
export function checkHeld(request: CheckRequest, plan: HeldPlan, other: { tempo?: number; player?: Player; toleranceCents?: number }): Found {
  const { part, marking, preferences } = request;
  const { line } = plan;
  const tempo = other.tempo ?? plan.tempo;
  const factor = tempo / plan.tempo;
  const { aim } = aimOf(request);
  const context: LineContext = {
    part,
    line,
    player: other.player ?? request.player,
    clock: clockFor(part, tempo),
    marking,
    preferences,
    aim: { ...aim, toleranceCents: other.toleranceCents ?? aim.toleranceCents },
    place: (note) => placeOf(part, note),
    isNew: () => true,
  };
  const fingering = plan.fingering && fingeringAt(plan.fingering, factor);
  return foundIn({ fingering, stringOf: stringsOf(fingering), bowing: plan.bowing && bowingAt(plan.bowing, factor) }, context);
}

/** The same fingers, everything `factor` times as fast. */
export function fingeringAt(fingering: Fingering, factor: number): Fingering {
  const notes = fingering.notes.map((note) => {
    if (!note.shift) return note;
    const gapS = gapAt(note.shift, factor);
    const { freeS, lastS, bits } = note.shift;
    return { ...note, shift: { ...note.shift, freeS: freeS / factor, lastS: lastS / factor, gapMs: gapS * 1000, bitsPerS: bits / gapS } };
  });
  return { ...fingering, notes };
}

/** The same bows at the same places, everything `factor` times as fast. */
export function bowingAt(bowing: Bowing, factor: number): Bowing {
  const strokes = bowing.strokes.map((stroke) => ({
    ...stroke,
    seconds: stroke.seconds / factor,
    cmPerS: stroke.cmPerS * factor,
    retakeTime: stroke.retakeTime && { free: stroke.retakeTime.free / factor, needed: stroke.retakeTime.needed },
  }));
  return { ...bowing, strokes };
}
