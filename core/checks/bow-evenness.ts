/** Where the bow has to stay even against the music: short single notes beside slurs, a rhythm under one slur, what follows a held note. */
import { eventIndexOf, type LineEvent } from '../instruments/lines';
import type { Stroke } from '../bow-arm/describe';
import { bowOf } from '../bow-arm/bow';
import { STROKES } from '../bow-arm/tables';
import * as remedy from './remedy-words';
import { EVEN_RHYTHM, HURRIES_BACK, MIXED_LOAD_FROM, MOST_OF_THE_BOW, SAME_VALUE, SINGLE_NOTE_S, strokesPerS, TOLD, WRONG_END_FROM } from './tables';
import * as words from './words';
import { type BowContext, type Trouble, round } from './bow-trouble';

/** A stroke, and each of its notes in seconds. */
interface Timed {
  stroke: Stroke;
  notes: number[];
  /** Nothing lies between it and the stroke before, on the string or in time. */
  joined: boolean;
  /** Ends with a note that is tied or held by a fermata. */
  held: boolean;
}

export function evennessTroubles(strokes: readonly Stroke[], context: BowContext): Trouble[] {
  const timed = timedStrokes(strokes, context);
  return [...mixedTroubles(timed, context), ...rhythmTroubles(timed), ...wrongEndTroubles(timed, context)];
}

function timedStrokes(strokes: readonly Stroke[], { line, clock }: BowContext): Timed[] {
  const eventOf = eventIndexOf(line);
  let before: LineEvent | undefined;
  return strokes.map((stroke) => {
    const own = [...new Set(stroke.noteIds.map((id) => line.events[eventOf.get(id)!]!))].filter((event) => !event.grace);
    const [first, last] = [own[0], own.at(-1)];
    const joined = before !== undefined && first !== undefined && before.end >= first.onset && !stroke.retake;
    before = last ?? before;
    return {
      stroke,
      notes: own.map((event) => clock.secondsAt(event.end) - clock.secondsAt(event.onset)),
      joined,
      held: last !== undefined && (last.ids.length > last.notes.length || stroke.heldTimes > 1),
    };
  });
}

const alike = (a: number, b: number): boolean => Math.abs(a - b) <= SAME_VALUE * b;

/**
 * Slurred and separate notes of one value in a row: the slurs are hurried and the single notes get too little bow (common practice).
 * Told once in a row, at its first single note, the sooner the quicker it goes for this player.
 */
function mixedTroubles(timed: readonly Timed[], { player }: BowContext): Trouble[] {
  const most = strokesPerS(player);
  const found: Trouble[] = [];
  for (let at = 0; at < timed.length;) {
    const value = timed[at]!.notes[0] ?? 0;
    let end = at;
    while (end < timed.length && (end === at || timed[end]!.joined) && plain(timed[end]!, value)) end++;
    const row = timed.slice(at, end);
    const isSingle = ({ stroke }: Timed) => stroke.events === 1;
    const single = row.findIndex((each, i) => isSingle(each) && [row[i - 1], row[i + 1]].some((other) => other && !isSingle(other)));
    const [singles, slurs] = [row.filter(isSingle), row.filter((each) => !isSingle(each))];
    const [one, slur] = [row[single]?.stroke, slurs[0]?.stroke];
    // One that has to hurry back is no quiet one: that is told by itself.
    const bumps = one && slur && one.cmPerS > slur.cmPerS * HURRIES_BACK;
    if (one && slur && !bumps && value <= SINGLE_NOTE_S && Math.min(singles.length, slurs.length) >= 2) {
      found.push({
        kind: 'single notes vanish',
        noteId: one.noteIds[0]!,
        load: 1 / value / most,
        from: MIXED_LOAD_FROM,
        numbers: { notesPerS: round(1 / value), playerStrokesPerS: most, slurCm: round(slur.cm), singleCm: round(one.cm), singles: singles.length },
        text: words.mixedText(singles.length, slur.events, slur.cm, one.cm),
        hearIt: words.HEAR_MIXED,
        remedies: [{ text: remedy.evenSingles(one.cm, slur.cm), before: null, after: null }],
      });
    }
    at = Math.max(at + 1, end);
  }
  return found;
}

/** On the string, every note of it of one value. */
const plain = ({ stroke, notes }: Timed, value: number): boolean =>
  (stroke.kind === 'legato' || stroke.kind === 'détaché') && stroke.strokes === 1 && notes.length > 0 && notes.every((each) => alike(each, value));

/**
 * Long and short notes in turn under one bow: the arm wants to go with the fingers, and the short ones are given bow that the long ones
 * lack, or are swallowed (common practice). Told where a rhythm comes first.
 */
function rhythmTroubles(timed: readonly Timed[]): Trouble[] {
  const rhythms = new Map<string, { first: Timed; times: number; shortest: number; longest: number }>();
  for (const each of timed) {
    const { stroke, notes } = each;
    if (stroke.kind !== 'legato' || notes.length < EVEN_RHYTHM.notes) continue;
    const [shortest, longest] = [Math.min(...notes), Math.max(...notes)];
    const turns = notes.filter((note, i) => i > 0 && Math.max(note, notes[i - 1]!) >= EVEN_RHYTHM.ratio * Math.min(note, notes[i - 1]!)).length;
    if (turns < 2 || shortest > EVEN_RHYTHM.shortestS) continue;
    const rhythm = notes.map((note) => Math.round((note / shortest) * 4)).join(' ');
    const known = rhythms.get(rhythm);
    if (known) known.times++;
    else rhythms.set(rhythm, { first: each, times: 1, shortest, longest });
  }
  return [...rhythms.values()].map(({ first, times, shortest, longest }): Trouble => {
    const shortCm = Math.abs(first.stroke.cmPerS) * shortest;
    return {
      kind: 'rhythm under one bow',
      noteId: first.stroke.noteIds[0]!,
      load: 1,
      from: TOLD,
      numbers: { longS: round(longest), shortS: round(shortest), shortCm: round(shortCm), times },
      text: words.rhythmText(longest / shortest, shortCm, times),
      hearIt: words.HEAR_RHYTHM,
      remedies: [{ text: remedy.EVEN_BOW, before: null, after: null }],
    };
  });
}

/** A tied or held note that leaves the bow where the next stroke has no room, or cannot be made. */
function wrongEndTroubles(timed: readonly Timed[], { player }: BowContext): Trouble[] {
  const { hairCm } = bowOf(player.instrument);
  return timed.flatMap((next, i): Trouble[] => {
    const before = timed[i - 1];
    const { stroke } = next;
    if (!before?.held || !next.joined) return [];
    const room = stroke.direction === 'down' ? 1 - stroke.from : stroke.from;
    const short = Math.min(stroke.preferredCm / hairCm, MOST_OF_THE_BOW) - room;
    const { zone } = STROKES[stroke.kind];
    const outside = zone ? Math.max(0, zone.from - stroke.from, stroke.from - zone.to) : 0;
    const away = Math.max(short, outside);
    if (away < WRONG_END_FROM[0]) return [];
    return [
      {
        kind: 'held to the wrong end',
        noteId: stroke.noteIds[0]!,
        load: away,
        from: WRONG_END_FROM,
        numbers: { endsAt: round(before.stroke.endsAt), awayCm: round(away * hairCm) },
        text: words.wrongEndText(before.stroke.endsAt, away * hairCm, outside > short ? stroke.kind : null),
        hearIt: words.HEAR_WRONG_END,
        remedies: [{ text: remedy.ANOTHER_END, before: null, after: null }],
      },
    ];
  });
}
