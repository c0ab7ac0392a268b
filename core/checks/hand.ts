/** Findings of the left hand: shifts against their time, reach, risk of being out of tune. */
import { slideSeconds } from '../left-hand/shift';
import { rounded } from '../util/round';
import { FASTEST_TEMPO, SLOWEST_TEMPO } from '../score/time';
import { noteById } from '../score/find';
import { midiOf, pitchLetter } from '../score/pitch';
import type { Note } from '../score/score';
import { slurLinks } from '../marking/links';
import { stringName } from '../instruments/instrument';
import { centsPerMm, stopMm } from '../instruments/geometry';
import { spreadMm } from '../instruments/player';
import { type FingeredNote, type Fingering } from '../left-hand/fingering';
import { guideNoteName } from '../left-hand/fingered-note';
import { gapSeconds } from '../left-hand/transition';
import { isShift, type Shift } from '../left-hand/shift';
import type { LineContext, NoteRisk } from './context';
import type { Finding, TempoLimit } from './finding';
import { hearAgainst, waysToHear, type HearWay } from './hear';
import { expectedError, type ToneSurroundings } from './intonation';
import {
  AUDIBLE_FROM,
  COLOUR_FROM_S,
  COLOUR_HALF_STEPS,
  FRAME_NOTES,
  HELD_TOGETHER,
  OUT_OF_TUNE_FROM,
  PIVOT_S,
  REACH_FROM,
  REACH_WHEN_PIVOTING,
  severityOf,
  SHIFT_BITS_PER_S,
  SHIFT_LOAD_FROM,
} from './tables';
import { targetCents } from './target';
import { inTime, releaseFinger } from './remedy-words';
import { aimText, audibleShiftText, colourText, hearText, outOfTuneText, hearColourText, hearShiftText, REACH_CAUTION, reachText, shiftText } from './words';

interface Found {
  findings: Finding[];
  limits: TempoLimit[];
  risks: NoteRisk[];
}

export function handFindings(fingering: Fingering, context: LineContext): Found {
  const found: Found = { findings: [], limits: [], risks: [] };
  const links = slurLinks(context.part, context.line, context.marking);
  const { notes } = fingering;
  notes.forEach((note, i) => {
    const last = notes[i - 1] ?? null;
    const continuation = last !== null && note.event === last.event && last.place === note.place;
    if (continuation || !context.isNew(note.id)) return;
    if (note.shift) shiftFinding(note, note.shift, context, found);
    if (last) reachFinding(last, note, context, found);
    if (last && links[note.event]) slurFindings(last, note, context, found);
    intonationFinding(notes, i, context, found);
  });
  return found;
}

/** Share of the available time that a shift needs: bits over what the player does in the gap. */
export const shiftLoad = (shift: Shift, bitsPerS: number, gapS = shift.gapMs / 1000): number => shift.bits / bitsPerS / gapS;

/** Gap in seconds when everything is played `factor` times as fast. */
export const gapAt = (shift: Shift, factor: number): number => gapSeconds(shift.freeS / factor, shift.lastS / factor, shift.stolenS);

function shiftFinding(fingered: FingeredNote, shift: Shift, context: LineContext, found: Found): void {
  const { player, part, clock } = context;
  const note = noteById(part, fingered.id)!;
  const most = SHIFT_BITS_PER_S[player.level];
  const limit = tempoWhere((factor) => shiftLoad(shift, most, gapAt(shift, factor)) >= SHIFT_LOAD_FROM[0], clock.tempo);
  const place = context.place(note);
  if (limit !== null) found.limits.push({ tempo: limit, kind: 'shift late', barIndex: place.barIndex, beat: place.beat, noteIds: [note.id] });
  const load = shiftLoad(shift, most);
  const severity = severityOf(load, SHIFT_LOAD_FROM);
  if (severity === 0) return;
  found.findings.push({
    id: `shift ${note.id}`,
    kind: 'shift late',
    ...place,
    noteIds: [note.id],
    severity,
    numbers: {
      mm: round(shift.mm),
      gapMs: Math.round(shift.gapMs),
      bits: round(shift.bits),
      bitsPerS: round(shift.bitsPerS),
      playerBitsPerS: most,
      load: round(load),
      heard: shift.heard,
    },
    judged: { by: round(load), from: SHIFT_LOAD_FROM },
    text: shiftText(shift, load),
    hearIt: null,
    remedies: slowerBy(limit, clock.tempo),
  });
}

