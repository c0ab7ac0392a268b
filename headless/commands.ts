/** The commands of bin/omaggio: bytes and options in, a value of headless/shapes.ts out. */
import { isUpper } from '../core/instruments/instrument';
import { beatOf } from '../core/score/beat';
import { barsAt, sayBars } from '../core/score/address';
import { ticksOf, type BarRange } from '../core/score/bars';
import { noteById } from '../core/score/find';
import { linesOf } from '../core/instruments/lines';
import { orderInWords, playedOrder } from '../core/score/played';
import { automaticPassages } from '../core/score/passages';
import { pitchName } from '../core/score/pitch';
import { type Note, type Part } from '../core/score/score';
import { clockFor, type Clock } from '../core/score/time';
import { likeTheFile, readScoreBytes } from '../core/formats/read';
import type { ReadScore } from '../core/formats/musicxml/read';
import { writeMarked } from '../core/formats/musicxml/write';
import { asTold, NOTHING_TOLD } from '../core/instruments/as-told';
import { toldOrGuessed } from '../core/instruments/play-on';
import { playerFrom, type Player, type Technique } from '../core/instruments/player';
import { markKey, type Marking } from '../core/marking/mark';
import { editedPart } from '../core/marking/print-edits';
import type { TickRange } from '../core/score/bars';
import { type Fingering, type Unplayable } from '../core/left-hand/fingering';
import { fingeredNoteJson } from '../core/left-hand/fingered-note';
import { suggestedFingering } from '../core/suggest/suggestion';
import { handAdvice } from '../core/left-hand/advice';
import { comparedHands, HANDS_CAUTION, type ForWhom } from '../core/left-hand/for-whom';
import { fingerPart } from '../core/left-hand/part';
import { bowMarksWorthWriting } from '../core/bow-arm/worth-writing';
import type { Bowing } from '../core/bow-arm/describe';
import { soundRecipe } from '../core/bow-arm/sound';
import { bowOf } from '../core/bow-arm/bow';
import { bowTempi, type BowLimit } from '../core/bow-arm/tempo';
import { SHIFT_BITS_PER_S, strokesPerS } from '../core/checks/tables';
import { checked, type CheckRequest } from '../core/checks/check';
import { planBow, planHand, type PlanMemory } from '../core/plan/plan';
import type { Finding } from '../core/checks/finding';
import { remediesFor } from '../core/checks/remedies';
import { tempiOverPlans } from '../core/checks/tempi';
import { bad, good, type Result } from '../core/util/result';
import { readMarks, withCorrections } from './marks';
import { choosePart, markedScore } from './choose';
import { scoreValue } from './score';
import type { Answering, Options } from './options';
import { listened } from './listen';
import { drilled, plannedDays } from './practice';
import { readPreferences, type Preferences } from './preferences';
import { TICKS_PER_QUARTER } from '../core/score/ticks';

export interface Outcome {
  value: unknown;
  /** Bytes of the marked score, when it was asked for. */
  marked: Uint8Array | null;
}

/** What every command about a part knows. */
export interface Asked {
  options: Options & { command: Answering };
  parts: readonly Part[];
  /** As told, before the edits of the marks. */
  part: Part;
  range: BarRange | null;
  within: TickRange | null;
  marking: Marking;
  preferences: Preferences;
  player: Player;
  /** The marked score with these marks as well, where it was asked for. */
  marked(more: Marking): Uint8Array | null;
}

/** The part with the edits, and all that planning is asked with. */
const planned = ({ part, marking, player, options, within }: Asked) => {
  const edited = editedPart(part, marking);
  const clock = clockFor(edited, options.tempo);
  return { part: edited, player, clock, marking, alternatives: options.alternatives, ...(within ? { within } : {}) };
};

