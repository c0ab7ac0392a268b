import {
  BOW_WISH_KINDS,
  isBowWishKind,
  isEditKind,
  isWordKind,
  kindsWhere,
  MARK_KINDS,
  MARKS,
  NOTE_EDIT_KINDS,
  PLAYER_KINDS,
  valueProblem,
  valuesOf,
  WORD_KINDS,
} from './kinds';

test('what each group holds, and what the plans and the comparisons go by', () => {
  expect(PLAYER_KINDS).toEqual([
    'finger',
    'string',
    'covered',
    'bow',
    'retake',
    'hook',
    'slur',
    'position',
    'other-finger',
    'extension',
    'stay',
    'slide',
    'pace',
    'look-up',
    'sign',
  ]);
  expect(BOW_WISH_KINDS).toEqual(['bow-zone', 'bow-amount', 'bow-from', 'bow-to', 'stroke', 'slur-is', 'sound-school', 'chord-way', 'unequal']);
  expect(NOTE_EDIT_KINDS.filter((kind) => !kind.startsWith('articulation:'))).toEqual(['pitch', 'accidental']);
  expect(WORD_KINDS).toEqual(['character', 'goal', 'away', 'tune', 'listen', 'question', 'apart', 'words']);
  const noEdit = (kinds: readonly string[]) => kinds.filter((kind) => !isEditKind(kind as 'bow'));
  expect(noEdit(kindsWhere(({ fingers }) => fingers))).toEqual(['finger', 'string', 'covered', 'slur', 'position', 'pace', 'slur-is']);
  expect(noEdit(kindsWhere(({ bow }) => bow))).toEqual(['bow', 'retake', 'hook', 'slur', 'pace', ...BOW_WISH_KINDS]);
  expect(kindsWhere(({ alike }) => alike === 'hand')).toEqual(['finger', 'string', 'covered', 'position', 'other-finger', 'extension']);
  expect(kindsWhere(({ alike }) => alike === 'bow')).toEqual(['bow', 'retake', 'hook', 'slur', 'bow-zone', 'bow-amount', 'stroke']);
  expect(kindsWhere(({ sequence }) => sequence)).toEqual(['retake', 'hook', 'slur', 'bow-zone', 'bow-amount', 'stroke']);
  expect(kindsWhere(({ suggested }) => suggested === 'fingering')).toEqual(['finger', 'string']);
  expect(kindsWhere(({ suggested }) => suggested === 'bowing')).toEqual(['bow', 'retake', 'hook', 'slur']);
  expect(kindsWhere(({ ofPitch }) => ofPitch)).toEqual(['finger', 'string', 'covered', 'position', 'other-finger', 'extension', 'stay', 'pitch', 'accidental']);
});

test('every kind is of one group; an edit of the print changes what both hands play, words change nothing', () => {
  for (const kind of MARK_KINDS) {
    expect([isEditKind(kind), isBowWishKind(kind), isWordKind(kind), PLAYER_KINDS.includes(kind as 'bow')].filter(Boolean)).toHaveLength(1);
    if (isEditKind(kind)) expect([MARKS[kind].fingers, MARKS[kind].bow]).toEqual([true, true]);
    if (isWordKind(kind)) expect([MARKS[kind].fingers, MARKS[kind].bow]).toEqual([false, false]);
    for (const value of valuesOf(kind) ?? []) expect(valueProblem(kind, value)).toBeNull();
    expect(valueProblem(kind, '')).toEqual(expect.stringMatching(/^Use /));
  }
});
