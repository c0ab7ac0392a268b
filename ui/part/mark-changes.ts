/** What a key or a choice changes in the marking. */
import { linesOf } from '@/core/instruments/lines';
import { markInWords } from '@/core/marking/in-words';
import { slurLinks } from '@/core/marking/links';
import type { Note, Part } from '@/core/score/score';
import { wishInWords } from '@/core/marking/wishes';
import { changeTo, type Change } from '@/core/marking/change';
import { bowInForce, fingerInForce, markAt, stringInForce, type Marking } from '@/core/marking/mark';
import { BOW_WISH_KINDS, PLAYER_KINDS, type MarkKind } from '@/core/marking/kinds';

/**
 * What a key means for the notes that are chosen. Several are joined with one another and not to what was before; a direction is that of
 * the bows that begin among them, and one inside a slur splits the slur there.
 */
export function markedBy(part: Part, marking: Marking, chosen: readonly Note[], kind: MarkKind, value: string): { reason: string; changes: Change[] } {
  const reason = markInWords(kind, value);
  const [first] = chosen;
  if (first && kind === 'slur' && value === 'join' && chosen.some(({ onset }) => onset !== first.onset))
    return {
      reason,
      changes: toggled(
        marking,
        chosen.filter(({ onset }) => onset > first.onset),
        kind,
        value,
      ),
    };
  if (first && kind === 'bow') {
    const begin = chosen.filter(({ id }) => !isSlurredFromLast(part, marking, id));
    if (begin.length > 0) return { reason, changes: toggled(marking, begin, kind, value) };
    const here = chosen.filter(({ onset }) => onset === first.onset);
    const changes = toggled(marking, here, kind, value);
    const isSet = changes.some(({ to }) => to?.value === value);
    const split = isSet ? here.flatMap(({ id }) => changeTo(marking, id, 'slur', { value: 'split', origin: 'coach' }) ?? []) : [];
    return { reason: isSet ? `${reason}, the slur split there` : reason, changes: [...changes, ...split] };
  }
  return { reason, changes: toggled(marking, chosen, kind, value) };
}

function isSlurredFromLast(part: Part, marking: Marking, noteId: string): boolean {
  for (const line of linesOf(part)) {
    const at = line.events.findIndex(({ ids }) => ids.includes(noteId));
    if (at >= 0) return slurLinks(part, line, marking)[at]!;
  }
  return false;
}

/** Sets a mark on notes; where all of them have it already it is taken away again. */
export function toggled(marking: Marking, notes: readonly Note[], kind: MarkKind, value: string): Change[] {
  const all = notes.every((note) => inForce(note, marking, kind) === value);
  return notes.flatMap((note) => changeTo(marking, note.id, kind, all ? withoutMark(note, kind) : { value, origin: 'coach' }) ?? []);
}

/** Takes every mark of these notes away; what the edition prints is struck out. */
export function cleared(marking: Marking, notes: readonly Note[]): Change[] {
  return notes.flatMap((note) => [...PLAYER_KINDS, ...BOW_WISH_KINDS].flatMap((kind) => changeTo(marking, note.id, kind, withoutMark(note, kind)) ?? []));
}

function withoutMark(note: Note, kind: MarkKind) {
  const printed = kind === 'finger' ? note.printed.finger : kind === 'string' ? note.printed.string : kind === 'bow' ? note.printed.bow : null;
  return printed === null ? null : ({ value: 'none', origin: 'coach' } as const);
}

export function inForce(note: Note, marking: Marking, kind: MarkKind): string | null {
  switch (kind) {
    case 'finger':
      return fingerInForce(note, marking);
    case 'string': {
      const string = stringInForce(note, marking);
      return string === null ? null : String(string);
    }
    case 'bow':
      return bowInForce(note, marking);
    default:
      return markAt(marking, note.id, kind)?.value ?? null;
  }
}

/** The next string after the one in force: highest to lowest, then none. */
export function nextString(note: Note, marking: Marking, strings: number): Change[] {
  const now = stringInForce(note, marking);
  const next = now === null ? 1 : now + 1;
  return [changeTo(marking, note.id, 'string', next > strings ? withoutMark(note, 'string') : { value: String(next), origin: 'coach' })].filter(
    (change) => change !== null,
  );
}

/** Kinds that have words of their own there. */
const SAID_APART: readonly MarkKind[] = ['finger', 'string', 'bow', 'slur'];

/** What is marked on a note, in words for the status line. */
export function marksInWords(note: Note, marking: Marking): string {
  const words: string[] = [];
  const finger = fingerInForce(note, marking);
  const string = stringInForce(note, marking);
  const bow = bowInForce(note, marking);
  const whose = (kind: MarkKind) => (markAt(marking, note.id, kind) ? '' : ' (the edition’s)');
  if (finger) words.push(`${finger === 'T' ? 'thumb' : `finger ${finger}`}${whose('finger')}`);
  if (string) words.push(`string ${string}${whose('string')}`);
  if (bow) words.push(`${bow}-bow${whose('bow')}`);
  for (const kind of PLAYER_KINDS) {
    const mark = markAt(marking, note.id, kind);
    if (mark && !SAID_APART.includes(kind)) words.push(kind === 'sign' ? `“${mark.value}”` : markInWords(kind, mark.value).toLowerCase());
  }
  const slur = markAt(marking, note.id, 'slur');
  if (slur) words.push(slur.value === 'split' ? 'slur split here' : 'joined to the note before');
  for (const kind of BOW_WISH_KINDS) {
    const wish = markAt(marking, note.id, kind);
    if (wish) words.push(wishInWords(kind, wish.value) ?? `the slur is a ${wish.value}`);
  }
  return words.length ? words.join(', ') : 'unmarked';
}