export function run(all: Options, bytes: Uint8Array, marksText: string | null, take: Uint8Array | null = null): Result<Outcome> {
  const { command } = all;
  // Needs the engraver, which nothing else here does.
  if (command === 'print') return bad('command', 'Paper is made by a program of its own.', 'Run bin/omaggio print.');
  const options = { ...all, command };
  const read = readScoreBytes(bytes);
  if (!read.ok) return read;
  const { score } = read.value;
  if (options.command === 'parts') return good({ value: partsValue(read.value), marked: null });
  if (options.command === 'score') {
    const asked = markedScore(read.value, options, marksText);
    const value = asked.ok ? scoreValue(asked.value) : asked;
    return value.ok ? good({ value: value.value, marked: null }) : value;
  }
  const printed = choosePart(score.parts, options.part);
  if (!printed.ok) return printed;
  const chosen = withCorrections(read.value, printed.value, marksText);
  if (!chosen.ok) return chosen;
  const part = asTold(chosen.value.part, toldOrGuessed(chosen.value.part, { ...NOTHING_TOLD, instrument: options.instrument, sounds: options.sounds }));
  const range = options.bars === null ? good(null) : barsAt(part, options.bars);
  if (!range.ok) return range;
  const within = range.value && ticksOf(part, range.value);
  if (options.command === 'notes') return good({ value: notesValue(part, within), marked: null });
  const preferences = readPreferences(options.set);
  if (!preferences.ok) return preferences;
  const player = playerFor(part, options, preferences.value.technique);
  if (!player.ok) return player;
  const marking = readMarks(marksText, part, read.value.document.text);
  if (!marking.ok) return marking;
  const asked: Asked = {
    options,
    parts: score.parts,
    part,
    range: range.value,
    within,
    marking: marking.value,
    preferences: preferences.value,
    player: player.value,
    marked: (more) => (options.out === null ? null : likeTheFile(writeMarked(chosen.value.document, part, { ...more, ...marking.value }), bytes)),
  };
  return COMMANDS[options.command](asked, take);
}

const COMMANDS: Readonly<Record<'finger' | 'bow' | 'check' | 'drill' | 'plan' | 'listen', (asked: Asked, take: Uint8Array | null) => Result<Outcome>>> = {
  finger: fingered,
  bow: bowed,
  check: checkedPart,
  drill: (asked) => drilled(asked, editedPart(asked.part, asked.marking)),
  plan: (asked) => plannedDays(asked, checkRequest(asked)),
  listen: (asked, take) => listened(asked, editedPart(asked.part, asked.marking), take),
};

function notesValue(part: Part, within: TickRange | null) {
  const inside = (note: Note) => within === null || (note.onset >= within.from && note.onset < within.to);
  return {
    notes: part.notes
      .filter((note) => !note.cue && inside(note))
      .map((note) => ({
        id: note.id,
        ...placeJson(part, note),
        onset: note.onset / TICKS_PER_QUARTER,
        duration: note.duration / TICKS_PER_QUARTER,
        pitch: pitchName(note.pitch),
      })),
  };
}

function fingered(asked: Asked): Result<Outcome> {
  const { options, within, player, marked, preferences } = asked;
  const { hand: likes, leftHand: handCosts } = preferences;
  const shared = planned(asked);
  const edited = shared.part;
  const place = (note: Note) => placeJson(asked.part, note);
  const result = fingerPart({ ...shared, costs: handCosts, preferences: likes });
  const alternatives = result.alternatives.map(({ notes, ...way }) => ({
    ...way,
    notes: notes.map((fingered) => fingeredNoteJson(edited, fingered, noteById(edited, fingered.id)!, player.instrument)),
  }));
  const best = result.alternatives[0];
  const taken: Record<string, { value: string; origin: 'suggestion' }> = {};
  for (const { target, kind, mark } of best ? suggestedFingering(best, { part: edited, instrument: player.instrument }, options.write) : [])
    taken[markKey(target, kind)] = { value: mark.value, origin: 'suggestion' };
  const bitsPerS = SHIFT_BITS_PER_S[player.level];
  const everything = { from: 0, to: Infinity };
  const line = linesOf(edited)[0]!;
  const said = best ? handAdvice({ ...shared, line, costs: handCosts, preferences: likes }, best, result.unlike, bitsPerS, within ?? everything) : [];
  const advice = said.map(({ kind, barIndex, noteIds, text }) => ({ kind, bar: edited.bars[barIndex]!.label, barIndex, noteIds, text }));
  const against =
    options.against &&
    playerFrom({ ...options.against, name: 'the other player', tuning: null, level: options.level, thumbPosition: !isUpper(options.against.instrument) });
  if (against && !against.ok) return against;
  const question = { ...shared, line, costs: handCosts, preferences: likes };
  const compared = against ? comparedJson(comparedHands(question, player, against.value), edited) : null;
  return good({ value: { alternatives, advice, against: compared, unplayable: unplayableJson(result.unplayable, place) }, marked: marked(taken) });
}

