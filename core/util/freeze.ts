/** The same value, which nothing can change any more, however deep: for tests and development, where a change shows at once. */
export function frozen<T>(value: T): T {
  if (typeof value !== 'object' || value === null || Object.isFrozen(value)) return value;
  // Contents of maps and sets cannot be frozen.
  if (value instanceof Map || value instanceof Set) return value;
  Object.freeze(value);
  for (const each of Object.values(value)) frozen(each);
  return value;
}
