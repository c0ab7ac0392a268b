/** The list "Changes against the print": what is printed, what the coach wants instead, why, and who said so. */
import { noteById } from '../score/find';
import { sayNote } from '../score/address';
import { clefName, parseClef } from '../score/clef';
import { pitchName } from '../score/pitch';
import type { Note, Part } from '../score/score';
import { splitKey, type Mark, type Marking } from './mark';
import { barTextOf } from './bar-correction';
import { parseCue } from '../score/cue-text';
import { isCorrection, isEditKind, type MarkKind } from './kinds';
import { parseHairpin, STRUCK } from './values';
import { placeOfTarget } from './notes';
import { targetOf } from './target';

export interface AgainstPrint {
  target: string;
  kind: MarkKind;
  mark: Mark;
  /** As people say where; null when the part has no such place any more. */
  at: string | null;
  onset: number;
  barIndex: number;
  /** What the print has there, in words. */
  print: string;
  /** What it becomes. */
  now: string;
}

export const NOTHING = 'nothing';

/**
 * Edits of the text and slurs that were split or joined, in the order of the music; lost ones last.
 * @param part with its notes as they are corrected
 * @param file without
 */
export function againstPrint(part: Part, marking: Marking, file: Part = part): AgainstPrint[] {
  const list: AgainstPrint[] = [];
  for (const [key, mark] of Object.entries(marking)) {
    const { target, kind } = splitKey(key);
    if (!isEditKind(kind) && kind !== 'slur') continue;
    const place = placeOfTarget(part, target);
    const words = place ? inWords(isCorrection(kind) ? file : part, target, kind, mark) : { print: '', now: mark.value };
    list.push({ target, kind, mark, at: place?.at ?? null, onset: place?.onset ?? Infinity, barIndex: place?.barIndex ?? -1, ...words });
  }
  return list.sort((a, b) => (a.onset === b.onset ? 0 : a.onset - b.onset));
}

function inWords(part: Part, targetText: string, kind: MarkKind, mark: Mark): { print: string; now: string } {
  const target = targetOf(targetText);
  if (target.on === 'note') return atNote(noteById(part, target.id)!, kind, mark.value);
  if (target.on !== 'place') return { print: '', now: mark.value };
  const tick = part.bars[target.barIndex]!.onset + target.tick;
  const here = <T extends { tick: number }>(marks: readonly T[], say: (each: T) => string) =>
    marks
      .filter((each) => each.tick === tick)
      .map(say)
      .join(', ') || NOTHING;
  const struck = (now: string) => (mark.value === STRUCK ? NOTHING : now);
  switch (kind) {
    case 'bar':
      return { print: barTextOf(part, target.barIndex) ?? '', now: mark.value };
    case 'cue': {
      const said = parseCue(mark.value);
      return { print: NOTHING, now: said ? `cue of ${said.name}` : mark.value };
    }
    case 'clef':
      return { print: clefBefore(part, tick, parseClef(mark.value)?.staff ?? 1), now: mark.value };
    case 'dynamic':
      return { print: here(part.dynamics, ({ text }) => text), now: struck(mark.value) };
    case 'tempo':
      return { print: here(part.tempi, ({ printed, quartersPerMinute }) => printed ?? `quarter = ${Math.round(quartersPerMinute)}`), now: struck(mark.value) };
    case 'divisi':
      return { print: NOTHING, now: mark.value === 'divided' ? 'divided from here' : 'one player holds both from here' };
    case 'text':
      return { print: NOTHING, now: `“${mark.value}”` };
    case 'printed-text':
      return { print: here(part.words, ({ text }) => `“${text}”`), now: NOTHING };
    case 'hairpin': {
      const printed = part.hairpins.find((hairpin) => hairpin.from === tick);
      const wanted = parseHairpin(mark.value);
      return {
        print: printed ? `${printed.kind} to ${sayTick(part, printed.to)}` : NOTHING,
        now: wanted ? `${wanted.kind} to ${sayEnd(part, wanted.toBar, wanted.toTick)}` : NOTHING,
      };
    }
    default:
      return { print: '', now: mark.value };
  }
}

function atNote(note: Note, kind: MarkKind, value: string): { print: string; now: string } {
  if (kind === 'pitch') return { print: pitchName(note.written), now: value };
  if (kind === 'slur') return value === 'split' ? { print: 'slurred', now: 'new bow here' } : { print: 'new bow', now: 'slurred to the note before' };
  if (kind === 'accidental') {
    const printed = note.accidental ? (note.accidental.courtesy ? 'sign in brackets' : 'sign') : 'no sign';
    return { print: printed, now: value === STRUCK ? 'no sign' : value === 'bracket' ? 'sign in brackets' : 'sign' };
  }
  const name = kind.replace('articulation:', '');
  const has = (note.articulations as readonly string[]).includes(name);
  return { print: has ? name : NOTHING, now: value === STRUCK ? NOTHING : name };
}

function sayEnd(part: Part, barIndex: number, tick: number): string {
  const bar = part.bars[barIndex];
  if (!bar) return '?';
  return tick >= bar.ticks ? `the end of ${bar.label}` : sayNote(part, { barIndex, tick, grace: null });
}

function sayTick(part: Part, tick: number): string {
  const index = part.bars.findIndex((bar) => tick > bar.onset && tick <= bar.onset + bar.ticks);
  return index < 0 ? '?' : sayEnd(part, index, tick - part.bars[index]!.onset);
}

/** The clef that is in force at a place. */
function clefBefore(part: Part, tick: number, staff: number): string {
  const last = part.clefs.findLast((each) => each.staff === staff && each.tick <= tick);
  return last ? clefName(last.clef).replace(' clef', '') : NOTHING;
}
