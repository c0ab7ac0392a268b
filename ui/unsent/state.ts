/** The state of what is not sent yet, and the one function that changes it. */
import type { Problem } from '@/core/util/problem-shape';
import { laneOf, type Entry } from './entry';
import type { Clash } from './transport';

export type Way =
  | { to: 'idle' }
  /** `again` says why the attempt before came to nothing. */
  | { to: 'sending'; again: Problem | null }
  /** Nothing is sent until then; why the last attempt came to nothing. */
  | { to: 'waiting'; until: number; problem: Problem };

export interface UnsentState {
  /** What the browser had kept is known. */
  loaded: boolean;
  /** In the order in which they were made; those that are refused among them. */
  entries: readonly Entry[];
  way: Way;
  /** Lanes that wait for the coach to decide. */
  clashes: Readonly<Record<string, Clash>>;
  /** Entries that this browser could not keep: only this page has them. */
  onlyHere: ReadonlySet<string>;
  /** Ids that are settled: what is heard of them later, from another tab, is old news. */
  gone: ReadonlySet<string>;
}

export const NOTHING_UNSENT: UnsentState = { loaded: false, entries: [], way: { to: 'idle' }, clashes: {}, onlyHere: new Set(), gone: new Set() };

export type UnsentEvent =
  | { is: 'loaded'; entries: readonly Entry[] }
  | { is: 'made'; entry: Entry }
  | { is: 'kept'; entry: Entry }
  | { is: 'not kept'; id: string }
  | { is: 'stored'; ids: readonly string[] }
  | { is: 'clash'; lane: string; clash: Clash }
  /** A lane was decided on, or one of its entries was set aside: these are its entries now. */
  | { is: 'rewritten'; lane: string; entries: readonly Entry[]; gone: readonly string[] }
  | { is: 'way'; way: Way };

export function unsent(state: UnsentState, event: UnsentEvent): UnsentState {
  switch (event.is) {
    case 'loaded': {
      const found = event.entries.filter(({ id }) => !state.gone.has(id));
      const known = new Set(found.map(({ id }) => id));
      return { ...state, loaded: true, entries: inOrder([...found, ...state.entries.filter(({ id }) => !known.has(id))]) };
    }
    case 'made':
      return has(state, event.entry.id) ? state : { ...state, entries: [...state.entries, event.entry] };
    case 'kept': {
      if (state.gone.has(event.entry.id)) return state;
      const others = state.entries.filter(({ id }) => id !== event.entry.id);
      return { ...state, entries: inOrder([...others, event.entry]) };
    }
    case 'not kept':
      return { ...state, onlyHere: new Set([...state.onlyHere, event.id]) };
    case 'stored': {
      const gone = new Set(event.ids);
      return { ...state, gone: remembered(state.gone, event.ids), entries: state.entries.filter(({ id }) => !gone.has(id)) };
    }
    case 'clash':
      return { ...state, clashes: { ...state.clashes, [event.lane]: event.clash } };
    case 'rewritten': {
      const { [event.lane]: _, ...clashes } = state.clashes;
      const settled = new Set([...event.gone, ...event.entries.map(({ id }) => id)]);
      // What was made meanwhile stays; the event does not know of it.
      const others = state.entries.filter(({ id }) => !settled.has(id));
      return { ...state, clashes, gone: remembered(state.gone, event.gone), entries: inOrder([...others, ...event.entries]) };
    }
    case 'way':
      return { ...state, way: event.way };
  }
}

const has = (state: UnsentState, id: string): boolean => state.entries.some((entry) => entry.id === id);

const MOST_REMEMBERED = 2_000;
const remembered = (gone: ReadonlySet<string>, more: readonly string[]): ReadonlySet<string> => new Set([...gone, ...more].slice(-MOST_REMEMBERED));

/** As the browser numbered them; what it has not kept yet was made last. */
function inOrder(entries: readonly Entry[]): Entry[] {
  const [kept, others] = [entries.filter(({ seq }) => seq !== null), entries.filter(({ seq }) => seq === null)];
  return [...kept.sort((a, b) => a.seq! - b.seq!), ...others];
}

/** What the screen says. */
export type SaveState =
  | 'saved'
  /** On its way; not yet known to be stored anywhere. */
  | 'saving'
  /** The server does not answer; on this browser's disk. */
  | 'waiting'
  /** The server does not answer, and this browser keeps nothing: only this page has it. */
  | 'only here'
  | 'conflict'
  /** Something was refused for good and is set aside. */
  | 'refused';

export function saveState({ entries, clashes, way, onlyHere }: UnsentState): SaveState {
  if (Object.keys(clashes).length) return 'conflict';
  const open = entries.filter(({ refused }) => !refused);
  if (open.length === 0) return entries.length ? 'refused' : 'saved';
  if (open.some(({ id }) => onlyHere.has(id))) return 'only here';
  if (open.some(({ seq }) => seq === null)) return 'saving';
  return whyNot(way) ? 'waiting' : 'saving';
}

/** Something would be lost with this page: it is not on the browser's disk, or not yet. */
export const isLostWithPage = ({ entries }: UnsentState): boolean => entries.some(({ seq }) => seq === null);

/** Why nothing could be sent lately; null while all is well. */
export const whyNot = (way: Way): Problem | null => (way.to === 'waiting' ? way.problem : way.to === 'sending' ? way.again : null);

/** Entries that are to be sent now, in order: not those that are refused, nor those of a lane that waits for a decision. */
export const sendable = (entries: readonly Entry[], clashes: UnsentState['clashes']): Entry[] =>
  entries.filter(({ refused, body }) => !refused && !(laneOf(body) in clashes));
