/**
 * One chain for all that the coach does on a part in a visit: marks (whose own stacks outlive the visit), passages, settings, and
 * marks that were written into another part. What was done last is taken back first, whatever it was.
 */

/** The last step of some stack: when it was done (or taken back), what it was, and how it is undone or redone. */
export interface Step {
  /** ISO 8601 time. */
  at: string;
  /** In words: "Finger 3", "tempo 72". */
  what: string;
  act(): void;
}

export interface Deed {
  what: string;
  undo(): void;
  redo(): void;
}

type Timed = Deed & { at: string };

/** Steps that marks can take back, or redo: of every marking that is open. */
export interface MarkSteps {
  undo: readonly Step[];
  redo: readonly Step[];
}

export class UndoChain {
  private done: readonly Timed[] = [];
  /** `at`: when they were taken back. */
  private undone: readonly Timed[] = [];
  /** The latest time that something new was done: what was taken back before it cannot be redone. */
  private freshAt = '';
  private lastAt = '';
  private readonly listeners = new Set<() => void>();
  private version = 0;

  constructor(private readonly now: () => string = () => new Date().toISOString()) {}

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  readonly snapshot = (): number => this.version;

  /** Something other than a mark was done. */
  did(deed: Deed): void {
    const at = this.time();
    this.done = [...this.done, { ...deed, at }];
    this.fresh(at);
  }

  /** A mark was made: its own stacks have it. */
  marked(): void {
    this.fresh(this.time());
  }

  /** What would be taken back now; null where there is nothing. */
  toUndo(marks: MarkSteps): Step | null {
    const last = this.done.at(-1);
    return latest([...marks.undo, ...(last ? [{ at: last.at, what: last.what, act: () => this.takeBack() }] : [])]);
  }

  /** What would be done again now. */
  toRedo(marks: MarkSteps): Step | null {
    const last = this.undone.at(-1);
    const steps = [...marks.redo, ...(last ? [{ at: last.at, what: last.what, act: () => this.doAgain() }] : [])];
    return latest(steps.filter(({ at }) => at > this.freshAt));
  }

  private takeBack(): void {
    const last = this.done.at(-1)!;
    this.done = this.done.slice(0, -1);
    this.undone = [...this.undone, { ...last, at: this.time() }];
    last.undo();
    this.changed();
  }

  private doAgain(): void {
    const last = this.undone.at(-1)!;
    this.undone = this.undone.slice(0, -1);
    this.done = [...this.done, { ...last, at: this.time() }];
    last.redo();
    this.changed();
  }

  private fresh(at: string): void {
    this.undone = [];
    this.freshAt = at;
    this.changed();
  }

  /** Now, and later than the last time that was given: two deeds of one moment keep their order. */
  private time(): string {
    const now = this.now();
    this.lastAt = now > this.lastAt ? now : new Date(Date.parse(this.lastAt) + 1).toISOString();
    return this.lastAt;
  }

  private changed(): void {
    this.version++;
    this.listeners.forEach((listener) => listener());
  }
}

const latest = (steps: readonly Step[]): Step | null => steps.reduce<Step | null>((best, step) => (best === null || step.at > best.at ? step : best), null);
