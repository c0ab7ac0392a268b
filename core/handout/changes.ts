/** What leads from one hand-out to the next: applied to the one it gives exactly the other. */
import type { Told } from '../instruments/as-told';
import type { Frozen, SaidAlone } from './frozen';

/** `null` where there is nothing; `false` where a mark for everybody does not hold for a player. */
export type HandoutChange =
  | { of: 'mark'; key: string; from: string | null; to: string | null }
  | { of: 'own mark'; player: string; key: string; from: string | false | null; to: string | false | null }
  | { of: 'line'; player: string; from: number | null; to: number | null }
  | { of: 'tempo'; from: number | null; to: number | null }
  | { of: 'told'; from: Told; to: Told }
  | { of: 'music'; from: string; to: string }
  | { of: 'name'; what: 'title' | 'part'; from: string; to: string }
  | { of: 'composer'; from: string | null; to: string | null };

/** All that differs, in the order of the names of things. Nothing for two states of the same content. */
export function changesBetween(before: Frozen, after: Frozen): HandoutChange[] {
  const changes: HandoutChange[] = [];
  if (before.music !== after.music) changes.push({ of: 'music', from: before.music, to: after.music });
  for (const what of ['title', 'part'] as const) if (before[what] !== after[what]) changes.push({ of: 'name', what, from: before[what], to: after[what] });
  if (before.composer !== after.composer) changes.push({ of: 'composer', from: before.composer, to: after.composer });
  if (before.tempo !== after.tempo) changes.push({ of: 'tempo', from: before.tempo, to: after.tempo });
  if (JSON.stringify(before.told) !== JSON.stringify(after.told)) changes.push({ of: 'told', from: before.told, to: after.told });
  for (const [key, from, to] of differing<string>(before.marks, after.marks)) changes.push({ of: 'mark', key, from, to });
  for (const player of bothKeys(before.own, after.own))
    for (const [key, from, to] of differing<string | false>(before.own[player] ?? {}, after.own[player] ?? {}))
      changes.push({ of: 'own mark', player, key, from, to });
  for (const [player, from, to] of differing<number>(before.lines, after.lines)) changes.push({ of: 'line', player, from, to });
  return changes;
}

/** @throws RangeError where a change is not about what is there */
export function withChanges(before: Frozen, changes: readonly HandoutChange[]): Frozen {
  return changes.reduce(changed, before);
}

function changed(now: Frozen, change: HandoutChange): Frozen {
  const expect = (there: unknown): void => {
    if (JSON.stringify(there) !== JSON.stringify(change.from)) throw new RangeError(`not what is there: ${JSON.stringify(change)}`);
  };
  switch (change.of) {
    case 'mark':
      expect(now.marks[change.key] ?? null);
      return { ...now, marks: put(now.marks, change.key, change.to) };
    case 'own mark': {
      const own: SaidAlone = now.own[change.player] ?? {};
      expect(own[change.key] ?? null);
      const next = put<string | false>(own, change.key, change.to);
      return { ...now, own: put(now.own, change.player, Object.keys(next).length ? next : null) };
    }
    case 'line':
      expect(now.lines[change.player] ?? null);
      return { ...now, lines: put(now.lines, change.player, change.to) };
    case 'name':
      expect(now[change.what]);
      return { ...now, [change.what]: change.to };
    default:
      expect(now[change.of]);
      return { ...now, [change.of]: change.to };
  }
}

function put<T>(record: Readonly<Record<string, T>>, key: string, to: T | null): Record<string, T> {
  const { [key]: _, ...others } = record;
  return to === null ? others : { ...others, [key]: to };
}

const bothKeys = (a: object, b: object): string[] => [...new Set([...Object.keys(a), ...Object.keys(b)])].sort();

function differing<T>(before: Readonly<Record<string, T>>, after: Readonly<Record<string, T>>): Array<[string, T | null, T | null]> {
  return bothKeys(before, after).flatMap((key): Array<[string, T | null, T | null]> => {
    const [from, to]: [T | null, T | null] = [before[key] ?? null, after[key] ?? null];
    return from === to ? [] : [[key, from, to]];
  });
}
