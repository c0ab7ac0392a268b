/**
 * The marking as the browser holds it: every change is applied at once, kept in local storage until the
 * server has it, sent in order, and can be taken back. A clash with someone else's change is shown, never
 * overwritten; until it is settled, more marks can be made and are kept.
 */
import { applyChanges, type Change, type ChangeSet, type Conflict } from '@/core/marking/change';
import { pushed, stacksOf, undoing, type Stacks } from '@/core/marking/history';
import { markKey, type Marking } from '@/core/marking/mark';

export type SaveState = 'saved' | 'saving' | 'waiting' | 'conflict';

export interface MarkingState {
  marking: Marking;
  stacks: Stacks;
  save: SaveState;
  pending: readonly ChangeSet[];
  conflict: { conflicts: Conflict[]; theirs: Marking } | null;
}

export type Answer = { status: number; body: unknown } | null;

/** What the store needs from its surroundings, so that it can be tested without a browser. */
export interface Surroundings {
  send(sets: readonly ChangeSet[]): Promise<Answer>;
  load(): ChangeSet[];
  keep(sets: readonly ChangeSet[]): void;
  later(task: () => void, ms: number): void;
  newId(): string;
  now(): string;
}

const RETRY_MS = 2000;

export class MarkingStore {
  private state: MarkingState;
  private readonly listeners = new Set<() => void>();
  private sending = false;
  private restored = false;
  private readonly known: ReadonlySet<string>;

  constructor(
    marking: Marking,
    history: readonly ChangeSet[],
    private readonly around: Surroundings,
  ) {
    this.state = { marking, stacks: stacksOf(history), save: 'saved', pending: [], conflict: null };
    this.known = new Set(history.map((set) => set.id));
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  readonly snapshot = (): MarkingState => this.state;

  apply(reason: string, changes: readonly Change[]): void {
    if (changes.length === 0) return;
    this.add({ id: this.around.newId(), at: this.around.now(), reason, changes: [...changes], undoes: null });
  }

  undo(): void {
    const last = this.state.stacks.undo.at(-1);
    if (last) this.add(undoing(last, this.around.newId(), this.around.now()));
  }

  redo(): void {
    const last = this.state.stacks.redo.at(-1);
    if (last) this.add(undoing(last, this.around.newId(), this.around.now()));
  }

  /** Settles a clash: the own unsaved changes are put on top of what is stored, or let go. */
  settle(keepMine: boolean): void {
    const { conflict, pending } = this.state;
    if (!conflict) return;
    let marking = conflict.theirs;
    const rebased: ChangeSet[] = [];
    for (const set of keepMine ? pending : []) {
      const changes = set.changes.map((change) => ({ ...change, from: marking[markKey(change.target, change.kind)] ?? null }));
      marking = applyChanges(marking, changes).marking;
      rebased.push({ ...set, id: this.around.newId(), changes, undoes: null });
    }
    this.around.keep(rebased);
    this.set({ marking, pending: rebased, conflict: null, stacks: { undo: rebased, redo: [] }, save: rebased.length ? 'saving' : 'saved' });
    void this.flush();
  }

  /** Puts on top what an earlier visit could not send; once, when the page has come to life. */
  restore(): void {
    if (this.restored) return;
    this.restored = true;
    const left = this.around.load().filter((set) => !this.known.has(set.id));
    if (left.length === 0) return this.around.keep(this.state.pending);
    let { marking, stacks } = this.state;
    for (const set of left) {
      const applied = applyChanges(marking, set.changes);
      marking = applied.marking;
      if (applied.conflicts.length === 0) stacks = pushed(stacks, set);
    }
    this.set({ marking, stacks, pending: left, save: 'saving' });
    void this.flush();
  }

  private add(set: ChangeSet): void {
    const applied = applyChanges(this.state.marking, set.changes);
    if (applied.conflicts.length) return;
    const pending = [...this.state.pending, set];
    this.around.keep(pending);
    this.set({ marking: applied.marking, stacks: pushed(this.state.stacks, set), pending, save: this.state.conflict ? 'conflict' : 'saving' });
    void this.flush();
  }

  private async flush(): Promise<void> {
    if (this.sending || this.state.conflict || this.state.pending.length === 0) return;
    this.sending = true;
    const sent = this.state.pending;
    const answer = await this.around.send(sent);
    this.sending = false;
    if (answer?.status === 200) {
      const pending = this.state.pending.slice(sent.length);
      this.around.keep(pending);
      this.set({ pending, save: pending.length ? 'saving' : 'saved' });
      return this.flush();
    }
    if (answer?.status === 409) {
      const { conflicts, marking } = answer.body as { conflicts: Conflict[]; marking: Marking };
      return this.set({ conflict: { conflicts, theirs: marking }, save: 'conflict' });
    }
    this.set({ save: 'waiting' });
    this.around.later(() => void this.flush(), RETRY_MS);
  }

  private set(change: Partial<MarkingState>): void {
    this.state = { ...this.state, ...change };
    this.listeners.forEach((listener) => listener());
  }
}
