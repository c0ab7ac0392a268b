/** Findings of the bow arm: slurs longer than the bow, uneven returns, retakes and rates. */
import { noteById } from '../score/find';
import { bowInForce, markAt } from '../marking/mark';
import type { Bowing, Stroke } from '../bow-arm/describe';
import { HAIR_CM } from '../bow-arm/tables';
import type { LineContext } from './check';
import type { Finding, TempoLimit } from './finding';
import { BOW_LOAD_FROM, severityOf, STROKES_PER_S, UNEVEN_DB_FROM } from './tables';
import { quickText, racesText, retakeText, runsOutText, unmetText } from './words';

/** A stroke cannot use the last bit of hair at either end. */
const USABLE = 0.95;

/** Strokes in a row that make a rate, so that one quick pair is no finding. */
const RATE_STROKES = 4;

export function bowFindings(bowing: Bowing, context: LineContext): { findings: Finding[]; limits: TempoLimit[] } {
  const { player, part, clock } = context;
  const findings: Finding[] = [];
  const limits: TempoLimit[] = [];
  const hairCm = HAIR_CM[player.instrument.kind];
  const most = STROKES_PER_S[player.level];
  let quickUntil = -1;
  bowing.strokes.forEach((stroke, i) => {
    const note = noteById(part, stroke.noteIds[0]!)!;
    if (!context.isNew(note.id)) return;
    const place = context.place(note);
    const limit = (kind: TempoLimit['kind'], tempo: number) =>
      limits.push({ tempo, kind, barIndex: place.barIndex, beat: place.beat, noteIds: stroke.noteIds });
    const add = (
      kind: Finding['kind'],
      load: number,
      from: readonly [number, number, number],
      numbers: Finding['numbers'],
      text: string,
      remedies: Finding['remedies'],
    ) => {
      const severity = severityOf(load, from);
      if (severity) findings.push({ id: `${kind} ${note.id}`, kind, ...place, noteIds: stroke.noteIds, severity, numbers, text, hearIt: null, remedies });
    };
    const before = bowing.strokes[i - 1];
    const unmet = unmetMarks(stroke, context);
    if (unmet.length)
      add(
        'contradiction',
        1,
        [0, 0, 1],
        { marks: unmet.join(', '), planned: `${stroke.direction}${stroke.hooked ? ', hooked' : ''}${stroke.retake ? ', retake' : ''}` },
        unmetText(unmet),
        [{ text: 'Take one of the marks here or on the note before away.', before: null, after: null }],
      );

    const neededCm = stroke.slowest * stroke.seconds;
    const runsOut = neededCm / (hairCm * USABLE);
    if (runsOut > 0.5) limit('bow runs out', clock.tempo * runsOut);
    add(
      'bow runs out',
      runsOut,
      BOW_LOAD_FROM,
      { neededCm: round(neededCm), hairCm, seconds: round(stroke.seconds), slowestCmPerS: stroke.slowest },
      runsOutText(neededCm, hairCm, stroke.slowest, stroke.seconds),
      [
        { text: 'Split it in two bows.', before: Math.round(neededCm), after: Math.round(neededCm / 2) },
        {
          text: `One bow lasts from quarter = ${Math.ceil(clock.tempo * runsOut)} on.`,
          before: Math.round(clock.tempo),
          after: Math.ceil(clock.tempo * runsOut),
        },
      ],
    );

    if (before && !stroke.retake && stroke.direction !== before.direction && stroke.seconds < before.seconds) {
      const surplus = stroke.stepDb - wantedStepDb(before, stroke);
      add(
        'bow must race back',
        surplus,
        UNEVEN_DB_FROM,
        { beforeCmPerS: round(before.cmPerS), cmPerS: round(stroke.cmPerS), stepDb: round(stroke.stepDb), ratio: round(before.seconds / stroke.seconds) },
        racesText(before.cmPerS, stroke.cmPerS, stroke.stepDb, stroke.direction),
        [{ text: 'Hook the short note to the long one, retake, or use less bow on the long one.', before: round(stroke.stepDb), after: null }],
      );
    }

    if (stroke.retakeTime) {
      const load = stroke.retakeTime.needed / stroke.retakeTime.free;
      limit('retake late', clock.tempo / load);
      add(
        'retake late',
        load,
        BOW_LOAD_FROM,
        { neededS: round(stroke.retakeTime.needed), freeS: round(stroke.retakeTime.free) },
        retakeText(stroke.retakeTime.needed, stroke.retakeTime.free),
        [{ text: `In time at quarter = ${Math.floor(clock.tempo / load)} or slower.`, before: Math.round(clock.tempo), after: Math.floor(clock.tempo / load) }],
      );
    }

    const row = bowing.strokes.slice(i, i + RATE_STROKES);
    const longest = Math.max(...row.map((each, k) => (row[k + 1] ? clock.secondsAt(row[k + 1]!.onset) - clock.secondsAt(each.onset) : 0)));
    if (row.length === RATE_STROKES && longest > 0 && i > quickUntil) {
      const rate = 1 / longest;
      limit('stroke too quick', (clock.tempo * most) / rate);
      if (rate > most) quickUntil = i + RATE_STROKES * 2;
      add('stroke too quick', rate / most, [1, 1.3, 1.7], { strokesPerS: round(rate), playerStrokesPerS: most }, quickText(rate, most), [
        { text: `Slur two and two, or quarter = ${Math.floor((clock.tempo * most) / rate)}.`, before: round(rate), after: round(rate / 2) },
      ]);
    }
  });
  return { findings, limits };
}

/** Marks at the start of a stroke that no plan can meet together. */
function unmetMarks(stroke: Stroke, { part, marking }: LineContext): string[] {
  const notes = stroke.noteIds.map((id) => noteById(part, id)!).filter((note) => note.onset === stroke.onset);
  const has = (kind: 'hook' | 'retake') => notes.some((note) => markAt(marking, note.id, kind)?.value === 'yes');
  const wanted = notes.map((note) => bowInForce(note, marking)).find((bow) => bow !== null) ?? null;
  return [
    ...(wanted !== null && wanted !== stroke.direction ? [`${wanted}-bow`] : []),
    ...(has('hook') && !stroke.hooked ? ['hook'] : []),
    ...(has('retake') && !stroke.retake ? ['retake'] : []),
  ];
}

/** Loudness step that the dynamics ask for, from the speeds at which each level speaks. */
const wantedStepDb = (before: Stroke, after: Stroke): number => 20 * Math.log10(after.slowest / before.slowest);

const round = (value: number): number => Math.round(value * 100) / 100;
