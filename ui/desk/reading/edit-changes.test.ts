import { parsePitch, pitchName, type Pitch } from '@/core/score/pitch';
import { linesOf } from '@/core/instruments/lines';
import { makeScore } from '@/core/testing/make';
import { applyChanges, type Change } from '@/core/marking/change';
import type { Marking } from '@/core/marking/mark';
import { editedPart } from '@/core/marking/print-edits';
import {
  accidentalChanges,
  articulationChanges,
  hairpinChanges,
  halfStep,
  pitchChanges,
  placeChanges,
  respelled,
  slurChanges,
  type EditContext,
} from './edit-changes';

const { part } = makeScore('violin', '(A4 B4) C5. D5 | E5~/2 E5/2 | G#4/2 B4+D5/2', { dynamic: 'f' });

/** The context after changes, and what the marking says then. */
function after(changes: Change[], before: Marking = {}, why = ''): { context: EditContext; said: string[] } {
  const { marking, conflicts } = applyChanges(before, changes);
  expect(conflicts).toEqual([]);
  const said = Object.entries(marking).map(([key, mark]) => `${key.split('|')[1]} ${mark.value}${mark.why ? ` (${mark.why})` : ''}`);
  return { context: { print: part, edited: editedPart(part, marking), marking, why }, said };
}
const start: EditContext = { print: part, edited: part, marking: {}, why: '' };
const notes = (...indices: number[]) => indices.map((i) => part.notes[i]!);
const pitch = (name: string) => parsePitch(name)!;
const named = (found: Pitch | null) => found && pitchName(found);

test('half a step moves the sign, then the letter', () => {
  expect(['F4', 'F#4', 'B4', 'Eb4'].map((name) => named(halfStep(pitch(name), 1)))).toEqual(['F#4', 'G4', 'B#4', 'E4']);
  expect(['F4', 'Fb4', 'C4'].map((name) => named(halfStep(pitch(name), -1)))).toEqual(['Fb4', 'Eb4', 'Cb4']);
});
test('respelling goes round all sensible spellings and back', () => {
  const round = ['F#4', 'C5', 'D4'].map((name) => {
    const seen = [name];
    for (let now = respelled(pitch(name)); now && pitchName(now) !== name; now = respelled(now)) seen.push(pitchName(now));
    return seen.join(' ');
  });
  expect(round).toEqual(['F#4 Gb4 E##4', 'C5 Dbb5 B#4', 'D4 Ebb4 C##4']);
});
test('a pitch moves with everything that is tied to it, and back to the print is no edit', () => {
  const { context, said } = after(pitchChanges({ ...start, why: 'wrong plate' }, notes(4), () => pitch('Eb5')));
  expect(said).toEqual(['pitch Eb5 (wrong plate)', 'pitch Eb5 (wrong plate)']);
  expect(
    after(
      pitchChanges(context, notes(5), () => pitch('E5')),
      context.marking,
    ).said,
  ).toEqual([]);
});
test('an articulation is put at all, taken from all; at some of them it is put at the others', () => {
  const put = after(articulationChanges(start, notes(1, 2), 'staccato'));
  expect(put.said).toEqual(['articulation:staccato yes']);
  expect(after(articulationChanges(put.context, notes(1, 2), 'staccato'), put.context.marking).said).toEqual(['articulation:staccato none']);
});
test('a sign that is printed anyway is no edit', () => {
  const sharp = part.notes.findIndex((note) => note.written.step === 'G');
  expect(after(accidentalChanges(start, notes(sharp), 'show')).said).toEqual([]);
  expect(after(accidentalChanges(start, notes(sharp), 'bracket')).said).toEqual(['accidental bracket']);
  expect(after(accidentalChanges(start, notes(0), 'none')).said).toEqual([]);
});
test('one slur over notes, and none', () => {
  const slurred = after(slurChanges(start, notes(0, 1, 2, 3), true));
  expect(slurred.said).toEqual(['slur join', 'slur join']);
  expect(after(slurChanges(slurred.context, notes(1, 2, 3), false), slurred.context.marking).said).toEqual(['slur split']);
});
test('signs at a place: what is printed is no edit; a hairpin ends with the last note', () => {
  expect(after(placeChanges(start, part.notes[0]!, 'dynamic', 'f')).said).toEqual([]);
  expect(after(placeChanges(start, part.notes[0]!, 'dynamic', 'p')).said).toEqual(['dynamic p']);
  expect(after(hairpinChanges(start, notes(1, 4), 'crescendo')).said).toEqual(['hairpin crescendo 1 4']);
});
test('the coach divides a chord, and it has two lines', () => {
  const chord = part.notes.find((note) => note.inChord)!;
  const { context } = after(placeChanges(start, chord, 'divisi', 'divided'));
  expect(linesOf(part)).toHaveLength(1);
  expect(linesOf(context.edited)).toHaveLength(2);
});
