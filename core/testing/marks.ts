/** Marks of every kind at every sort of target, for tests of what goes out and comes back. */
import { DYNAMIC_NAMES } from '../score/dynamics';
import type { Part } from '../score/score';
import { markKey, type Mark } from '../marking/mark';
import { valuesOf } from '../marking/kinds';
import { BOW_WISH_KINDS, NOTE_EDIT_KINDS, PLAYER_KINDS, type MarkKind } from '../marking/kinds';
import { hairpinValue } from '../marking/values';
import { barTarget, placeTarget } from '../marking/target';

/** At every n-th note a mark of each kind that a note can carry. */
export function everyMark(part: Part, n: number): Record<string, Mark> {
  const marking: Record<string, Mark> = {};
  part.notes.forEach((note, i) => {
    if (i % n) return;
    const set = (target: string, kind: MarkKind, value: string) => (marking[markKey(target, kind)] = { value, origin: 'coach' });
    for (const kind of [...PLAYER_KINDS, ...BOW_WISH_KINDS, ...NOTE_EDIT_KINDS]) {
      const values = valuesOf(kind) ?? OPEN_VALUES[kind]!;
      set(note.id, kind, values[i % values.length]!);
    }
    const here = placeTarget(note.barIndex, note.tick);
    set(here, 'dynamic', DYNAMIC_NAMES[i % DYNAMIC_NAMES.length]!);
    set(here, 'text', `text ${i} & more`);
    if (i % (n * 3) === 0) set(here, 'tempo', `Andante ${i}, quarter = ${60 + (i % 40)}`);
    set(here, 'hairpin', hairpinValue({ kind: i % 2 ? 'crescendo' : 'diminuendo', toBar: note.barIndex, toTick: part.bars[note.barIndex]!.ticks }));
    set(barTarget(note.barIndex), 'listen', 'Who has the tune?');
  });
  return marking;
}

const PLACES = ['frog', 'tip', '63 %'];
/** Of kinds that have no short list. */
export const OPEN_VALUES: Readonly<Partial<Record<MarkKind, readonly string[]>>> = {
  position: ['first', 'third'],
  sign: ['dolce & light', '<>'],
  pace: ['ease', 'at 80 %'],
  pitch: ['F#4', 'Bb4', 'G4'],
  bar: ['A4/1'],
  clef: ['alto'],
  cue: ['Violin I | x/2 A4/4 B4/4'],
  'bow-amount': ['little', 'whole', '12.5 cm'],
  'bow-from': PLACES,
  'bow-to': PLACES,
};