/** A tempo at which it is over, with the fingers held as they are; none where no tempo helps. */
function slowerBy(limit: number | null, tempo: number): Finding['remedies'] {
  if (limit === null || limit <= SLOWEST_TEMPO || limit >= tempo) return [];
  const after = Math.floor(limit);
  return [{ text: inTime(after), before: Math.round(tempo), after, tempo: after }];
}

function reachFinding(from: FingeredNote, to: FingeredNote, context: LineContext, found: Found): void {
  const { player, part } = context;
  const a = from.place;
  const b = to.place;
  const together = from.event === to.event;
  if (a.finger === 0 || b.finger === 0 || a.finger === b.finger || isShift(a, b) || to.event - from.event > 1) return;
  const spread = spreadMm(player.hand, a.finger, b.finger);
  if (!spread) return;
  const { lengthMm } = player.instrument;
  const mm = Math.abs(stopMm(lengthMm, a.stop) - stopMm(lengthMm, b.stop));
  const share = (mm - spread.comfortable) / (spread.limit - spread.comfortable);
  const note = noteById(part, to.id)!;
  const apartS = context.clock.secondsAt(note.onset) - context.clock.secondsAt(noteById(part, from.id)!.onset);
  const pivots = !together && apartS >= PIVOT_S;
  // Between slow notes the hand may pivot; the tempo from which on it cannot.
  if (!together && severityOf(share, REACH_FROM) && !severityOf(share, REACH_WHEN_PIVOTING)) {
    const { barIndex, beat } = context.place(note);
    found.limits.push({ tempo: (context.clock.tempo * apartS) / PIVOT_S, kind: 'reach', barIndex, beat, noteIds: [from.id, to.id] });
  }
  const judged = { by: round(share + (together ? HELD_TOGETHER : 0)), from: pivots ? REACH_WHEN_PIVOTING : REACH_FROM };
  const severity = severityOf(share + (together ? HELD_TOGETHER : 0), judged.from);
  if (severity === 0) return;
  found.findings.push({
    id: `reach ${note.id}`,
    kind: 'reach',
    ...context.place(note),
    noteIds: [from.id, to.id],
    severity,
    numbers: { mm: round(mm), comfortableMm: round(spread.comfortable), limitMm: round(spread.limit), hand: player.hand.name },
    judged,
    text: `${reachText(mm, spread.comfortable, spread.limit, a.finger, b.finger)} ${REACH_CAUTION}`,
    hearIt: null,
    remedies: [
      {
        text: releaseFinger(together),
        before: round(mm),
        after: round(spread.comfortable),
      },
    ],
  });
}

/** Inside a slur: another string in mid-line, and a shift that is heard. */
function slurFindings(from: FingeredNote, to: FingeredNote, context: LineContext, { findings }: Found): void {
  const { player, part, clock, preferences } = context;
  const [before, note] = [noteById(part, from.id)!, noteById(part, to.id)!];
  if (from.event === to.event || note.grace || before.grace) return;
  const place = context.place(note);
  const lasts = (each: Note) => clock.secondsAt(each.onset + each.duration) - clock.secondsAt(each.onset);
  const { strings, lengthMm } = player.instrument;
  const halfSteps = Math.abs(midiOf(note.pitch) - midiOf(before.pitch));
  const onOldString = midiOf(note.pitch) - midiOf(strings[from.place.string - 1]!);
  const goesOver = from.place.string !== to.place.string && from.place.finger !== 0 && halfSteps <= COLOUR_HALF_STEPS;
  if (goesOver && onOldString > 0 && Math.min(lasts(before), lasts(note)) >= COLOUR_FROM_S) {
    const [a, b] = [stringName(player.instrument, from.place.string), stringName(player.instrument, to.place.string)];
    findings.push({
      id: `colour ${note.id}`,
      kind: 'colour break',
      ...place,
      noteIds: [before.id, note.id],
      severity: 1,
      numbers: { from: a, to: b, halfSteps, seconds: round(lasts(note)) },
      text: colourText(a, b, halfSteps),
      hearIt: hearColourText(a),
      remedies: [],
    });
  }
  if (to.shift?.heard !== 'in a slur' || preferences?.slides === 'wanted') return;
  const severity = severityOf(to.shift.mm / lengthMm, AUDIBLE_FROM);
  if (severity === 0) return;
  const slideS = slideSeconds(lasts(before));
  findings.push({
    id: `audible shift ${note.id}`,
    kind: 'audible shift',
    ...place,
    noteIds: [before.id, note.id],
    severity: severity > 1 ? 2 : 1,
    numbers: { mm: round(to.shift.mm), seconds: round(slideS), shareOfString: round(to.shift.mm / lengthMm) },
    judged: { by: round(to.shift.mm / lengthMm), from: AUDIBLE_FROM },
    text: audibleShiftText(to.shift.mm, slideS),
    hearIt: hearShiftText(guideNoteName(to.shift, player.instrument, part.bars[note.barIndex]!.fifths)),
    remedies: [],
  });
}