function bowed(asked: Asked): Result<Outcome> {
  const { part, player, marked, preferences } = asked;
  const { hand: likes, leftHand: handCosts, bow: bowCosts } = preferences;
  const shared = planned(asked);
  const { part: edited, clock } = shared;
  const place = (note: Note) => placeJson(part, note);
  const line = linesOf(edited)[0]!;
  const question = { ...shared, line, costs: { hand: handCosts, bow: bowCosts }, preferences: likes };
  const { plan, memory } = planHand({ ...question, alternatives: 1 });
  const plans = planBow(question, plan, memory).bowings;
  const alternatives = plans.map((bowing) =>
    bowingJson(bowing, part, place, { clock, hairCm: bowOf(player.instrument).hairCm, strokesPerS: strokesPerS(player), open: openNotes(plan.fingering) }),
  );
  const taken: Record<string, { value: string; origin: 'suggestion' }> = {};
  for (const mark of plans[0] ? bowMarksWorthWriting(plans[0]) : []) taken[markKey(mark.noteId, mark.kind)] = { value: mark.value, origin: 'suggestion' };
  return good({ value: { alternatives }, marked: marked(taken) });
}

function checkRequest({ options, parts, part, player, marking, preferences }: Asked): CheckRequest {
  const { hand: likes, leftHand: handCosts, bow: bowCosts, intonation } = preferences;
  return {
    part: editedPart(part, marking),
    marking,
    player,
    tempo: options.tempo,
    passages: automaticPassages(part),
    preferences: likes,
    intonation,
    others: parts.filter(({ id }) => id !== part.id).map((other) => ({ id: other.id, name: other.name, markingId: other.id, part: other, marking: {} })),
    costs: { hand: handCosts, bow: bowCosts },
    edited: (tried) => editedPart(part, tried),
  };
}

function checkedPart(asked: Asked): Result<Outcome> {
  const { options, part, range, marked } = asked;
  const request = checkRequest(asked);
  const made = checked(request);
  const { report, memories } = made;
  const tempi = options.ceiling === 'best' ? tempiOverPlans(request, made).tempi : report;
  const inRange = (barIndex: number) => range === null || (barIndex >= range.fromBar && barIndex <= range.toBar);
  const label = (index: number) => part.bars[index]!.label;
  const { limitedBy, ...tempo } = tempi.tempo;
  return good({
    value: {
      tempo: {
        ...tempo,
        limitedBy: limitedBy && { kind: limitedBy.kind, bar: label(limitedBy.barIndex), beat: limitedBy.beat, noteIds: limitedBy.noteIds },
      },
      passages: tempi.passages.map(({ name, fromBar, toBar, ceiling, floor, none }) => ({
        name,
        bars: `${label(fromBar)}-${label(toBar)}`,
        tempo: { ceiling, floor, none },
      })),
      findings: report.findings
        .filter((finding) => inRange(finding.barIndex))
        .map((finding) => findingJson(finding, options.remedies === 'all' ? request : null, memories)),
    },
    marked: marked({}),
  });
}

/** A finding with what helps against it, tried; the marks of each remedy as `--marks` takes them. */
function findingJson(finding: Finding, request: CheckRequest | null, memories: readonly PlanMemory[]) {
  if (!request) return { ...finding, hear: finding.hear ?? [], remedies: [] };
  const line = linesOf(request.part).findIndex((each) => each.events.some(({ ids }) => ids.includes(finding.noteIds.at(-1)!)));
  const remedies = remediesFor(request, finding, memories[Math.max(0, line)]).map(({ kind, text, before, after, solved, brings, tempo, changes }) => ({
    kind,
    text,
    before,
    after,
    solved,
    brings,
    ...(tempo === undefined ? {} : { tempo }),
    marks: (changes ?? []).flatMap(({ target, kind: markKind, to }) => (to ? [{ id: target, kind: markKind, value: to.value }] : [])),
  }));
  return { ...finding, hear: finding.hear ?? [], remedies };
}

