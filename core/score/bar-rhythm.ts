/** Corrections of one voice of a bar. What a note becomes longer by the notes and rests after it give up; what it becomes shorter by becomes a rest. */
import { ticksOfEvent, WHOLE_REST, type BarEvent } from './bar-text';
import { lengthsOf, sameLength, ticksOfLength, type NoteLength } from './note-length';

type Events = readonly BarEvent[];

const rest = (length: NoteLength): BarEvent => ({ what: 'rest', heads: [], length });
/** A bar that is not filled, or too full, is said where it is written: nothing is guessed. */
const NEGLIGIBLE = 0.5;

/** The event at `index` with another length; the bar keeps its own as far as what follows can give it. */
export function withLength(events: Events, index: number, length: NoteLength): BarEvent[] {
  const event = events[index];
  if (!event?.length || sameLength(event.length, length)) return [...events];
  const changed = { ...event, length };
  const before = events.slice(0, index);
  if (event.what === 'grace') return [...before, changed, ...events.slice(index + 1)];
  const more = ticksOfLength(length) - ticksOfLength(event.length);
  const after = events.slice(index + 1);
  return [...before, changed, ...(more > 0 ? shortened(after, more) : withRest(after, -more))];
}

/** Takes time from the beginning: what is too long begins later, what is too short goes. */
function shortened(events: Events, by: number): BarEvent[] {
  let left = by;
  const kept: BarEvent[] = [];
  for (const [i, event] of events.entries()) {
    if (left < NEGLIGIBLE) return [...kept, ...events.slice(i)];
    const ticks = ticksOfEvent(event, 0);
    if (ticks <= left + NEGLIGIBLE) {
      left -= ticks;
      continue;
    }
    const lengths = lengthsOf(ticks - left);
    if (!lengths) return [...kept, ...events.slice(i)];
    left = 0;
    kept.push(...lengths.map((length, part) => (part < lengths.length - 1 ? { ...tiedAs(event, true), length } : { ...event, length })));
  }
  return kept;
}

/** A rest of that length in front, as one with a rest that begins there. */
function withRest(events: Events, ticks: number): BarEvent[] {
  const [next] = events;
  const together = next?.what === 'rest' && next.length ? lengthsOf(ticks + ticksOfLength(next.length)) : null;
  if (together) return [...together.map(rest), ...events.slice(1)];
  return [...(lengthsOf(ticks) ?? []).map(rest), ...events];
}

/** The note becomes a rest; a grace note goes. A tie that led to it goes too. */
export function withoutNote(events: Events, index: number): BarEvent[] {
  const event = events[index];
  if (!event || event.heads.length === 0) return [...events];
  const untied = events.map((each, i) => (i === index - 1 ? tiedAs(each, false) : each));
  if (event.what === 'grace') return untied.filter((_, i) => i !== index);
  const left = untied.map((each, i): BarEvent => (i === index ? { ...each, what: 'rest', heads: [] } : each));
  return left.every(({ what }) => what === 'rest') ? [WHOLE_REST] : left;
}

/** The note in two halves of the same pitch, so that another one can be written; null where its length has no half. */
export function splitNote(events: Events, index: number): BarEvent[] | null {
  const event = events[index];
  if (!event?.length || event.what === 'grace') return null;
  const halves = lengthsOf(ticksOfLength(event.length) / 2);
  if (halves?.length !== 1) return null;
  return [...events.slice(0, index), { ...tiedAs(event, false), length: halves[0]! }, { ...event, length: halves[0]! }, ...events.slice(index + 1)];
}

/** Tied to the next note, or not any more. */
export const withTie = (events: Events, index: number): BarEvent[] =>
  events.map((event, i) => (i === index && event.what === 'note' ? tiedAs(event, !event.heads.some(({ tied }) => tied)) : event));

const tiedAs = (event: BarEvent, tied: boolean): BarEvent => ({ ...event, heads: event.heads.map((head) => ({ ...head, tied })) });