const TRITONE = 6;
const DISSONANT: ReadonlySet<number> = new Set([1, 2, 6, 10, 11]);

/** What else makes a note hard to place: what it is held with, how far it is stretched, where its finger was. */
function strainsAt(
  notes: readonly FingeredNote[],
  i: number,
  { part, player }: LineContext,
): Pick<ToneSurroundings, 'stretch' | 'dissonant' | 'frameChanged' | 'closeFingers'> {
  const own = notes[i]!;
  const pitch = midiOf(noteById(part, own.id)!.pitch);
  let [stretch, dissonant, frameChanged, closeFingers] = [0, false, false, false];
  for (let k = i - 1; k >= 0 && own.event - notes[k]!.event <= FRAME_NOTES; k--) {
    const other = notes[k]!;
    if (other.place.finger === 0) continue;
    if (isShift(other.place, own.place)) break;
    const apart = own.event - other.event;
    if (apart === 0 && DISSONANT.has(Math.abs(midiOf(noteById(part, other.id)!.pitch) - pitch) % 12)) dissonant = true;
    if (apart > 0 && other.place.string === own.place.string && other.place.finger === own.place.finger && Math.abs(other.place.stop - own.place.stop) === 1)
      frameChanged = true;
    const acrossStrings = apart > 0 && Math.abs(other.place.string - own.place.string) === 1;
    if (acrossStrings && other.place.finger !== own.place.finger && Math.abs(midiOf(noteById(part, other.id)!.pitch) - pitch) === TRITONE) closeFingers = true;
    const spread = apart <= 1 && other.place.finger !== own.place.finger ? spreadMm(player.hand, other.place.finger, own.place.finger) : null;
    if (!spread) continue;
    const { lengthMm } = player.instrument;
    const mm = Math.abs(stopMm(lengthMm, other.place.stop) - stopMm(lengthMm, own.place.stop));
    stretch = Math.max(stretch, (mm - spread.comfortable) / Math.max(1, spread.limit - spread.comfortable));
  }
  return {
    ...(stretch > 0 ? { stretch } : {}),
    ...(dissonant ? { dissonant } : {}),
    ...(frameChanged ? { frameChanged } : {}),
    ...(closeFingers ? { closeFingers } : {}),
  };
}

/** The same pitch within this many notes before is a comparison. */
const COMPARED_NOTES = 24;

function hearingOf(notes: readonly FingeredNote[], i: number, note: Note, { part, player, place }: LineContext): HearWay[] {
  const own = notes[i]!;
  const neighbours = ([i - 1, i + 1] as const).flatMap((k) => {
    const other = notes[k];
    if (!other || other.event === own.event || (other.place.finger !== 0 && isShift(other.place, own.place))) return [];
    return [{ pitch: noteById(part, other.id)!.pitch, string: other.place.string, when: k < i ? ('before' as const) : ('after' as const) }];
  });
  let earlier: { bar: string; finger: number } | null = null;
  for (let k = i - 2; k >= Math.max(0, i - COMPARED_NOTES) && !earlier; k--) {
    const other = noteById(part, notes[k]!.id)!;
    if (midiOf(other.pitch) === midiOf(note.pitch) && other.barIndex < note.barIndex) earlier = { bar: place(other).bar, finger: notes[k]!.place.finger };
  }
  const { fifths } = part.bars[note.barIndex]!;
  return waysToHear({ pitch: note.pitch, place: own.place, instrument: player.instrument, fifths, neighbours, earlier, pattern: patternAt(notes, i) });
}

/** The finger before it under the same hand on the same string, and how far away it lies; the same finger where it moves half a step. */
function patternAt(notes: readonly FingeredNote[], i: number): { finger: number; halfSteps: number } | null {
  const own = notes[i]!;
  for (let k = i - 1; k >= 0 && own.event - notes[k]!.event <= FRAME_NOTES; k--) {
    const { place } = notes[k]!;
    if (place.finger === 0) continue;
    if (isShift(place, own.place)) return null;
    const halfSteps = own.place.stop - place.stop;
    const moves = place.finger === own.place.finger;
    if (place.string === own.place.string && halfSteps !== 0 && Math.abs(halfSteps) <= (moves ? 1 : 2)) return { finger: place.finger, halfSteps };
  }
  return null;
}

