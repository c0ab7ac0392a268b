/** Keeps the check of a part up with its marks: the passage on view at once, the whole part as soon as nothing is typed for a moment, then the tempi that it works at. */
import type { Passage } from '@/core/score/passages';
import type { BarRange } from '@/core/score/bars';
import type { Report } from '@/core/checks/check';
import { withNear, type NearReport } from '@/core/checks/near';
import type { Tempi } from '@/core/checks/tempi';
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
  /** The best over plans; null until they are known for this player and tempo. After a mark those of before stay until the new ones come. */
  tempi: Tempi | null;
  /** What was asked when it was answered: anything else is not checked yet. */
  of: Wanted | null;
}

export const NOT_CHECKED_YET: CheckShown = { report: null, whole: false, failed: false, tempi: null, of: null };

interface Checker {
  near(conditions: Conditions, passages: readonly Passage[], range: BarRange): Promise<NearReport>;
  /** Null where it was given up for something newer. */
  report(conditions: Conditions, passages: readonly Passage[]): Promise<Report | null>;
  /** After the report for the same; null where it was given up. */
  tempi(conditions: Conditions, passages: readonly Passage[]): Promise<Tempi | null>;
}

/** The whole part is left for when nothing was typed for this long, in ms: whoever types on gets the passage first. */
export const QUIET_MS = 250;

/** They differ in their marks at most. */
const isMarkedOnly = (a: Conditions, b: Conditions): boolean =>
  (Object.keys(b) as Array<keyof Conditions>).every((key) => key === 'marking' || a[key] === b[key]);

export class Checking {
  private wanted: Wanted | null = null;
  private report: Report | null = null;
  private reportFor: Conditions | null = null;
  private everWhole = false;
  /** What the last answers were about. */
  private nearFor: Conditions | null = null;
  private wholeFor: Wanted | null = null;
  private tempiFor: Wanted | null = null;
  private tempi: Tempi | null = null;
  private changedAt = -Infinity;
  private asksNear = false;
  private asksWhole = false;
  private asksTempi = false;
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
    this.next();
  }

  end(): void {
    this.ended = true;
    if (this.timer) clearTimeout(this.timer);
  }

  /** The passage where it was not answered yet, also while the whole is being checked; then the whole, when it is quiet. */
  private next(): void {
    const { wanted } = this;
    if (this.ended || !wanted) return;
    const { range, conditions } = wanted;
    const hasNear = !range || this.nearFor === conditions || this.wholeFor?.conditions === conditions;
    if (!hasNear) {
      if (!this.asksNear) void this.askNear(wanted, range);
      return;
    }
    if (this.asksNear || this.asksWhole || this.asksTempi) return;
    if (this.wholeFor === wanted) {
      if (this.tempiFor !== wanted) void this.askTempi(wanted);
      return;
    }
    if (this.timer) clearTimeout(this.timer);
    const left = this.everWhole ? this.changedAt + QUIET_MS - this.now() : 0;
    if (left > 0) this.timer = setTimeout(() => this.next(), left);
    else void this.askWhole(wanted);
  }

  private async askNear(wanted: Wanted, range: BarRange): Promise<void> {
    this.asksNear = true;
    this.nearFor = wanted.conditions;
    try {
      const near = await this.checker.near(wanted.conditions, wanted.passages, range);
      // For another player or tempo nothing holds any more of what was said elsewhere.
      const holds = this.reportFor !== null && isMarkedOnly(this.reportFor, wanted.conditions);
      this.report = withNear(holds ? this.report : null, near);
      if (!holds) this.tempi = null;
      this.reportFor = wanted.conditions;
      this.tell({ report: this.report, whole: false, failed: false, of: wanted });
    } catch {
      // The whole check, which follows, says what is wrong.
    }
    this.asksNear = false;
    this.next();
  }

  private async askWhole(wanted: Wanted): Promise<void> {
    this.asksWhole = true;
    this.wholeFor = wanted;
    try {
      const report = await this.checker.report(wanted.conditions, wanted.passages);
      if (!report) this.wholeFor = null;
      else {
        this.report = report;
        this.reportFor = wanted.conditions;
        this.everWhole = true;
        // Of marks that are history by now: the passage as it is comes first.
        if (this.wanted?.conditions === wanted.conditions || !wanted.range) this.tell({ report, whole: this.wanted === wanted, failed: false, of: wanted });
      }
    } catch {
      this.tell({ report: this.report, whole: false, failed: true, of: wanted });
    }
    this.asksWhole = false;
    this.next();
  }

  private async askTempi(wanted: Wanted): Promise<void> {
    this.asksTempi = true;
    this.tempiFor = wanted;
    try {
      const tempi = await this.checker.tempi(wanted.conditions, wanted.passages);
      // Null where it was given up for something newer.
      if (tempi && this.wanted === wanted) {
        this.tempi = tempi;
        this.tell({ report: this.report, whole: true, failed: false, of: wanted });
      }
    } catch {
      this.tell({ report: this.report, whole: true, failed: true, of: wanted });
    }
    this.asksTempi = false;
    this.next();
  }

  private tell(shown: Omit<CheckShown, 'tempi'>): void {
    if (!this.ended) this.show({ ...shown, tempi: this.tempi });
  }
}
