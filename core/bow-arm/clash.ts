/**
 * Marks that no bowing can meet together: found by asking, for ever larger sets of marks, whether any bow could do them all,
 * with directions, hooks, retakes, slurs and places of the bow as they are, and everything else free.
 */
import type { Atom } from './atoms';
import { dynamicAt, preferredLengthCm, type Stretch } from './stroke';
import { REST_SECONDS, STROKES } from './tables';

export interface Lock {
  atom: number;
  noteId: string;
  kind: 'bow' | 'hook' | 'retake' | 'join' | 'bow-from' | 'bow-to';
  value: string;
  place: Stretch | null;
}

/** Marks around an atom that take part in a clash, atoms to either side. */
const REACH = 6;

/** Marks of one clash at most; larger sets are not looked for. */
const LARGEST = 4;

/** The smallest set of marks, one at this atom among them, that cannot all be met; null where none is found. */
export function smallestClash(atoms: readonly Atom[], at: number, joined: ReadonlySet<number>, hairCm: number): Lock[] | null {
  const from = Math.max(0, at - REACH);
  const row = atoms.slice(from, at + REACH + 1);
  const locks = row.flatMap((atom, i) => locksOf(atom, i, joined.has(from + i)));
  const here = locks.filter((lock) => lock.atom === at - from);
  const near = locks
    .filter((lock) => lock.atom !== at - from)
    .sort((a, b) => Math.abs(a.atom - (at - from)) - Math.abs(b.atom - (at - from)))
    .slice(0, 10);
  const all = [...here, ...near];
  for (let size = 1; size <= LARGEST; size++) {
    for (const set of subsets(all, size)) {
      if (!set.some((lock) => here.includes(lock))) continue;
      if (!possible(row, set, hairCm)) return set.map((lock) => ({ ...lock, atom: lock.atom + from }));
    }
  }
  return null;
}

function locksOf(atom: Atom, index: number, joined: boolean): Lock[] {
  const lock = (kind: Lock['kind'], value: string, place: Stretch | null = null): Lock => ({ atom: index, noteId: atom.ids[0]!, kind, value, place });
  return [
    ...(atom.lock ? [lock('bow', atom.lock)] : []),
    ...(atom.hookAsked ? [lock('hook', 'yes')] : []),
    ...(atom.mustRetake ? [lock('retake', 'yes')] : []),
    ...(joined ? [lock('join', 'yes')] : []),
    ...(atom.wish?.from ? [lock('bow-from', 'here', atom.wish.from)] : []),
    ...(atom.wish?.to ? [lock('bow-to', 'here', atom.wish.to)] : []),
  ];
}

function* subsets<T>(items: readonly T[], size: number, from = 0): Generator<T[]> {
  if (size === 0) {
    yield [];
    return;
  }
  for (let i = from; i <= items.length - size; i++) for (const rest of subsets(items, size - 1, i + 1)) yield [items[i]!, ...rest];
}

/** Places on the bow for this question. */
const PLACES = 21;
const placeOf = (k: number): number => k / (PLACES - 1);

/** Within this much of a wished place it is met. */
const NEAR = 0.03;

/** Share of the length it would like that a stroke has at least (judgement). */
const LEAST_SHARE = 0.6;

/** Cells that a stroke has at least. */
function shortest(atoms: readonly Atom[], from: number, to: number, hairCm: number): number {
  const seconds = atoms[to]!.onsetS + atoms[to]!.seconds - atoms[from]!.onsetS;
  const cm = preferredLengthCm(dynamicAt(atoms[from]!.steps).preferred, STROKES[atoms[from]!.kind].speed, seconds, hairCm) * LEAST_SHARE;
  return Math.max(1, Math.min(PLACES / 2, Math.round((cm / hairCm) * (PLACES - 1))));
}

/**
 * Whether a bow could meet all these marks: reachability over where the bow is and which way it went last. A slur is kept
 * where no mark cuts it.
 */
export function possible(atoms: readonly Atom[], locks: readonly Lock[], hairCm: number): boolean {
  const at = (index: number, kind: Lock['kind']) => locks.find((lock) => lock.atom === index && lock.kind === kind);
  const fits = (lock: Lock | undefined, k: number) => !lock?.place || (placeOf(k) >= lock.place.from - NEAR && placeOf(k) <= lock.place.to + NEAR);
  /** Reachable ends: place and last direction (0 down, 1 up). */
  let ends = new Set<number>();
  for (let from = 0; from < atoms.length;) {
    let to = from;
    while (to + 1 < atoms.length && (at(to + 1, 'join') || (atoms[to + 1]!.linked && !at(to + 1, 'bow') && !at(to + 1, 'hook') && !at(to + 1, 'retake')))) to++;
    const next = new Set<number>();
    const inside = (kind: Lock['kind'], first = from) => locks.filter((lock) => lock.kind === kind && lock.atom >= first && lock.atom <= to);
    // A mark for a beginning inside a joined stroke cannot be met.
    if (inside('bow', from + 1).length || inside('hook', from + 1).length || inside('retake', from + 1).length || inside('bow-from', from + 1).length)
      return false;
    const silent = atoms[from]!.silenceS >= REST_SECONDS || from === 0;
    const [bow, hook, retake, place] = [at(from, 'bow'), at(from, 'hook'), at(from, 'retake'), at(from, 'bow-from')];
    if (hook && (from === 0 || (silent && from > 0))) return false;
    if (hook && retake) return false;
    const ending = inside('bow-to').at(-1);
    const length = shortest(atoms, from, to, hairCm);
    for (let direction = 0; direction < 2; direction++) {
      if (bow && (bow.value === 'down') !== (direction === 0)) continue;
      for (let start = 0; start < PLACES; start++) {
        if (!fits(place, start) || !reachable(ends, start, direction, { first: from === 0, silent, hook: hook !== undefined, retake: retake !== undefined }))
          continue;
        for (let end = direction === 0 ? start + length : 0; end <= (direction === 0 ? PLACES - 1 : start - length); end++) {
          if (fits(ending, end)) next.add(end * 2 + direction);
        }
      }
    }
    if (next.size === 0) return false;
    ends = next;
    from = to + 1;
  }
  return true;
}

function reachable(
  ends: ReadonlySet<number>,
  start: number,
  direction: number,
  how: { first: boolean; silent: boolean; hook: boolean; retake: boolean },
): boolean {
  if (how.first) return true;
  if (how.silent) return ends.size > 0;
  if (how.hook) return ends.has(start * 2 + direction);
  for (let last = 0; last < PLACES; last++) {
    // A retake brings the bow back, to go the same way again.
    const back = direction === 0 ? last > start : last < start;
    if (back && ends.has(last * 2 + direction)) return true;
  }
  if (how.retake) return false;
  return ends.has(start * 2) || ends.has(start * 2 + 1);
}

/** A mark in words. */
export function lockInWords({ kind, value, place }: Lock): string {
  if (kind === 'bow') return `${value}-bow`;
  if (kind === 'join') return 'joined to the note before';
  if (kind === 'bow-from' || kind === 'bow-to') {
    const at = place!.to <= 0.15 ? 'at the frog' : place!.from >= 0.85 ? 'at the tip' : `at ${Math.round(((place!.from + place!.to) / 2) * 100)} % of the bow`;
    return kind === 'bow-from' ? `begins ${at}` : `ends ${at}`;
  }
  return kind;
}
