/**
 * Notes for the player: words at a note, a bar or a run of bars, addressed as people say bars. As a list they are plain
 * text, one note a line ("47/3 listen: the cellos have the tune"), which can be read back in.
 */
import { barsAt, placeAt, sayBar, sayBars, sayNote } from '../score/address';
import { noteById } from '../score/find';
import type { Part } from '../score/score';
import { LIMITS } from '../util/limits';
import { bad, good, type Result } from '../util/result';
import { changeTo, type Change } from './change';
import { markKey, splitKey, type Marking } from './mark';
import { isWordKind, type WordKind } from './kinds';
import { barsTarget, barTarget, targetOf } from './target';

/** What stands before the text; plain words need nothing. */
export const NOTE_LABELS: Readonly<Record<WordKind, string>> = {
  character: 'character',
  goal: 'goes to',
  away: 'comes away',
  tune: 'tune',
  listen: 'listen',
  question: 'question',
  apart: 'apart on purpose',
  words: '',
};

export interface PlayerNote {
  target: string;
  kind: WordKind;
  /** As people say it: "47/3", "47", "47–52". */
  at: string;
  barIndex: number;
  /** Last bar it is about. */
  toBar: number;
  /** Ticks from the start of the part. */
  onset: number;
  text: string;
}

/** All notes of a marking in the order of the music; those that lost their place are left out. */
export function playerNotes(part: Part, marking: Marking): PlayerNote[] {
  const notes: PlayerNote[] = [];
  for (const [key, mark] of Object.entries(marking)) {
    const { target, kind } = splitKey(key);
    if (!isWordKind(kind)) continue;
    const place = placeOfTarget(part, target);
    if (place) notes.push({ target, kind, text: mark.value, ...place });
  }
  return notes.sort((a, b) => a.onset - b.onset || b.toBar - a.toBar || (a.kind < b.kind ? -1 : 1));
}

/** Where a target lies, as people say it; null when the part has no such place. */
export function placeOfTarget(part: Part, text: string): { at: string; barIndex: number; toBar: number; onset: number } | null {
  const target = targetOf(text);
  const { bars } = part;
  if (target.on === 'note') {
    const note = noteById(part, target.id);
    return note ? { at: sayNote(part, note), barIndex: note.barIndex, toBar: note.barIndex, onset: note.onset } : null;
  }
  const barIndex = target.on === 'bars' ? target.fromBar : target.barIndex;
  const toBar = target.on === 'bars' ? target.toBar : target.barIndex;
  const bar = bars[barIndex];
  if (!bar || !bars[toBar]) return null;
  switch (target.on) {
    case 'bar':
      return { at: sayBar(bars, barIndex), barIndex, toBar, onset: bar.onset };
    case 'bars':
      return { at: sayBars(bars, target), barIndex, toBar, onset: bar.onset };
    case 'place':
      return { at: sayNote(part, { barIndex, tick: target.tick, grace: null }), barIndex, toBar, onset: bar.onset + target.tick };
  }
}

/** The target that an address says: a note, a bar or a run of bars. */
export function targetAt(part: Part, said: string): Result<string> {
  const place = placeAt(part, said);
  if (place.ok && place.value.noteId !== null) return good(place.value.noteId);
  if (place.ok && place.value.tick === null) return good(barTarget(place.value.barIndex));
  if (place.ok) return bad(said, 'No note begins there.', 'Say a note, such as "last note of 54", or the bar.');
  const bars = barsAt(part, said);
  if (!bars.ok) return place.problem.what.startsWith('There is no such bar') ? bars : place;
  const { fromBar, toBar } = bars.value;
  return good(fromBar === toBar ? barTarget(fromBar) : barsTarget(bars.value));
}

export const noteLine = ({ at, kind, text }: Pick<PlayerNote, 'at' | 'kind' | 'text'>): string =>
  `${at}${NOTE_LABELS[kind] && ` ${NOTE_LABELS[kind]}`}: ${text.replace(/\s*\n\s*/g, ' / ')}`;

/** The whole list, one note a line. */
export const notesText = (part: Part, marking: Marking): string => playerNotes(part, marking).map(noteLine).join('\n');

/**
 * Reads a list back: the changes that put its notes into the marking. A note where there is one already is added to it.
 * With any line that cannot be read nothing is changed.
 */
export function notesFromText(part: Part, marking: Marking, text: string): Result<Change[]> {
  const wanted = new Map<string, { target: string; kind: WordKind; value: string }>();
  for (const [i, raw] of text.split(/\r?\n/).entries()) {
    const line = raw.trim();
    if (line === '') continue;
    const place = `line ${i + 1}`;
    const colon = line.indexOf(':');
    if (colon < 1) return bad(place, 'There is no colon between the bar and the words.', 'Write a line such as "47/3 listen: the cellos have the tune".');
    const { said, kind } = headOf(line.slice(0, colon).trim());
    const target = targetAt(part, said);
    if (!target.ok) return bad(`${place}, "${said}"`, target.problem.what, target.problem.remedy);
    const value = line.slice(colon + 1).trim();
    if (value === '') return bad(place, 'There are no words after the colon.', 'Write them, or take the line out.');
    const key = markKey(target.value, kind);
    const before = wanted.get(key)?.value ?? marking[key]?.value;
    const joined = before === undefined || before === value ? value : `${before}\n${value}`;
    if (joined.length > LIMITS.note) return bad(place, `The note would have ${joined.length} characters.`, `Keep it to ${LIMITS.note}.`);
    wanted.set(key, { target: target.value, kind, value: joined });
  }
  return good([...wanted.values()].flatMap(({ target, kind, value }) => changeTo(marking, target, kind, { value, origin: 'coach' }) ?? []));
}

function headOf(head: string): { said: string; kind: WordKind } {
  for (const [kind, label] of Object.entries(NOTE_LABELS) as Array<[WordKind, string]>) {
    if (label && head.toLowerCase().endsWith(` ${label}`)) return { said: head.slice(0, -label.length).trim(), kind };
  }
  return { said: head, kind: 'words' };
}