/** Nearer to equal temperament than this nobody need hear of it, in cents (judgement). */
const WORTH_AIMING_CENTS = 1.5;

/** Where the pitch school wants a note, where that is not equal temperament. */
function aimedAt(note: Note, { aim: { school, rootAt } }: LineContext): { school: string; cents: number; way: HearWay } | null {
  if (!school) return null;
  const root = school === 'just' ? rootAt(note) : null;
  const cents = Math.round(targetCents(note.pitch, school, root) * 10) / 10;
  return Math.abs(cents) < WORTH_AIMING_CENTS ? null : { school, cents, way: { kind: 'target', text: aimText(cents, root && pitchLetter(root)) } };
}

function intonationFinding(notes: readonly FingeredNote[], i: number, context: LineContext, found: Found): void {
  const fingered = notes[i]!;
  const { player, part, line, clock } = context;
  const note = noteById(part, fingered.id)!;
  const event = line.events[fingered.event]!;
  const before = line.events[fingered.event - 1];
  const restBeforeS = before ? clock.secondsAt(event.onset) - clock.secondsAt(before.end) : Infinity;
  const hear = hearAgainst(note.pitch, fingered.place.string, player.instrument);
  const around: ToneSurroundings = {
    restBeforeS,
    rings: hear?.rings ?? false,
    ...strainsAt(notes, i, context),
    ...(context.aim.toleranceCents ? { toleranceCents: context.aim.toleranceCents } : {}),
  };
  const error = expectedError(fingered, player, around);
  if (!error) return;
  found.risks.push({ noteId: note.id, chance: error.chance, errorCents: error.errorCents, cause: error.main });
  const place = context.place(note);
  const { shift } = fingered;
  let limit: number | null = null;
  if (shift) {
    limit = tempoWhere(
      (factor) => expectedError({ ...fingered, shift: { ...shift, gapMs: gapAt(shift, factor) * 1000 } }, player, around)!.chance >= OUT_OF_TUNE_FROM[0],
      clock.tempo,
    );
    if (limit !== null && limit > SLOWEST_TEMPO)
      found.limits.push({ tempo: limit, kind: 'out-of-tune risk', barIndex: place.barIndex, beat: place.beat, noteIds: [note.id] });
  }
  const severity = severityOf(error.chance, OUT_OF_TUNE_FROM);
  if (severity === 0) return;
  const aim = aimedAt(note, context);
  const ways = [...hearingOf(notes, i, note, context), ...(aim ? [aim.way] : [])];
  found.findings.push({
    id: `tune ${note.id}`,
    kind: 'out-of-tune risk',
    ...place,
    noteIds: [note.id],
    severity,
    numbers: {
      chance: round(error.chance),
      errorCents: round(error.errorCents),
      toleranceCents: error.toleranceCents,
      cause: error.main,
      ...Object.fromEntries(Object.entries(error.causes).map(([cause, cents]) => [`${cause} cents`, round(cents)])),
      ...(aim ? { aim: aim.school, aimCents: aim.cents } : {}),
      ...(shift ? { mm: round(shift.mm), gapMs: Math.round(shift.gapMs) } : {}),
    },
    judged: { by: round(error.chance), from: OUT_OF_TUNE_FROM, centsPerMm: round(centsPerMm(player.instrument.lengthMm, fingered.place.stop)) },
    text: outOfTuneText(error.chance, error.toleranceCents, error.errorCents, error.main),
    hearIt: hear ? hearText(hear) : (ways[0]?.text ?? null),
    hear: ways,
    remedies: slowerBy(limit, clock.tempo),
  });
}

/** The tempo from which on a condition holds (it must hold ever more as the tempo grows); null when it never does up to the fastest. */
export function tempoWhere(holds: (factor: number) => boolean, tempo: number): number | null {
  if (!holds(FASTEST_TEMPO / tempo)) return null;
  if (holds(SLOWEST_TEMPO / tempo)) return SLOWEST_TEMPO;
  let low = SLOWEST_TEMPO;
  let high = FASTEST_TEMPO;
  while (high - low > 0.25) {
    const middle = (low + high) / 2;
    if (holds(middle / tempo)) high = middle;
    else low = middle;
  }
  return low;
}

const round = (value: number): number => rounded(value, 2);
