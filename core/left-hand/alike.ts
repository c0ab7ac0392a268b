/**
 * The same music, wherever it comes back: repeats, and sequences on other notes. It is asked to be fingered alike; where what
 * lies around it makes that dear, it is not, and the exception is named.
 */
import { letterIndex, midiOf } from '../score/pitch';
import type { Line, LineEvent } from '../instruments/lines';
import type { Part } from '../score/score';
import { fingerInForce, stringInForce, type Marking } from '../marking/mark';
import type { Prepared } from './fingering';
import type { Grip } from './grip';
import { feltBeat } from '../score/beat';

/** A stretch of events, both included: a bar, or a beat of a sequence. */
interface Figure {
  barIndex: number;
  from: number;
  to: number;
}

export interface AlikeGroup {
  figures: Figure[];
}

/** Fewer notes make no figure. */
const FEWEST_NOTES = 4;
const FEWEST_IN_SEQUENCE = 3;

const kept = new WeakMap<Line, AlikeGroup[]>();

/**
 * Groups of figures in events of `prepared`: bars on the same notes, then bars on other notes where the bar after comes back with
 * them, then beats that follow one another in sequence. On violin and viola the intervals count in letters, so a sequence within
 * the key has the same fingers; on cello and bass in half steps.
 */
export function alikeGroups(part: Part, line: Line, prepared: Pick<Prepared, 'eventIndex'>): AlikeGroup[] {
  const known = kept.get(line);
  const inLine = known ?? groupsOf(part, line.events);
  if (!known) kept.set(line, inLine);
  const whole = prepared.eventIndex.length === line.events.length;
  if (whole) return inLine;
  const at = new Map(prepared.eventIndex.map((event, i) => [event, i]));
  return inLine
    .map(({ figures }) => ({
      figures: figures.flatMap(({ barIndex, from, to }) => {
        const [first, last] = [at.get(from), at.get(to)];
        return first !== undefined && last !== undefined && last - first === to - from ? [{ barIndex, from: first, to: last }] : [];
      }),
    }))
    .filter(({ figures }) => figures.length > 1);
}

function groupsOf(part: Part, events: readonly LineEvent[]): AlikeGroup[] {
  const byLetters = part.instrument !== 'cello' && part.instrument !== 'bass';
  const bars = figuresOf(events, (event) => String(event.notes[0]!.barIndex), FEWEST_NOTES);
  const exact = grouped(bars, (figure) => keyOf(figure, events, (event, i) => midiOf(event.notes[i]!.pitch)));
  const untaken = (groups: readonly AlikeGroup[]) => {
    const taken = new Set(groups.flatMap(({ figures }) => figures.map(({ barIndex }) => barIndex)));
    return ({ barIndex }: Figure) => !taken.has(barIndex);
  };
  const away = (figure: Figure) => keyOf(figure, events, intervalsFrom(events[figure.from]!, byLetters));
  const next = new Map(bars.map((figure, i) => [figure, bars[i + 1]?.barIndex === figure.barIndex + 1 ? bars[i + 1]! : null]));
  const moved = grouped(
    bars.filter((figure) => untaken(exact)(figure) && next.get(figure)),
    (figure) => `${away(figure)} then ${away(next.get(figure)!)}`,
  );
  const beats = figuresOf(
    events,
    (event) => {
      const { barIndex, tick } = event.notes[0]!;
      const bar = part.bars[barIndex]!;
      return `${barIndex} ${Math.floor((tick + bar.into) / feltBeat(bar))}`;
    },
    FEWEST_IN_SEQUENCE,
  ).filter(untaken([...exact, ...moved]));
  return [...exact, ...moved, ...sequences(beats, away)];
}

/** Height of a note above the first one of its figure: in letters, or in half steps. */
const intervalsFrom =
  (first: LineEvent, byLetters: boolean) =>
  (event: LineEvent, i: number): number =>
    byLetters ? letterIndex(event.notes[i]!.pitch) - letterIndex(first.notes[0]!.pitch) : midiOf(event.notes[i]!.pitch) - midiOf(first.notes[0]!.pitch);

