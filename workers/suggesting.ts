/** Fingerings and bowings of a passage to choose from, each with what it comes to and what taking it writes. */
import { linesOf, type Line } from '../core/instruments/lines';
import type { Player } from '../core/instruments/player';
import type { TickRange } from '../core/score/bars';
import type { Note, Part } from '../core/score/score';
import type { Clock } from '../core/score/time';
import { slurLinks } from '../core/marking/links';
import { kindsWhere } from '../core/marking/kinds';
import type { Marking } from '../core/marking/mark';
import type { FingeringMemory } from '../core/left-hand/fingering';
import { fingerPart } from '../core/left-hand/part';
import { costsMore, fingeringNumbers } from '../core/left-hand/reasons';
import type { HandPreferences } from '../core/left-hand/preferences';
import { planBowing, type BowingRequest, type BowMemory } from '../core/bow-arm/bowing';
import { bowOf } from '../core/bow-arm/bow';
import { bowCostsMore } from '../core/bow-arm/choices';
import { bowingNumbers } from '../core/bow-arm/reasons';
import { aimOf, placeOf } from '../core/checks/context';
import { handOutlook } from '../core/checks/hand-outlook';
import { strokesPerS } from '../core/checks/tables';
import type { OtherPart } from '../core/ensemble/ensemble';
import { changesFor, heldFingering, suggestedBowing } from '../core/suggest/suggestion';
import type { BowingChoice, Conditions, FingeringChoice } from './questions';

/** Ways of a passage that are shown. */
const SHOWN_FINGERINGS = 5;
const SHOWN_BOWINGS = 6;

export const FINGER_KINDS = kindsWhere(({ suggested }) => suggested === 'fingering');
export const BOW_KINDS = kindsWhere(({ suggested }) => suggested === 'bowing');

interface HandQuestion {
  part: Part;
  player: Player;
  clock: Clock;
  /** Without what was suggested before. */
  marking: Marking;
  preferences: HandPreferences;
  within: TickRange;
  others: readonly OtherPart[];
}

/** @param targets notes that may be marked @param memory of the last plan of the line */
export function fingeringChoices(question: HandQuestion, asked: Conditions, targets: ReadonlySet<string>, memory: FingeringMemory): FingeringChoice[] {
  const { others, ...request } = question;
  const { part, clock, player, preferences } = request;
  const { alternatives } = fingerPart({ ...request, alternatives: SHOWN_FINGERINGS }, asked.line);
  const line = lineAt(part, asked.line);
  const links = slurLinks(part, line, asked.marking);
  const place = (note: Note) => placeOf(part, note);
  const context = {
    part,
    clock,
    player,
    preferences,
    marking: asked.marking,
    line,
    place,
    isNew: () => true,
    ...aimOf({ part, intonation: asked.intonation, others }),
  };
  const best = alternatives[0];
  return alternatives.map((way) => ({
    way,
    numbers: fingeringNumbers(way, line, links, ({ onset, end }) => clock.secondsAt(end) - clock.secondsAt(onset)),
    outlook: handOutlook(way, context),
    ...(best && way !== best ? costsMore(way.terms, best.terms) : { more: [], less: [] }),
    changes: changesFor(asked.marking, heldFingering({ ...request, line }, way, asked.density, memory), { kinds: FINGER_KINDS, targets }),
  }));
}

/** @param targets notes that may be marked @param memory of the last plan of the line */
export function bowingChoices(request: BowingRequest, asked: Conditions, targets: ReadonlySet<string>, memory: BowMemory): BowingChoice[] {
  const { part, line, player, clock } = request;
  const plans = planBowing({ ...request, alternatives: SHOWN_BOWINGS }, memory);
  const bow = bowOf(player.instrument);
  const question = {
    part,
    line,
    bow,
    hairCm: bow.hairCm,
    stringOf: request.stringOf ?? null,
    tempo: clock.tempo,
    strokesPerS: strokesPerS(player),
    secondsAt: (tick: number) => clock.secondsAt(tick),
  };
  const best = plans[0];
  return plans.map((plan) => ({
    plan,
    numbers: bowingNumbers(plan, question),
    ...(best && plan !== best ? bowCostsMore(plan.terms, best.terms) : { more: [], less: [] }),
    changes: changesFor(asked.marking, suggestedBowing(plan), { kinds: BOW_KINDS, targets }),
  }));
}

/** The line that is asked for, the first where it is not there. */
export function lineAt(part: Part, index: number): Line {
  const lines = linesOf(part);
  return lines[index] ?? lines[0]!;
}
