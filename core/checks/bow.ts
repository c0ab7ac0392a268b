/** Findings of the bow arm: slurs longer than the bow, uneven returns, retakes, rates, crossings, wishes, repeats. */
import { eventIndexOf } from '../instruments/lines';
import { noteById } from '../score/find';
import { changeTo } from '../marking/change';
import { bowInForce, markAt } from '../marking/mark';
import { preparedAtoms } from '../bow-arm/bowing';
import { lockInWords, smallestClash } from '../bow-arm/clash';
import type { Bowing, Stroke } from '../bow-arm/describe';
import { changesInTurn, inTurnInWords, type DeskChanges } from '../bow-arm/in-turn';
import { soundRecipe } from '../bow-arm/sound';
import { placeName, speedStepDb } from '../bow-arm/stroke';
import { bowOf } from '../bow-arm/bow';
import { retakeSeconds, USABLE } from '../bow-arm/tables';
import { bowLimits, bowLoad, RATE_STROKES, strokeRate, type TempoQuestion } from '../bow-arm/tempo';
import { driftsOf, unevenPair, type Drift } from '../bow-arm/travel';
import type { Finding, TempoLimit } from './finding';
import {
  BOUNCED_PER_S,
  BOW_LOAD_FROM,
  MISSING_DB_FROM,
  severityOf,
  strokesPerS,
  UNEVEN_DB_FROM,
  UNEVEN_FIGURE_DB_FROM,
  WISH_MISSED_FROM,
  type Thresholds,
} from './tables';
import * as remedy from './remedy-words';
import * as words from './words';
import { evennessTroubles } from './bow-evenness';
import { crossingTroubles } from './bow-crossings';
import { type BowContext, type Trouble, atTempo, round } from './bow-trouble';
import { TOLD, CERTAIN, RATE_FROM } from './tables';
import { unlikeTroubles, repeatTroubles, phraseTroubles, plucking } from './bow-lines';

/**
 * @param near only strokes within these bars are looked at, where just the neighbourhood of a spot is asked for; figures, rows and
 * limits are found from what lies there
 */
export function bowFindings(
  bowing: Bowing,
  context: BowContext,
  near: { barIndex: number; bars: number } | null = null,
): { findings: Finding[]; limits: TempoLimit[] } {
  const { player, part, clock } = context;
  const findings: Finding[] = [];
  const { hairCm } = bowOf(player.instrument);
  const question: TempoQuestion = { tempo: clock.tempo, hairCm, strokesPerS: strokesPerS(player), secondsAt: (tick) => clock.secondsAt(tick) };
  const tell = (trouble: Trouble | null, noteIds: readonly string[]) => {
    if (!trouble) return;
    const { kind, load, from, numbers, text, hearIt = null, remedies } = trouble;
    const note = noteById(part, trouble.noteId ?? noteIds[0]!)!;
    const severity = severityOf(load, from);
    if (severity && context.isNew(note.id))
      findings.push({
        id: `${kind} ${note.id}`,
        kind,
        ...context.place(note),
        noteIds: [...noteIds],
        severity,
        numbers,
        ...(from === TOLD || from === CERTAIN ? {} : { judged: { by: round(load), from } }),
        text,
        hearIt,
        remedies,
      } as Finding);
  };
  const within = (stroke: Stroke) => !near || Math.abs(stroke.barIndex - near.barIndex) <= near.bars;
  const drifts = driftsOf(bowing.strokes, hairCm);
  /** A figure is told of once, where it first goes wrong. */
  const told = new Set<Drift>();
  let quickUntil = -1;
  bowing.strokes.forEach((stroke, i) => {
    if (!within(stroke)) return;
    const before = bowing.strokes[i - 1];
    const drift = drifts.find(({ at, strokes, times }) => i >= at && i < at + strokes * times);
    const races = drift && told.has(drift) ? null : racesBack(stroke, before, hairCm, drift);
    if (races && drift) told.add(drift);
    tell(races, stroke.noteIds);
    tell(unmet(stroke, context) ?? wishNotMet(stroke, context), stroke.noteIds);
    tell(twice(stroke, before, context), stroke.noteIds);
    // A bow that does not last is too slow as well: one cause, told once.
    tell(runsOut(stroke, question, context) ?? levelOutOfReach(stroke, question), stroke.noteIds);
    tell(retakeLate(stroke, question), stroke.noteIds);
    if (i <= quickUntil) return;
    const quick = tooQuick(bowing.strokes, i, question, context);
    if (quick && quick.load >= 1) quickUntil = i + RATE_STROKES * 2;
    tell(quick, stroke.noteIds);
  });
  const crossings = crossingTroubles(bowing, context);
  for (const trouble of crossings.troubles) tell(trouble, [trouble.noteId!]);
  const plucked = plucking(context);
  for (const trouble of [
    ...evennessTroubles(bowing.strokes.filter(within), context),
    ...unlikeTroubles(bowing, context),
    ...repeatTroubles(bowing, hairCm),
    ...plucked.troubles,
    ...phraseTroubles(bowing),
  ])
    tell(trouble, [trouble.noteId!]);
  const ofStrokes = bowLimits(bowing.strokes, question)
    // A section that changes in turn holds it at any tempo.
    .filter(({ kind, stroke }) => kind !== 'bow runs out' || inTurn(stroke, 2, context) === null)
    .map(({ kind, tempo, stroke }) => ({ kind, tempo, noteIds: stroke.noteIds }));
  const limits = [...ofStrokes, ...crossings.limits, ...plucked.limits].flatMap(({ kind, tempo, noteIds }): TempoLimit[] => {
    const note = noteById(part, noteIds[0]!)!;
    if (!context.isNew(note.id)) return [];
    const { barIndex, beat } = context.place(note);
    return [{ kind, tempo, barIndex, beat, noteIds }];
  });
  return { findings, limits };
}

