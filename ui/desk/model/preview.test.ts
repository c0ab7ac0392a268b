import { PLAIN_CONDITIONS } from '@/tests/support/conditions';
import { demoText } from '@/tests/support/demo';
import { Analyst } from '@/workers/analyst';
import { noteById } from '@/core/score/find';
import { markKey } from '@/core/marking/mark';
import { previewedNotes, previewedStrokes } from './preview';
import { statusText } from './status';

const analyst = new Analyst();
const open = analyst.open(demoText('staircase'));
const plain = PLAIN_CONDITIONS;
const report = analyst.report(plain, []);
const planned = report.fingering!.notes;
const range = { fromBar: 0, toBar: 15 };
const nothing = { suggestions: null, ofNote: null, ofBow: null, highlighted: 0 };

test('without a choice the tracks show the plan that was checked', () => {
  expect(previewedNotes(planned, nothing)).toBe(planned);
  expect(previewedStrokes(report.bowing!.strokes, nothing, open.part, range)).toBe(report.bowing!.strokes);
});

test('a highlighted fingering takes the place of the plan in its passage only', () => {
  const items = analyst.suggestFingering(plain, range);
  const shown = previewedNotes(planned, { suggestions: { kind: 'fingering', items }, ofNote: null, ofBow: null, highlighted: 1 });
  expect(shown.map((note) => note.id)).toEqual(planned.map((note) => note.id));
  const other = new Map(items[1]!.way.notes.map((note) => [note.id, note.place]));
  for (const [i, note] of shown.entries()) expect(note.place).toEqual(other.get(note.id) ?? planned[i]!.place);
  expect(shown).not.toEqual(planned);
});

test('a highlighted way to play one note is shown; the first one is the plan itself', () => {
  const noteId = open.part.notes[4]!.id;
  const ofNote = { noteId, items: analyst.choices(plain, noteId) };
  expect(previewedNotes(planned, { suggestions: null, ofNote, ofBow: null, highlighted: 0 })).toBe(planned);
  const shown = previewedNotes(planned, { suggestions: null, ofNote, ofBow: null, highlighted: 2 });
  expect(shown.find((note) => note.id === noteId)!.place).toEqual(ofNote.items[2]!.place);
});

test('a highlighted bowing joins on to the strokes around its passage', () => {
  const items = analyst.suggestBowing(plain, range);
  const shown = previewedStrokes(
    report.bowing!.strokes,
    { suggestions: { kind: 'bowing', items }, ofNote: null, ofBow: null, highlighted: 1 },
    open.part,
    range,
  );
  expect(shown.flatMap((stroke) => stroke.noteIds)).toEqual(report.bowing!.strokes.flatMap((stroke) => stroke.noteIds));
  expect(shown).toEqual(expect.arrayContaining(items[1]!.plan.strokes));
});

describe('the line under the score', () => {
  const [first, second, third] = open.part.notes as [(typeof open.part.notes)[0], (typeof open.part.notes)[0], (typeof open.part.notes)[0]];
  const at = (id: string) => planned.find((note) => note.id === id);
  test('says what to do when nothing is selected', () => expect(statusText(open, undefined, [], {}, undefined)).toContain('press →'));
  test('names place, note, marks, and what is planned where nothing is marked', () => {
    expect(statusText(open, second, [second], {}, at(second.id))).toBe('Bar 1/1.25 · B4 · unmarked · planned: 1 on string 2, first position');
    const marking = { [markKey(second.id, 'finger')]: { value: '1', origin: 'coach' as const } };
    expect(statusText(open, second, [second], marking, at(second.id))).toBe('Bar 1/1.25 · B4 · finger 1');
  });
  test('counts a selection', () => {
    expect(statusText(open, third, [first, second, third], {}, undefined)).toMatch(/^3 notes, bars 1 · Bar 1\/1\.5 · C5/);
    expect(noteById(open.part, third.id)).toBe(third);
  });
});