function figuresOf(events: readonly LineEvent[], spanOf: (event: LineEvent) => string, fewest: number): Figure[] {
  const figures: Figure[] = [];
  for (let from = 0; from < events.length;) {
    const span = spanOf(events[from]!);
    let to = from;
    while (events[to + 1] && spanOf(events[to + 1]!) === span) to++;
    if (to - from + 1 >= fewest) figures.push({ barIndex: events[from]!.notes[0]!.barIndex, from, to });
    from = to + 1;
  }
  return figures;
}

function keyOf({ from, to }: Figure, events: readonly LineEvent[], height: (event: LineEvent, i: number) => number): string {
  const first = events[from]!;
  let key = '';
  for (let i = from; i <= to; i++) {
    const event = events[i]!;
    key += `${event.onset - first.onset} ${event.end - event.onset} ${event.notes.map((_, k) => height(event, k)).join('+')}|`;
  }
  return key;
}

function grouped(figures: readonly Figure[], keyed: (figure: Figure) => string): AlikeGroup[] {
  const groups = new Map<string, AlikeGroup>();
  for (const figure of figures) {
    const key = keyed(figure);
    const group = groups.get(key);
    if (group) group.figures.push(figure);
    else groups.set(key, { figures: [figure] });
  }
  return [...groups.values()].filter((group) => group.figures.length > 1);
}

/** Beats count where the next one goes on with the same figure. */
function sequences(beats: readonly Figure[], keyed: (figure: Figure) => string): AlikeGroup[] {
  const groups: AlikeGroup[] = [];
  let last: { key: string; figure: Figure } | null = null;
  for (const figure of beats) {
    const key = keyed(figure);
    if (last && last.key === key && figure.from === last.figure.to + 1) {
      const open = groups.at(-1);
      if (open?.figures.at(-1) === last.figure) open.figures.push(figure);
      else groups.push({ figures: [last.figure, figure] });
    }
    last = { key, figure };
  }
  return groups;
}

/** Finger and string of every note of a figure. */
type Row = ReadonlyArray<readonly [finger: number, string: number]>;

function rowOf(figure: Figure, prepared: Prepared, choice: readonly number[]): Row {
  const row: Array<readonly [number, number]> = [];
  for (let i = figure.from; i <= figure.to; i++) {
    const { lead } = prepared.grips[i]![choice[i]!]!;
    row.push([lead.finger, lead.string]);
  }
  return row;
}

/** How many strings away from `model` a row lies: none where the music stands on the same notes, else as most of its notes say. */
function stringsAway(row: Row, model: Row, samePitch: boolean): number {
  if (samePitch) return 0;
  const votes = new Map<number, number>();
  row.forEach(([, string], i) => votes.set(string - model[i]![1], (votes.get(string - model[i]![1]) ?? 0) + 1));
  return [...votes].reduce((best, vote) => (vote[1] > best[1] ? vote : best))[0];
}

const sameNotes = (a: Figure, b: Figure, { events }: Prepared): boolean => midiOf(events[a.from]!.notes[0]!.pitch) === midiOf(events[b.from]!.notes[0]!.pitch);

interface Model {
  figure: Figure;
  row: Row;
}

/** The fingers that most figures of a group have, those of the first one where it is even. */
function modelOf(group: AlikeGroup, prepared: Prepared, choice: readonly number[]): Model {
  const votes = new Map<string, Model & { count: number }>();
  for (const figure of group.figures) {
    const row = rowOf(figure, prepared, choice);
    const key = row.map(([finger, string]) => `${finger} ${string - row[0]![1]}`).join();
    const vote = votes.get(key) ?? { figure, row, count: 0 };
    vote.count++;
    votes.set(key, vote);
  }
  return [...votes.values()].reduce((best, vote) => (vote.count > best.count ? vote : best));
}

/** Notes of a figure, counted from its first, that are fingered otherwise than in the model. */
function differing(figure: Figure, model: Model, prepared: Prepared, choice: readonly number[]): number[] {
  const row = rowOf(figure, prepared, choice);
  const away = stringsAway(row, model.row, sameNotes(figure, model.figure, prepared));
  return row.flatMap(([finger, string], i) => (finger === model.row[i]![0] && string === model.row[i]![1] + away ? [] : [i]));
}