type StrokeKind = (stroke: Stroke, question: TempoQuestion) => Trouble | null;

/** How the desks of a section change in turn on a note that one stroke would have to hold; null for one player, for several notes, and where there is no room. */
function inTurn({ noteIds }: Stroke, bows: number, { part, line }: BowContext): DeskChanges[] | null {
  if (!part.section) return null;
  const [at, last] = [noteIds[0]!, noteIds.at(-1)!].map((id) => eventIndexOf(line).get(id));
  if (at === undefined || at !== last) return null;
  const { onset, end } = line.events[at]!;
  return changesInTurn(part.bars, onset, end, bows);
}

function runsOut(stroke: Stroke, { tempo, hairCm }: TempoQuestion, context: BowContext): Trouble | null {
  const load = bowLoad(stroke, hairCm);
  if (load < 1) return null;
  // A fermata lasts as long as the bow does: what counts is the note itself.
  const seconds = stroke.seconds / stroke.heldTimes;
  const neededCm = stroke.slowest * seconds;
  const bows = Math.ceil(load);
  const numbers = { neededCm: round(neededCm), hairCm, seconds: round(seconds), slowestCmPerS: round(stroke.slowest) };
  const desks = inTurn(stroke, Math.max(2, bows), context);
  const text = words.runsOutText(neededCm, hairCm, stroke.slowest, seconds);
  if (desks) {
    // Something to be told and done, and no trouble.
    const remedies = [{ text: remedy.changeInTurn(inTurnInWords(desks, context.part)), before: null, after: null }];
    return { kind: 'bow runs out', load: 1, from: TOLD, numbers, text, remedies };
  }
  return {
    kind: 'bow runs out',
    load,
    from: BOW_LOAD_FROM,
    numbers,
    text,
    remedies: [
      { text: remedy.splitIn(bows), before: Math.round(neededCm), after: Math.round(neededCm / bows) },
      { text: remedy.oneBowLasts(tempo * load), ...atTempo(tempo, Math.ceil(tempo * load)) },
    ],
  };
}

/** The coach's own up after up (or down after down) with neither a hook nor a retake marked: the plan chose one. */
function twice(stroke: Stroke, before: Stroke | undefined, { part, marking }: BowContext): Trouble | null {
  if (!before) return null;
  const marked = ({ noteIds }: Stroke) => markAt(marking, noteIds[0]!, 'bow');
  const [last, own] = [marked(before), marked(stroke)];
  if (!own || own.off || own.origin !== 'coach' || last?.value !== own.value || last.off) return null;
  if (before.strokes !== 1 || before.endDirection !== stroke.direction || (!stroke.hooked && !stroke.retake)) return null;
  if (markAt(marking, stroke.noteIds[0]!, 'hook') || markAt(marking, stroke.noteIds[0]!, 'retake')) return null;
  const note = noteById(part, stroke.noteIds[0]!)!;
  const [planned, other] = stroke.hooked ? (['hook', 'retake'] as const) : (['retake', 'hook'] as const);
  const change = (kind: 'hook' | 'retake') => changeTo(marking, note.id, kind, { value: 'yes', origin: 'coach' });
  return {
    kind: 'contradiction',
    load: 1,
    from: TOLD,
    numbers: { direction: own.value, planned },
    text: words.doubleBowText(own.value, planned),
    remedies: [planned, other].map((kind) => ({
      text: remedy.markIt(kind),
      before: null,
      after: null,
      changes: [change(kind)].filter((each) => each !== null),
    })),
  };
}

