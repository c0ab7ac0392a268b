import { LIMITS } from './limits';
import { newLinkShape, newPersonShape, ownChangeShape, personChangeShape } from './person-shape';

const said = (shape: { safeParse(value: unknown): { success: boolean; error?: { issues: Array<{ message: string }> } } }, value: unknown) => {
  const parsed = shape.safeParse(value);
  return parsed.success ? 'fine' : parsed.error!.issues[0]!.message;
};

test('a name is clean, and neither missing nor too long', () => {
  expect(newPersonShape.parse({ name: '  Orla \n Quill ', role: 'coach' })).toEqual({ name: 'Orla Quill', role: 'coach' });
  expect(said(newPersonShape, { name: ' \n ', role: 'coach' })).toBe('A name is missing');
  expect(said(newPersonShape, { name: 'x'.repeat(LIMITS.name), role: 'owner' })).toBe('fine');
  expect(said(newPersonShape, { name: 'x'.repeat(LIMITS.name + 1), role: 'owner' })).not.toBe('fine');
  expect(said(newPersonShape, { name: 'Orla', role: 'player' })).not.toBe('fine');
});

test('one says no role of oneself; the owner says one of others', () => {
  expect(ownChangeShape.parse({ role: 'owner', name: 'Orla' })).toEqual({ name: 'Orla' });
  expect(personChangeShape.parse({ role: 'owner', current: 'x' })).toEqual({ role: 'owner' });
  expect(said(ownChangeShape, { phrase: '' })).toBe('A pass phrase is missing');
  expect(said(ownChangeShape, { phrase: 'x'.repeat(1_000) })).toBe('fine');
  expect(said(ownChangeShape, { phrase: 'x'.repeat(1_001) })).not.toBe('fine');
});

test.each([
  [null, 'fine'],
  [0, 'A link lasts a day at least'],
  [1, 'fine'],
  [3_660, 'fine'],
  [3_661, 'A link lasts ten years at most'],
])('a link for %s days: %s', (days, words) => expect(said(newLinkShape, { days })).toBe(words));
