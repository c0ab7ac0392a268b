/** Keeps the check of a part up with its marks: the passage on view at once, the whole part as soon as nothing is typed for a moment. */
import type { Passage } from '@/core/score/passages';
import type { BarRange } from '@/core/score/bars';
import type { Report } from '@/core/checks/check';
import { withNear, type NearReport } from '@/core/checks/near';
import type { Conditions } from '@/workers/questions';

/** What is to be checked. */
export interface Wanted {
  conditions: Conditions;
  passages: readonly Passage[];
  /** How much is known of the other parts: more of it, another check. */
  known: number;
  /** The passage on view; null where only the whole is of use. */
  range: BarRange | null;
}

export interface CheckShown {
  report: Report | null;
  /** It is of the whole part as it is marked now. */
  whole: boolean;
  failed: boolean;
}

export const NOT_CHECKED_YET: CheckShown = { report: null, whole: false, failed: false };

interface Checker {
  near(conditions: Conditions, passages: readonly Passage[], range: BarRange): Promise<NearReport>;
  report(conditions: Conditions, passages: readonly Passage[]): Promise<Report>;
}

/** The whole part is left for when nothing was typed for this long, in ms: whoever types on gets the passage first. */
export const QUIET_MS = 250;

export class Checking {
  private wanted: Wanted | null = null;
  private report: Report | null = null;
  private everWhole = false;
  /** What the last answers were about. */
  private nearFor: Conditions | null = null;
  private wholeFor: Wanted | null = null;
  private changedAt = -Infinity;
  private busy = false;
  private ended = false;
  private timer: ReturnType<typeof setTimeout> | null = null;

  constructor(
    private readonly checker: Checker,
    private readonly show: (shown: CheckShown) => void,
    private readonly now: () => number = () => performance.now(),
  ) {}

  want(wanted: Wanted): void {
    if (this.wanted && this.wanted.conditions !== wanted.conditions) this.changedAt = this.now();
    this.wanted = wanted;
    void this.next();
  }

  end(): void {
    this.ended = true;
    if (this.timer) clearTimeout(this.timer);
  }

  /** One question at a time: the passage where it was not answered yet, then the whole, when it is quiet. */
  private async next(): Promise<void> {
    const { wanted } = this;
    if (this.busy || this.ended || !wanted || this.wholeFor === wanted) return;
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
    const { range, conditions } = wanted;
    const hasNear = this.nearFor === conditions || this.wholeFor?.conditions === conditions;
    if (range && !hasNear) await this.ask(() => this.askNear(wanted, range));
    else {
      const left = this.everWhole ? this.changedAt + QUIET_MS - this.now() : 0;
      if (left > 0) {
        this.timer = setTimeout(() => void this.next(), left);
        return;
      }
      await this.ask(() => this.askWhole(wanted));
    }
    void this.next();
  }

  private async ask(question: () => Promise<void>): Promise<void> {
    this.busy = true;
    await question();
    this.busy = false;
  }

  private async askNear(wanted: Wanted, range: BarRange): Promise<void> {
    this.nearFor = wanted.conditions;
    try {
      const near = await this.checker.near(wanted.conditions, wanted.passages, range);
      this.report = withNear(this.report, near);
    } catch {
      // The whole check, which follows, says what is wrong.
      return;
    }
    this.tell({ report: this.report, whole: false, failed: false });
  }

  private async askWhole(wanted: Wanted): Promise<void> {
    this.wholeFor = wanted;
    try {
      this.report = await this.checker.report(wanted.conditions, wanted.passages);
      this.everWhole = true;
      // Of marks that are history by now: the passage as it is comes first.
      if (this.wanted?.conditions === wanted.conditions || !wanted.range) this.tell({ report: this.report, whole: this.wanted === wanted, failed: false });
    } catch {
      this.tell({ report: this.report, whole: false, failed: true });
    }
  }

  private tell(shown: CheckShown): void {
    if (!this.ended) this.show(shown);
  }
}