/** Share of the bow before that a stroke takes back at least, to be a way back (judgement). */
const BROUGHT_BACK = 0.5;

/** An uneven pair, there and back; with what it comes to in the steady state, where both strokes have one length. */
const racesBack = (stroke: Stroke, before: Stroke | undefined, hairCm: number, drift: Drift | undefined): Trouble | null => {
  // A stroke that springs brings nothing back by its speed.
  if (stroke.kind === 'spiccato' && before?.kind !== 'spiccato') return null;
  // On the first beat of a bar the shorter note may well be the stronger one (common practice).
  if (before && stroke.beat === 1 && before.beat !== 1) return null;
  if (!before || stroke.retake || stroke.direction === before.endDirection || stroke.seconds >= before.seconds) return null;
  // Where the bow runs out there is nothing to bring back with less of it; and a little stroke after a long one brings nothing back.
  if (bowLoad(before, hairCm) >= 1 || stroke.cm < before.cm * BROUGHT_BACK) return null;
  const pair = unevenPair(before.seconds, stroke.seconds, before.preferredCm, stroke.preferredCm);
  // What the dynamics ask for is wanted; what the strokes' own speeds would give is not heard as such.
  const surplus = stroke.stepDb - speedStepDb(before.slowest, stroke.slowest);
  // A figure that goes on and on heads for its steady state, however the bow makes do for a while.
  const from: Thresholds = drift ? UNEVEN_FIGURE_DB_FROM : UNEVEN_DB_FROM;
  if (surplus < from[0]) return null;
  const step = round(stroke.stepDb);
  const backS = retakeSeconds(before.cm / hairCm);
  return {
    kind: 'bow must race back',
    load: surplus,
    from,
    numbers: {
      beforeCmPerS: round(before.cmPerS),
      cmPerS: round(stroke.cmPerS),
      stepDb: step,
      surplusDb: round(surplus),
      steadySpeedRatio: round(pair.speedRatio),
      steadyStepDb: round(pair.stepDb),
      ...(drift?.figuresUntilEnd ? { figuresUntilTheBowEnds: drift.figuresUntilEnd } : {}),
    },
    text: `${words.racesText(before.cmPerS, stroke.cmPerS, stroke.direction)}${drift ? ` ${words.driftText(drift.times, pair.speedRatio, drift.figuresUntilEnd, drift.perFigure > 0 ? 'tip' : 'frog')}` : ''}`,
    remedies: [
      {
        text: remedy.lessOnBoth(pair.fairCm),
        before: step,
        after: round(Math.abs(pair.shortDb)),
      },
      { text: remedy.HOOK_IT, before: step, after: 0 },
      {
        text: remedy.retakeIt(backS, before.cm, before.seconds),
        before: step,
        after: 0,
      },
    ],
  };
};

const retakeLate: StrokeKind = (stroke, { tempo }) => {
  if (!stroke.retakeTime) return null;
  const { needed, free } = stroke.retakeTime;
  const load = needed / free;
  return {
    kind: 'retake late',
    load,
    from: BOW_LOAD_FROM,
    numbers: { neededS: round(needed), freeS: round(free) },
    text: words.retakeText(needed, free),
    remedies: [{ text: remedy.inTime(tempo / load), ...atTempo(tempo, Math.floor(tempo / load)) }],
  };
};

const levelOutOfReach: StrokeKind = (stroke, { hairCm }) => {
  const { missingDb, contact, lane } = soundRecipe(stroke);
  if (missingDb === 0) return null;
  const neededCm = Math.round(stroke.cm * 10 ** (-missingDb / 20));
  return {
    kind: 'level out of reach',
    load: Math.abs(missingDb),
    from: MISSING_DB_FROM,
    numbers: { level: stroke.level, cm: round(stroke.cm), cmPerS: round(stroke.cmPerS), contact: round(contact), missingDb: round(missingDb) },
    text: words.missingText(stroke.level, missingDb, stroke.cmPerS),
    remedies: [
      {
        text: remedy.moreBow(neededCm, lane, neededCm <= hairCm * USABLE),
        before: Math.round(stroke.cm),
        after: neededCm,
      },
    ],
  };
};