interface BowPlayed {
  clock: Clock;
  hairCm: number;
  strokesPerS: number;
  /** Ids of notes on open strings. */
  open: ReadonlySet<string>;
}

const openNotes = (fingering: Fingering | null): Set<string> => new Set(fingering?.notes.filter(({ place }) => place.finger === 0).map(({ id }) => id));

function bowingJson(
  { strokes, changes, unlike, resets, phrases: _, ...plan }: Bowing,
  part: Part,
  place: (note: Note) => ReturnType<typeof placeJson>,
  played: BowPlayed,
) {
  const { clock, ...player } = played;
  const { floor, ceiling } = bowTempi(strokes, { ...player, tempo: clock.tempo, secondsAt: (tick) => clock.secondsAt(tick) });
  const label = (barIndex: number) => part.bars[barIndex]!.label;
  const limit = (found: BowLimit | null) => found && { tempo: found.tempo, bar: label(found.stroke.barIndex), kind: found.kind };
  return {
    ...plan,
    strokes: strokes.map((stroke) => {
      const { noteIds, direction, from, to, cm, cmPerS, stepDb, retake, hooked, zone, kind, seconds, retakeTime } = stroke;
      const { contact, lane, weightWords, vibrato, missingDb } = soundRecipe(
        stroke,
        stroke.noteIds.every((id) => played.open.has(id)),
      );
      return {
        noteIds,
        ...place(noteById(part, noteIds[0]!)!),
        ...{ direction, from, to, cm, cmPerS, stepDb, retake, hooked, zone, kind, seconds, strokes: stroke.strokes, retakeTime },
        sound: { contact, lane, weight: weightWords, vibrato: vibrato.words, missingDb },
      };
    }),
    tempo: { floor: limit(floor), ceiling: limit(ceiling) },
    unlike: unlike.map(({ fromBar, toBar, likeBar, why }) => ({
      bars: sayBars(part.bars, { fromBar, toBar }),
      like: sayBars(part.bars, { fromBar: likeBar, toBar: likeBar + toBar - fromBar }),
      why,
    })),
    resets: resets.map(({ fromBar, toBar, direction }) => ({ bar: label(fromBar), toBar: label(toBar), direction })),
    changes: changes.map(({ kind, noteId, why }) => ({ kind, ...place(noteById(part, noteId)!), why, noteId })),
  };
}

function partsValue({ score }: ReadScore) {
  return {
    parts: score.parts.map((part) => ({
      id: part.id,
      name: part.name,
      instrument: part.instrument,
      bars: part.bars.length,
      notes: part.notes.filter((note) => !note.cue).length,
      voices: new Set(part.notes.map((note) => `${note.staff}/${note.voice}`)).size,
      because: part.instrumentBecause,
      played: orderInWords(part.bars, playedOrder(part.bars).order),
    })),
    warnings: score.warnings,
  };
}

function playerFor(part: Part, options: Options, technique: Partial<Technique>): Result<Player> {
  const kind = options.instrument ?? part.instrument;
  if (kind === null) return bad(`part "${part.name}"`, `${part.instrumentBecause}.`, 'Say which instrument plays it with --instrument.');
  const { size, tuning, hand, measured, level } = options;
  return playerFrom({
    name: 'this player',
    instrument: kind,
    size,
    tuning,
    hand,
    measured,
    level,
    thumbPosition: !isUpper(kind),
    technique,
  });
}

function comparedJson({ differing, decisive }: ForWhom, part: Part) {
  return { differing, decisive: decisive.map((each) => ({ ...each, bar: part.bars[each.barIndex]!.label })), caution: HANDS_CAUTION };
}

function placeJson(part: Part, note: Note) {
  const bar = part.bars[note.barIndex]!;
  return { bar: bar.label, barIndex: note.barIndex, beat: beatOf(bar, note.tick) };
}

const unplayableJson = (unplayable: readonly Unplayable[], place: (note: Note) => ReturnType<typeof placeJson>) =>
  unplayable.map(({ event, reason }) => ({ noteIds: event.ids, ...place(event.notes[0]!), reason }));
