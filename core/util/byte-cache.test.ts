import { ByteCache } from './byte-cache';

test('a cache holds the latest used, by bytes; too large a thing is not kept', () => {
  const cache = new ByteCache<string>(100);
  for (const key of ['a', 'b', 'c', 'd']) cache.set(key, key, 25);
  expect(cache.get('a')).toBe('a');
  cache.set('e', 'e', 20);
  expect(['a', 'b', 'c', 'd', 'e'].map((key) => cache.get(key))).toEqual(['a', undefined, 'c', 'd', 'e']);
  cache.set('f', 'f', 26);
  expect(cache.get('f')).toBeUndefined();
  cache.set('a', 'again', 5);
  expect([cache.get('a'), cache.bytes]).toEqual(['again', 75]);
  cache.delete('a');
  cache.delete('a');
  expect([cache.get('a'), cache.bytes]).toEqual([undefined, 70]);
});