const wishNotMet = (stroke: Stroke, context: BowContext): Trouble | null => {
  const { wish } = stroke;
  if (!wish) return null;
  const misses = [
    {
      what: wish.zone,
      miss: wish.zone ? Math.max(away(stroke.from, wish.zone), away(stroke.to, wish.zone)) : 0,
      said: 'another part of the bow',
      is: stroke.zone,
    },
    { what: wish.from, miss: away(stroke.from, wish.from), said: 'another beginning', is: placeName(stroke.from) },
    { what: wish.to, miss: away(stroke.to, wish.to), said: 'another end', is: placeName(stroke.to) },
  ];
  const worst = misses.reduce((a, b) => (b.miss > a.miss ? b : a));
  if (worst.miss < WISH_MISSED_FROM[0]) return null;
  const clash = clashAt(stroke, context);
  return {
    kind: 'wish not met',
    load: worst.miss,
    from: WISH_MISSED_FROM,
    numbers: { away: round(worst.miss), from: round(stroke.from), to: round(stroke.to) },
    text: clash ? words.clashText(clash) : words.wishMissedText(worst.said, worst.is),
    remedies: [{ text: remedy.WITHOUT_WISH, before: null, after: null }],
  };
};

const away = (place: number, zone: { from: number; to: number } | null): number => (zone ? Math.max(0, zone.from - place, place - zone.to) : 0);

function tooQuick(strokes: readonly Stroke[], i: number, question: TempoQuestion, { player }: BowContext): Trouble | null {
  const rate = strokeRate(strokes, i, question);
  if (rate === 0) return null;
  const bounced = strokes.slice(i, i + RATE_STROKES).every((stroke) => stroke.kind === 'spiccato');
  const most = bounced ? Math.min(BOUNCED_PER_S[player.level], question.strokesPerS) : question.strokesPerS;
  const slower = Math.floor((question.tempo * most) / rate);
  return {
    kind: 'stroke too quick',
    load: rate / most,
    from: RATE_FROM,
    numbers: { strokesPerS: round(rate), playerStrokesPerS: most, bounced: bounced ? 'yes' : 'no' },
    text: words.quickText(rate, most),
    remedies: [{ text: remedy.comesOff(slower), ...atTempo(question.tempo, slower) }],
  };
}

/** Marks at the start of a stroke that the plan does not meet, with the smallest set of marks that clash. */
function unmet(stroke: Stroke, context: BowContext): Trouble | null {
  const { part, marking } = context;
  const notes = stroke.noteIds.map((id) => noteById(part, id)!).filter((note) => note.onset === stroke.onset);
  const has = (kind: 'hook' | 'retake') => notes.some((note) => markAt(marking, note.id, kind)?.value === 'yes');
  const wanted = notes.map((note) => bowInForce(note, marking)).find((bow) => bow !== null) ?? null;
  const marks = [
    ...(wanted !== null && wanted !== stroke.direction ? [`${wanted}-bow`] : []),
    ...(has('hook') && !stroke.hooked ? ['hook'] : []),
    ...(has('retake') && !stroke.retake ? ['retake'] : []),
  ];
  if (marks.length === 0) return null;
  const clash = clashAt(stroke, context);
  return {
    kind: 'contradiction',
    load: 1,
    from: CERTAIN,
    numbers: { marks: marks.join(', '), planned: `${stroke.direction}${stroke.hooked ? ', hooked' : ''}${stroke.retake ? ', retake' : ''}` },
    text: clash ? words.clashText(clash) : words.unmetText(marks),
    remedies: [{ text: clash ? remedy.TAKE_ONE_OF_TWO : remedy.TAKE_ONE_HERE, before: null, after: null }],
  };
}

function clashAt(stroke: Stroke, context: BowContext): string[] | null {
  const { part, line, player, clock, marking } = context;
  const atoms = preparedAtoms({ part, line, player, clock, marking });
  const at = atoms.findIndex((atom) => atom.ids[0] === stroke.noteIds[0]);
  const joined = new Set(atoms.flatMap((atom, i) => (atom.ids.some((id) => markAt(marking, id, 'slur')?.value === 'join') ? [i] : [])));
  const clash = at < 0 ? null : smallestClash(atoms, at, joined, bowOf(player.instrument).hairCm);
  return (
    clash &&
    clash.map((lock) => {
      const { bar, beat } = context.place(noteById(part, lock.noteId)!);
      return `${bar}/${Math.round(beat * 100) / 100} ${lockInWords(lock)}`;
    })
  );
}
