/**
 * The marking as the browser holds it: every change is applied at once and handed to the outbox, which keeps and sends it; what is
 * made in another tab is applied here too. A clash with somebody else's change is shown, never overwritten; until it is settled,
 * more marks can be made and are kept.
 */
import { applyChanges, sameMark, written, type Change, type ChangeSet } from '@/core/marking/change';
import { pushed, stacksOf, undoing, type Stacks } from '@/core/marking/history';
import { markKey, type Mark, type Marking } from '@/core/marking/mark';
import type { MarkKind } from '@/core/marking/kinds';
import { rewound, type Whose } from '@/core/marking/rebase';
import { LIMITS } from '@/core/util/limits';
import { cleanText, shortened } from '@/core/util/text';

/** One mark that two people changed. */
export interface ClashedMark {
  key: string;
  target: string;
  kind: MarkKind;
  mine: Mark | null;
  theirs: Mark | null;
}

export interface MarkingState {
  marking: Marking;
  stacks: Stacks;
  /** Not stored yet, in order. */
  pending: readonly ChangeSet[];
  clash: readonly ClashedMark[] | null;
}

/** Where changes go and what is heard of them. */
export interface MarkingOutbox {
  add(set: ChangeSet): void;
  /** What an earlier visit left, in order; before it what was stored while this page has been here. */
  left(): Promise<{ stored: ChangeSet[]; waiting: ChangeSet[] }>;
  settle(whose: (key: string) => Whose): Promise<void>;
  follow(listener: (event: MarkingNews) => void): () => void;
  newId(): string;
  now(): string;
}

export type MarkingNews =
  | { is: 'made elsewhere'; set: ChangeSet }
  | { is: 'stored elsewhere'; set: ChangeSet }
  | { is: 'stored'; ids: readonly string[] }
  | { is: 'clash'; stored: Marking }
  | { is: 'rewritten'; sets: readonly ChangeSet[]; base: Marking | null };

export class MarkingStore {
  private state: MarkingState;
  private readonly listeners = new Set<() => void>();
  private readonly known: ReadonlySet<string>;
  /** Made before it was known what an earlier visit left. */
  private early: Array<() => void> | null = [];
  private opened = false;

