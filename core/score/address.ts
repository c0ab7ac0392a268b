/**
 * Bars and notes as people say them, both ways: "47", "47/3" (beat), "E", "E+2", "two after E", "2nd of D", "-6" or
 * "six before the end", "upbeat to 31", "last note of 54". What is printed here is always understood here.
 */
import { beatOf, beatTicks } from './beat';
import { barStarts, goesOn, lastOfBar, placeOfBar, type Called } from './counted';
import { bad, good, type Result } from '../util/result';
import type { BarRange } from './bars';
import { type Bar, type Note, type Part } from './score';

export interface Place {
  barIndex: number;
  /** Ticks from the start of the bar; null where only the bar is meant. */
  tick: number | null;
  /** The note that begins there, if one does. */
  noteId: string | null;
}

type Bars = Pick<Part, 'bars'>;
type Notes = Pick<Part, 'bars' | 'notes' | 'rests'>;

/** How far a said beat may lie from a note's, so that "2.33" finds the second note of a triplet. */
const BEAT_TOLERANCE = 0.02;

const WORDS = ['zero', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten', 'eleven', 'twelve'];
const ORDINALS = ['zeroth', 'first', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth', 'ninth', 'tenth', 'eleventh', 'twelfth'];
const COUNT = `\\d+|${WORDS.join('|')}`;
const ORDINAL = `\\d+(?:st|nd|rd|th)|${ORDINALS.join('|')}`;
const AFTER = new RegExp(`^(?:(${COUNT})\\s+(?:bars?\\s+)?)?(after|before)\\s+(.+)$`, 'i');
const NTH_OF = new RegExp(`^(${ORDINAL})\\s+(?:bar\\s+)?(?:of|in)\\s+(.+)$`, 'i');
const NTH_NOTE = new RegExp(`^(${ORDINAL}|last)\\s+note\\s+(?:of|in)\\s+(.+)$`, 'i');
const BEAT_OF = /^beat\s+(\d+(?:[.,]\d+)?)\s+(?:of|in)\s+(.+)$/i;
const NTH_BEAT = new RegExp(`^(${ORDINAL})\\s+beat\\s+(?:of|in)\\s+(.+)$`, 'i');

/** @returns index of the bar that is said */
export function barAt(part: Bars, said: string): Result<number> {
  const { bars } = part;
  const remedy = `Say a bar (${bars[0]?.label ?? '1'} to ${bars.at(-1)?.label ?? '1'}), a letter such as E, E+2, "2nd of E", or -6 for six before the end.`;
  const text = plain(said);
  const starts = barStarts(bars);
  const inside = (index: number | undefined) =>
    index !== undefined && index >= 0 && index < bars.length
      ? good(index)
      : bad(said.trim(), `That lies outside the part, which has ${starts.length} bars.`, remedy);
  /** So many bars on or back, as they are counted. */
  const moved = (from: number, by: number) => inside(starts[placeOfBar(bars, starts, from, by) + by]);
  const fromEnd = /^-\s*(\d+)$/.exec(text);
  if (fromEnd) return inside(starts[starts.length - Number(fromEnd[1])]);
  const counted = /^#(\d+)$/.exec(text);
  if (counted) return inside(Number(counted[1]) - 1);
  const byLabel = labelled(bars, text);
  if (byLabel >= 0) return good(byLabel);
  if (/^(the\s+)?(last( bar)?|end)$/i.test(text)) return inside(bars.length - 1);
  const after = AFTER.exec(text);
  if (after) {
    const count = after[1] === undefined ? 1 : countOf(after[1]);
    if (/^(the\s+)?end$/i.test(after[3]!)) return inside(starts[starts.length - count]);
    const start = barAt(part, after[3]!);
    return start.ok ? moved(start.value, (after[2]!.toLowerCase() === 'after' ? 1 : -1) * count) : start;
  }
  const nth = NTH_OF.exec(text);
  if (nth) {
    const start = barAt(part, nth[2]!);
    return start.ok ? moved(start.value, countOf(nth[1]!) - 1) : start;
  }
  const added = /^(.+?)\s*([+-])\s*(\d+)$/.exec(text);
  const start = rehearsal(bars, text);
  if (start >= 0) return good(start);
  const base = added ? Math.max(rehearsal(bars, added[1]!), added[2] === '+' ? labelled(bars, added[1]!) : -1) : -1;
  if (added && base >= 0) return moved(base, (added[2] === '-' ? -1 : 1) * Number(added[3]));
  return bad(said.trim() || null, /^\d+$/.test(text) ? `There is no bar ${text}.` : 'There is no such bar or rehearsal letter.', remedy);
}

/** "5-12", "E–F", "from 5 to 12" or one bar; both ends included. */
export function barsAt(part: Bars, said: string): Result<BarRange> {
  const text = plain(said);
  for (const match of text.matchAll(/\s*(?:-|–|\s+to\s+|\.\.)\s*/g)) {
    if (match.index === 0) continue;
    const from = barAt(part, text.slice(0, match.index));
    if (!from.ok) continue;
    const end = text.slice(match.index + match[0].length);
    // Where a label comes twice, the end is the next one after the start.
    const same = part.bars.findIndex((bar, i) => i >= from.value && bar.label === end);
    const to = same >= 0 ? good(same) : barAt(part, end);
    if (to.ok && to.value >= from.value) return good({ fromBar: from.value, toBar: lastOfBar(part.bars, to.value) });
  }
  const one = barAt(part, text);
  if (one.ok) return good({ fromBar: one.value, toBar: lastOfBar(part.bars, one.value) });
  const { bars } = part;
  return bad(
    `bars "${said.trim()}"`,
    one.problem.what,
    `Give one bar or two, such as 5 or 5-12; this part has bars ${bars[0]?.label ?? '?'} to ${bars.at(-1)?.label ?? '?'}.`,
  );
}

/** A bar, a beat of it or a note, whichever is said. */
export function placeAt(part: Notes, said: string): Result<Place> {
  const text = plain(said);
  const upbeat = /^(?:up-?beat|pick-?up)\s+(?:to|of|before|into)\s+(.+)$/i.exec(text);
  if (upbeat) return upbeatTo(part, upbeat[1]!);
  const grace = /^grace(?:\s+note)?\s+(?:at|before)\s+(.+)$/i.exec(text);
  if (grace) {
    const main = placeAt(part, grace[1]!);
    if (!main.ok) return main;
    const found = part.notes.find((note) => note.grace !== null && note.barIndex === main.value.barIndex && note.tick === (main.value.tick ?? 0));
    return found ? good(placeOf(found)) : bad(said.trim(), 'There is no grace note.', 'Say the note itself, such as 47/3.');
  }
  const nthNote = NTH_NOTE.exec(text);
  if (nthNote) {
    const bar = barAt(part, nthNote[2]!);
    if (!bar.ok) return bar;
    const heads = headsOf(part, bar.value);
    const wanted = /^last$/i.test(nthNote[1]!) ? heads.at(-1) : heads[countOf(nthNote[1]!) - 1];
    const has = heads.length === 0 ? 'has no notes' : heads.length === 1 ? 'has one note' : `has ${heads.length} notes`;
    return wanted ? good(placeOf(wanted)) : bad(said.trim(), `Bar ${part.bars[bar.value]!.label} ${has}.`, 'Say one of them, or a beat such as 47/3.');
  }
  const nthBeat = NTH_BEAT.exec(text);
  const beatOfBar = BEAT_OF.exec(text);
  const onBeat = beatOfBar
    ? [beatOfBar[2]!, beatOfBar[1]!]
    : nthBeat
      ? [nthBeat[2]!, String(countOf(nthBeat[1]!))]
      : /^(.+?)(?:\s*\/\s*|,?\s+beat\s+)(\d+(?:[.,]\d+)?)$/i.exec(text)?.slice(1);
  if (!onBeat) {
    const bar = barAt(part, text);
    return bar.ok ? good({ barIndex: bar.value, tick: null, noteId: null }) : bar;
  }
  const bar = barAt(part, onBeat[0]!);
  if (!bar.ok) return bar;
  return onBeatOf(part, bar.value, Number(onBeat[1]!.replace(',', '.')), said);
}

function onBeatOf(part: Notes, barIndex: number, beat: number, said: string): Result<Place> {
  const { bars } = part;
  const unit = beatTicks(bars[barIndex]!);
  const last = lastOfBar(bars, barIndex);
  const inBar = (beat - 1) * unit;
  const slack = BEAT_TOLERANCE * unit;
  let index = barIndex;
  while (index < last && inBar >= bars[index + 1]!.into - slack) index++;
  const bar = bars[index]!;
  const tick = Math.round(inBar - bar.into);
  if (tick < -slack || tick >= bar.ticks) {
    const [first, end] = [beatOf(bars[barIndex]!, 0), Math.ceil(beatOf(bars[last]!, bars[last]!.ticks)) - 1];
    return bad(said.trim(), `Bar ${bar.label} has the beats ${Math.floor(first)} to ${end}.`, 'Say one of them, such as 47/3 for the third beat of bar 47.');
  }
  const note = headsOf(part, index, true)
    .filter((head) => head.grace === null)
    .find((head) => Math.abs(head.tick - tick) <= slack);
  return good({ barIndex: index, tick: note?.tick ?? Math.max(0, tick), noteId: note?.id ?? null });
}

/** What leads into a bar: the notes after the last rest before it, or else the last note. */
function upbeatTo(part: Notes, said: string): Result<Place> {
  const bar = barAt(part, said);
  if (!bar.ok) return bar;
  const before = bar.value - 1;
  const heads = before < 0 ? [] : headsOf(part, before);
  if (heads.length === 0) return bad(`upbeat to ${said}`, 'No note leads into this bar.', 'Say the bar itself.');
  const rests = part.rests.filter((rest) => rest.barIndex === before && rest.voice === heads[0]!.voice);
  const restEnd = Math.max(-1, ...rests.map((rest) => rest.onset + rest.duration));
  const led = part.bars[before]!.pickup ? heads[0] : heads.find((head) => head.onset >= restEnd && restEnd > 0);
  return good(placeOf(led ?? heads.at(-1)!));
}

/** The notes of a bar as a player counts them: one for a chord, of the first voice unless all are wanted. */
function headsOf(part: Notes, barIndex: number, allVoices = false): Note[] {
  const inBar = part.notes.filter((note) => note.barIndex === barIndex && !note.cue && !note.inChord);
  const main = inBar[0];
  return allVoices ? inBar : inBar.filter((note) => note.voice === main!.voice && note.staff === main!.staff);
}

const placeOf = (note: Note): Place => ({ barIndex: note.barIndex, tick: note.tick, noteId: note.id });

/** The printed label; where it comes more than once, which one: "12 (2nd)". Bars without a label are counted: "#12". */
export function sayBar(bars: readonly Called[], index: number): string {
  const label = bars[index]?.label.trim() ?? '';
  if (label === '') return `#${index + 1}`;
  let start = index;
  while (start > 0 && goesOn(bars[start]!)) start--;
  let before = 0;
  for (let i = 0; i < start; i++) if (bars[i]!.label.trim() === label && !goesOn(bars[i]!)) before++;
  return before === 0 ? label : `${label} (${ordinal(before + 1)})`;
}

export function sayBars(bars: readonly Called[], { fromBar, toBar }: BarRange): string {
  const [from, to] = [sayBar(bars, fromBar), sayBar(bars, toBar)];
  return from === to ? from : `${from}–${to}`;
}

/** A note as people say it: bar and beat, "47/3". */
export function sayNote(part: Bars, note: Pick<Note, 'barIndex' | 'tick' | 'grace'>): string {
  const beat = Math.round(beatOf(part.bars[note.barIndex]!, note.tick) * 100) / 100;
  return `${note.grace ? 'grace note at ' : ''}${sayBar(part.bars, note.barIndex)}/${beat}`;
}

function labelled(bars: readonly Bar[], text: string): number {
  const which = /^(.+?)\s*\((\d+)(?:st|nd|rd|th)\)$/.exec(text);
  const wanted = (which?.[1] ?? text).toLowerCase();
  let seen = 0;
  return bars.findIndex((bar) => !goesOn(bar) && bar.label.trim().toLowerCase() === wanted && ++seen === Number(which?.[2] ?? 1));
}

const rehearsal = (bars: readonly Bar[], text: string): number => bars.findIndex((bar) => bar.rehearsal?.toLowerCase() === text.toLowerCase());

/** Without "the" and "bar", which people say and nobody needs. */
function plain(said: string): string {
  return said
    .trim()
    .replace(/^from\s+/i, '')
    .replace(/^the\s+/i, '')
    .replace(/^(?:bars?|b\.|m\.|mm\.|measures?|letter)\s+(?=\S)/i, '');
}

function countOf(word: string): number {
  const lower = word.toLowerCase();
  const said = Math.max(WORDS.indexOf(lower), ORDINALS.indexOf(lower));
  return said >= 0 ? said : parseInt(lower, 10);
}

function ordinal(n: number): string {
  const suffix = n % 100 >= 11 && n % 100 <= 13 ? 'th' : (['th', 'st', 'nd', 'rd'][n % 10] ?? 'th');
  return `${n}${suffix}`;
}
