import { arrangementFrom } from './shelf-order';

test.each([
  [undefined, undefined, '', 'newest', 'none'],
  ['title', 'composer', '', 'title', 'composer'],
  ['title', undefined, 'composer.instrument', 'title', 'instrument'],
  [undefined, undefined, 'marked.marked', 'marked', 'marked'],
  ['nonsense', 'none', '.instrument', 'newest', 'none'],
])('%s, %s after %s', (order, group, kept, ...said) => {
  expect(Object.values(arrangementFrom(order, group, kept))).toEqual(said);
});