  constructor(
    marking: Marking,
    history: readonly ChangeSet[],
    private readonly outbox: MarkingOutbox,
  ) {
    this.state = { marking, stacks: stacksOf(history), pending: [], clash: null };
    this.known = new Set(history.map((set) => set.id));
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  readonly snapshot = (): MarkingState => this.state;

  /** @param together shared by all that is done at once, here and elsewhere */
  apply(reason: string, changes: readonly Change[], together?: string): void {
    if (changes.length === 0) return;
    this.whenOpen(() => {
      // A text of which nothing is left when it is clean changes nothing.
      const clean = changes.map(cleaned).filter(({ to }) => to === null || to.value !== '');
      const { newId, now } = this.outbox;
      const set = { id: newId(), at: now(), reason: reasonText(reason), changes: clean, undoes: null, ...(together ? { together } : {}) };
      if (clean.length) this.add(set);
    });
  }

  undo(): void {
    this.whenOpen(() => this.takeBackNow(this.state.stacks.undo.at(-1)));
  }

  redo(): void {
    this.whenOpen(() => this.takeBackNow(this.state.stacks.redo.at(-1)));
  }

  /** Takes one set back, wherever in the stacks it is. */
  takeBack(set: ChangeSet): void {
    this.whenOpen(() => this.takeBackNow(set));
  }

  private takeBackNow(last: ChangeSet | undefined): void {
    if (!last) return;
    const set = undoing(last, this.outbox.newId(), this.outbox.now());
    this.add({ ...set, reason: reasonText(set.reason) });
  }

  /** Settles a clash mark by mark; what did not clash is not touched. */
  settle(whose: (key: string) => Whose): void {
    if (this.state.clash) void this.outbox.settle(whose);
  }

  /** Puts on top what an earlier visit or another tab could not send yet, then follows the outbox; once, when the page has come to life. */
  open(): void {
    if (this.opened) return;
    this.opened = true;
    void this.outbox.left().then(({ stored, waiting }) => {
      this.catchUp(stored);
      for (const set of waiting) this.putOnTop(set);
      // Nothing is missed in between: what is left and what is heard next are one after the other.
      this.outbox.follow((news) => this.hear(news));
      const early = this.early ?? [];
      this.early = null;
      early.forEach((make) => make());
    });
  }

  /** A change made in the first moments waits until what was made before it is there. */
  private whenOpen(make: () => void): void {
    if (this.early) this.early.push(make);
    else make();
  }

  private add(made: ChangeSet): void {
    // What a change was made on is what is there now: something may have come in since.
    const set = this.state.pending.length && made.undoes === null ? { ...made, changes: made.changes.map((change) => this.onWhatIsThere(change)) } : made;
    const applied = applyChanges(this.state.marking, set.changes);
    if (applied.conflicts.length) return;
    this.set({ marking: applied.marking, stacks: pushed(this.state.stacks, set), pending: [...this.state.pending, set] });
    this.outbox.add(set);
  }

  private onWhatIsThere(change: Change): Change {
    const there = this.state.marking[markKey(change.target, change.kind)] ?? null;
    return sameMark(there, change.from) ? change : { ...change, from: there };
  }

  /** The marking that we were given may have been read before the latest of ours were stored: those after the last that it knows. */
  private catchUp(stored: readonly ChangeSet[]): void {
    const from = stored.findLastIndex(({ id }) => this.known.has(id)) + 1;
    for (const set of stored.slice(from)) {
      const { marking, conflicts } = applyChanges(this.state.marking, set.changes);
      if (conflicts.length === 0) this.set({ marking, stacks: pushed(this.state.stacks, set) });
    }
  }

  private putOnTop(set: ChangeSet): void {
    if (this.known.has(set.id) || this.state.pending.some(({ id }) => id === set.id)) return;
    const { marking, conflicts } = applyChanges(this.state.marking, set.changes);
    const pending = [...this.state.pending, set];
    if (conflicts.length === 0) return this.set({ marking, stacks: pushed(this.state.stacks, set), pending });
    // It does not fit on what is stored: what the coach did is shown until it is decided whose stands.
    this.set({ marking: written(this.state.marking, set.changes), pending });
  }

  /**
   * What somebody else has stored comes in beneath what waits here. Where both changed the same mark, ours is shown until it is
   * sent and the clash is told; what they did is no step of ours that could be taken back here.
   */
  private putBeneath(set: ChangeSet): void {
    if (this.known.has(set.id) || set.boundary) return;
    const ours = new Set(this.state.pending.flatMap(({ changes }) => changes.map(({ target, kind }) => markKey(target, kind))));
    const theirs = set.changes.filter(({ target, kind }) => !ours.has(markKey(target, kind)));
    if (theirs.length) this.set({ marking: written(this.state.marking, theirs) });
  }

  private hear(news: MarkingNews): void {
    switch (news.is) {
      case 'made elsewhere':
        return this.putOnTop(news.set);
      case 'stored elsewhere':
        return this.putBeneath(news.set);
      case 'stored': {
        const gone = new Set(news.ids);
        return this.set({ pending: this.state.pending.filter(({ id }) => !gone.has(id)) });
      }
      case 'clash': {
        const clash = clashedMarks(this.state, news.stored);
        // Both did the same, or it was ourselves: there is nothing to decide.
        if (clash.length === 0) return void this.outbox.settle(() => 'mine');
        return this.set({ clash });
      }
      case 'rewritten': {
        const base = news.base ?? rewound(this.state.marking, this.state.pending);
        const marking = news.sets.reduce((now, set) => applyChanges(now, set.changes).marking, base);
        const pendingIds = new Set(this.state.pending.map(({ id }) => id));
        // What is stored can be taken back as before where it still fits; what waits is as it is now.
        const undo = news.base ? [] : this.state.stacks.undo.filter(({ id }) => !pendingIds.has(id));
        const stacks = news.sets.reduce<Stacks>(pushed, { undo, redo: [], freshAt: this.state.stacks.freshAt });
        return this.set({ marking, stacks, pending: news.sets, clash: null });
      }
    }
  }

  private set(change: Partial<MarkingState>): void {
    this.state = { ...this.state, ...change };
    this.listeners.forEach((listener) => listener());
  }
}

const reasonText = (reason: string): string => shortened(cleanText(reason).trim() || 'Change', LIMITS.reason);

/** Text as it can be stored and stand in a file. */
function cleaned(change: Change): Change {
  const { to } = change;
  if (!to) return change;
  const why = to.why === undefined ? undefined : cleanText(to.why).trim();
  const { why: _, ...rest } = to;
  return { ...change, to: { ...rest, value: cleanText(to.value), ...(why ? { why } : {}) } };
}

/** Every mark that is neither what I changed it from nor what I made of it. */
function clashedMarks({ marking, pending }: Pick<MarkingState, 'marking' | 'pending'>, stored: Marking): ClashedMark[] {
  const before = rewound(marking, pending);
  const keys = new Map<string, Change>();
  for (const { changes } of pending) for (const change of changes) keys.set(markKey(change.target, change.kind), change);
  return [...keys].flatMap(([key, { target, kind, to: mine }]) => {
    const theirs = stored[key] ?? null;
    return sameMark(theirs, before[key]) || sameMark(theirs, mine) ? [] : [{ key, target, kind, mine, theirs }];
  });
}
