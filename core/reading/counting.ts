/** Time: values that are cut short, ties over the bar line, syncopations, entries off the beat; each with the count inside. */
import { feltBeat } from '../score/beat';
import { silenceBetween, silenceInWords } from '../score/silence';
import { linesOf, type Line, type LineEvent } from '../instruments/lines';
import { barIndexAt, type Bar, type Part } from '../score/score';
import type { ReadingAid } from './aid';

export function countingAids(part: Part): ReadingAid[] {
  const seen = new Set<string>();
  return (
    linesOf(part)
      .flatMap((line) => lineAids(part, line))
      // Both notes of a divided part are counted alike.
      .filter(({ kind, onset, text }) => {
        const said = `${kind} ${onset} ${text}`;
        return !seen.has(said) && seen.add(said);
      })
  );
}

/** Bars of rest after which one counts bars rather than beats. */
const FEWEST_BARS = 2;

function lineAids(part: Part, line: Line): ReadingAid[] {
  const aids: ReadingAid[] = [];
  line.events.forEach((event, i) => {
    if (event.grace) return;
    const bar = part.bars[barIndexAt(part.bars, event.onset)]!;
    const beat = feltBeat(bar);
    const next = line.events.slice(i + 1).find((other) => !other.grace);
    const before = line.events.slice(0, i).findLast((other) => !other.grace);
    const beats = (event.end - event.onset) / beat;
    const offBeat = (event.onset - bar.onset + bar.into) % beat !== 0;
    const overBar = event.end > bar.onset + bar.ticks;
    const silentFrom = before ? before.end : 0;
    const silence = event.onset - silentFrom;
    const rest = silenceBetween(part.bars, silentFrom, event.onset);
    const quickNext = next !== undefined && next.onset - event.end === 0 && next.end - next.onset < beat;
    const add = (kind: ReadingAid['kind'], text: string, from = event.onset, to = event.end) =>
      aids.push({
        id: `${kind} ${event.ids[0]}`,
        kind,
        noteIds: event.ids,
        barIndex: bar.index,
        onset: event.onset,
        text,
        count: from === to ? null : countOf(part, from, to),
        remedy: null,
      });
    if (overBar && event.end - event.onset > beat) add('held over', `Held over the bar line for ${inBeats(beats)}: keep counting inside.`);
    else if (offBeat && endsBeyondBeat(event, bar, beat))
      add('syncopation', 'Begins between two beats and holds through the next one: the beat falls inside the note.');
    else if (beats >= 3 && quickNext) add('long value', `${inBeats(beats)} long, then quick notes: it tends to be cut short.`);
    if (rest.bars >= FEWEST_BARS) add('entry', `Entry after ${silenceInWords(rest)}: know what sounds before it.`, event.onset, event.onset);
    else if (silence >= 2 * beat && offBeat)
      add('entry', `Entry between two beats after a rest of ${inBeats(silence / beat)}.`, Math.max(0, event.onset - Math.min(silence, 4 * beat)), event.onset);
  });
  return aids;
}

/** Whether a note that begins off the beat sounds on past a whole later beat's start. */
function endsBeyondBeat(event: LineEvent, bar: Bar, beat: number): boolean {
  const into = (event.onset - bar.onset + bar.into) % beat;
  return event.end - event.onset > beat - into && event.end - event.onset >= beat;
}

/** The beats that pass from one tick to another: `"(2) 3 4 | 1 2"`; in brackets where it begins between two beats. */
export function countOf(part: Part, from: number, to: number): string {
  const words: string[] = [];
  for (let index = barIndexAt(part.bars, from); index < part.bars.length && part.bars[index]!.onset < to; index++) {
    const bar = part.bars[index]!;
    const beat = feltBeat(bar);
    if (words.length) words.push('|');
    for (let tick = bar.onset; tick < bar.onset + bar.ticks && tick < to; tick += beat) {
      const number = Math.floor((tick - bar.onset + bar.into) / beat) + 1;
      if (tick >= from) words.push(String(number));
      else if (tick + beat > from) words.push(`(${number})`);
    }
  }
  return words.join(' ');
}

function inBeats(beats: number): string {
  const rounded = Math.round(beats * 4) / 4;
  const whole = Math.floor(rounded);
  const rest = { 0: '', 0.25: '¼', 0.5: '½', 0.75: '¾' }[rounded - whole] ?? '';
  return `${whole || rest === '' ? whole : ''}${rest} ${rounded === 1 ? 'beat' : 'beats'}`;
}
