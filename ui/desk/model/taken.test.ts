import { PLAIN_CONDITIONS } from '@/tests/support/conditions';
import { demoText } from '@/tests/support/demo';
import { Analyst } from '@/workers/analyst';
import { takenChoice } from './taken';

const analyst = new Analyst();
const { part } = analyst.open(demoText('staircase'));
const plain = PLAIN_CONDITIONS;
const range = { fromBar: 0, toBar: 7 };
const focus = part.notes[2]!;
const where = { part, bars: '1–8', focus, marking: {} };
const nothing = { suggestions: null, ofNote: null, ofBow: null };

test('a suggestion: its marks, and in the history what it was compared with', () => {
  const suggestions = { kind: 'fingering' as const, items: analyst.suggestFingering(plain, range) };
  const plainly = takenChoice({ ...nothing, suggestions }, 0, where, false)!;
  expect(plainly).toEqual({ reason: 'Suggested fingering, bars 1–8', changes: suggestions.items[0]!.changes });
  const compared = takenChoice({ ...nothing, suggestions }, 1, where, true)!;
  expect(compared.reason).toContain(`(compared with ${suggestions.items[0]!.way.strategy}`);
  expect(compared.reason.split(',').length).toBe(suggestions.items.length);
  expect(compared.reason.length).toBeLessThanOrEqual(200);
});

test('a place for a note: finger and string by the coach, and nothing twice', () => {
  const ofNote = { noteId: focus.id, items: analyst.choices(plain, focus.id) };
  const taken = takenChoice({ ...nothing, ofNote }, 1, where, false)!;
  expect(taken.changes.map(({ target, kind, to }) => [target, kind, to!.origin])).toEqual([
    [focus.id, 'finger', 'coach'],
    [focus.id, 'string', 'coach'],
  ]);
  expect(taken.reason).toMatch(/^Bar 1\/.*: [0-4T] on string [1-4]$/);
  expect(takenChoice({ ...nothing, ofNote }, 99, where, false)).toBeNull();
});

test('a bow as it is planned writes nothing; nothing chosen, nothing taken', async () => {
  const ofBow = { noteId: focus.id, items: await analyst.bowChoices(plain, focus.id, range) };
  expect(takenChoice({ ...nothing, ofBow }, 0, where, false)).toBeNull();
  expect(takenChoice({ ...nothing, ofBow }, 1, where, false)!.changes.length).toBeGreaterThan(0);
  expect(takenChoice(nothing, 0, where, false)).toBeNull();
});
