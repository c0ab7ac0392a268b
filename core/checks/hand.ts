/** Findings of the left hand: shifts against their time, reach, risk of being out of tune. */
import { noteById } from '../score/find';
import { stopMm } from '../instruments/geometry';
import { spreadMm } from '../instruments/player';
import type { FingeredNote, Fingering } from '../left-hand/fingering';
import { DEFAULT_COSTS } from '../left-hand/costs';
import { gapSeconds } from '../left-hand/transition';
import { isShift, type Shift } from '../left-hand/shift';
import type { LineContext, NoteRisk } from './check';
import type { Finding, TempoLimit } from './finding';
import { hearAgainst } from './hear';
import { expectedError } from './intonation';
import {
  OUT_OF_TUNE_FROM,
  PIVOT_S,
  REACH_FROM,
  REACH_WHEN_PIVOTING,
  severityOf,
  SHIFT_BITS_PER_S,
  SHIFT_LOAD_FROM,
  SLOWEST_TEMPO,
  FASTEST_TEMPO,
} from './tables';
import { hearText, outOfTuneText, REACH_CAUTION, reachText, shiftText } from './words';

interface Found {
  findings: Finding[];
  limits: TempoLimit[];
  risks: NoteRisk[];
}

export function handFindings(fingering: Fingering, context: LineContext): Found {
  const found: Found = { findings: [], limits: [], risks: [] };
  let last: FingeredNote | null = null;
  for (const note of fingering.notes) {
    const continuation = last !== null && note.event === last.event && last.place === note.place;
    if (!continuation && context.isNew(note.id)) {
      if (note.shift) shiftFinding(note, note.shift, context, found);
      if (last) reachFinding(last, note, context, found);
      intonationFinding(note, context, found);
    }
    last = note;
  }
  return found;
}

/** What a fingering comes to for its player: the fastest tempo its shifts allow, and the note that is most at risk. */
export function handOutlook(fingering: Fingering, context: LineContext): { ceiling: TempoLimit | null; worst: NoteRisk | null } {
  const { limits, risks } = handFindings(fingering, context);
  return {
    ceiling: limits
      .filter(({ tempo }) => tempo < FASTEST_TEMPO)
      .reduce<TempoLimit | null>((best, limit) => (!best || limit.tempo < best.tempo ? limit : best), null),
    worst: risks.reduce<NoteRisk | null>((worst, risk) => (!worst || risk.chance > worst.chance ? risk : worst), null),
  };
}

/** Share of the available time that a shift needs: bits over what the player does in the gap. */
export const shiftLoad = (shift: Shift, bitsPerS: number, gapS = shift.gapMs / 1000): number => shift.bits / bitsPerS / gapS;

/** Gap in seconds when everything is played `factor` times as fast. */
export const gapAt = (shift: Shift, factor: number): number => gapSeconds(shift.freeS / factor, shift.lastS / factor, DEFAULT_COSTS.stolenSeconds);

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
    text: shiftText(shift, load),
    hearIt: null,
    remedies:
      limit === null ? [] : [{ text: `In time at quarter = ${Math.floor(limit)} or slower.`, before: Math.round(clock.tempo), after: Math.floor(limit) }],
  });
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
  const severity = severityOf(share + (together ? 0.2 : 0), pivots ? REACH_WHEN_PIVOTING : REACH_FROM);
  if (severity === 0) return;
  found.findings.push({
    id: `reach ${note.id}`,
    kind: 'reach',
    ...context.place(note),
    noteIds: [from.id, to.id],
    severity,
    numbers: { mm: round(mm), comfortableMm: round(spread.comfortable), limitMm: round(spread.limit), hand: player.hand.name },
    text: reachText(mm, spread.comfortable, spread.limit, a.finger, b.finger),
    hearIt: null,
    remedies: [
      {
        text: `Take another fingering, or release the ${together ? 'lower' : 'first'} finger. ${REACH_CAUTION}`,
        before: round(mm),
        after: round(spread.comfortable),
      },
    ],
  });
}

function intonationFinding(fingered: FingeredNote, context: LineContext, found: Found): void {
  const { player, part, line, clock } = context;
  const note = noteById(part, fingered.id)!;
  const event = line.events[fingered.event]!;
  const before = line.events[fingered.event - 1];
  const restBeforeS = before ? clock.secondsAt(event.onset) - clock.secondsAt(before.end) : Infinity;
  const hear = hearAgainst(note.pitch, fingered.place.string, player.instrument);
  const around = { restBeforeS, rings: hear?.rings ?? false };
  const error = expectedError(fingered, player, around);
  if (!error) return;
  found.risks.push({ noteId: note.id, chance: error.chance, errorCents: error.errorCents, cause: error.main });
  const place = context.place(note);
  const { shift } = fingered;
  if (shift) {
    const limit = tempoWhere(
      (factor) => expectedError({ ...fingered, shift: { ...shift, gapMs: gapAt(shift, factor) * 1000 } }, player, around)!.chance >= OUT_OF_TUNE_FROM[0],
      clock.tempo,
    );
    if (limit !== null && limit > SLOWEST_TEMPO)
      found.limits.push({ tempo: limit, kind: 'out-of-tune risk', barIndex: place.barIndex, beat: place.beat, noteIds: [note.id] });
  }
  const severity = severityOf(error.chance, OUT_OF_TUNE_FROM);
  if (severity === 0) return;
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
      ...(shift ? { mm: round(shift.mm), gapMs: Math.round(shift.gapMs) } : {}),
    },
    text: outOfTuneText(error.chance, error.toleranceCents, error.errorCents, error.main),
    hearIt: hear ? hearText(hear) : null,
    remedies: [],
  });
}

/** The tempo from which on a condition holds (it must hold ever more as the tempo grows); null when it never does up to 320. */
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

const round = (value: number): number => Math.round(value * 100) / 100;