/** The very same grips are made once, so that a search that remembers sees that nothing changed. */
const wished = new WeakMap<Grip[], Map<string, Grip[]>>();

/** Grips that know how the same music is fingered elsewhere; `prepared` itself where all of it comes out alike already. */
export function wishedAlike(prepared: Prepared, groups: readonly AlikeGroup[], choice: readonly number[]): Prepared {
  let grips: Grip[][] | null = null;
  for (const group of groups) {
    const model = modelOf(group, prepared, choice);
    if (group.figures.every((figure) => differing(figure, model, prepared, choice).length === 0)) continue;
    grips ??= [...prepared.grips];
    for (const figure of group.figures) {
      const away = stringsAway(rowOf(figure, prepared, choice), model.row, sameNotes(figure, model.figure, prepared));
      model.row.forEach(([finger, string], i) => {
        grips![figure.from + i] = wishedGrips(prepared.grips[figure.from + i]!, finger, string + away, model.row.length);
      });
    }
  }
  return grips ? { ...prepared, grips } : prepared;
}

function wishedGrips(grips: Grip[], finger: number, string: number, notes: number): Grip[] {
  const known = wished.get(grips) ?? new Map<string, Grip[]>();
  wished.set(grips, known);
  const key = `${finger} ${string} ${notes}`;
  const found = known.get(key);
  if (found) return found;
  const fits = ({ lead }: Grip) => lead.finger === finger && lead.string === string;
  const made = grips.some(fits) ? grips.map((grip) => (fits(grip) ? grip : { ...grip, unlike: 1 / notes })) : grips;
  known.set(key, made);
  return made;
}

/** A figure that is fingered otherwise than the same music elsewhere. */
export interface UnlikeFingers {
  barIndex: number;
  /** Where it is fingered as most of them are. */
  likeBar: number;
  noteId: string;
  why: string;
}

export function unlikeFingers(prepared: Prepared, groups: readonly AlikeGroup[], choice: readonly number[], marking: Marking): UnlikeFingers[] {
  const found: UnlikeFingers[] = [];
  for (const group of groups) {
    const model = modelOf(group, prepared, choice);
    for (const figure of group.figures) {
      const notes = differing(figure, model, prepared, choice);
      if (notes.length === 0) continue;
      // On other notes the same fingers need not lie anywhere: that is no exception.
      if (!sameNotes(figure, model.figure, prepared) && !liesAnywhere(figure, model, prepared)) continue;
      const noteId = prepared.events[figure.from + notes[0]!]!.ids[0]!;
      found.push({ barIndex: figure.barIndex, likeBar: model.figure.barIndex, noteId, why: reason(figure, notes, model, prepared, marking) });
    }
  }
  return found.sort((a, b) => a.barIndex - b.barIndex);
}

const STRINGS_AWAY = [-3, -2, -1, 0, 1, 2, 3];

function liesAnywhere(figure: Figure, { row }: Model, prepared: Prepared): boolean {
  const lies = (strings: number) =>
    row.every(([finger, string], i) => prepared.grips[figure.from + i]!.some(({ lead }) => lead.finger === finger && lead.string === string + strings));
  return STRINGS_AWAY.some(lies);
}

function reason(figure: Figure, notes: readonly number[], model: Model, prepared: Prepared, marking: Marking): string {
  const events = prepared.events.slice(figure.from, figure.to + 1);
  if (events.some((event) => event.notes.some((note) => fingerInForce(note, marking) !== null || stringInForce(note, marking) !== null)))
    return 'marks there ask for it';
  if (!liesAnywhere(figure, model, prepared)) return 'the same fingers do not lie on these notes';
  if (notes[0]! >= model.row.length / 2) return 'what follows it there is different, and the hand has to be ready for it';
  if (notes.at(-1)! < model.row.length / 2) return 'the hand comes from somewhere else there';
  return 'it lies better so there';
}
